/* global location, localStorage, fetch, window, document */
// The first and smallest of the page's scripts: whose rail it is, and the rail, are asked for while the others are on their way.
// The rail behind the session: what changes after the session's moment is told to the page.
const known = document.querySelector("meta[name=felloe-known]")?.content;
if (known && location.pathname === "/") {
  const language = localStorage.getItem("felloe.language");
  const ask = (path) => fetch(path, language ? { headers: { "Accept-Language": language } } : {});
  const session = ask("/api/v1/session");
  const then = (path) =>
    session.then((found) => (found.ok ? ask(path) : Promise.reject(new Error("nobody"))));
  window.felloeAhead = {
    "/api/v1/session": session,
    "/api/v1/rail": then("/api/v1/rail"),
    "/api/v1/trade": then("/api/v1/trade"),
  };
  for (const asked of Object.values(window.felloeAhead)) asked.catch(() => undefined);
}
