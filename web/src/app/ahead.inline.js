/* global location, localStorage, fetch, window, document, CHUNKS_OF_THE_RAIL */
// Stands in the page itself: whose rail it is, and the rail, are asked for while the scripts are still on their way.
// The rail behind the session: what changes after the session's moment is told to the page.
if (location.pathname === "/") {
  const language = localStorage.getItem("felloe.language");
  const ask = (path) => fetch(path, language ? { headers: { "Accept-Language": language } } : {});
  const session = ask("/api/v1/session");
  const rail = session.then((found) =>
    found.ok ? ask("/api/v1/rail") : Promise.reject(new Error("nobody")),
  );
  window.felloeAhead = { "/api/v1/session": session, "/api/v1/rail": rail };
  for (const asked of [session, rail]) asked.catch(() => undefined);
  for (const href of CHUNKS_OF_THE_RAIL)
    document.head.append(
      Object.assign(document.createElement("link"), { rel: "modulepreload", crossOrigin: "", href }),
    );
}
