/** Have the application kept on this tablet, once the page has its work behind it. */
export function keepApplication(): void {
  if (!import.meta.env.PROD || !("serviceWorker" in navigator)) return;
  const register = () => void navigator.serviceWorker.register("/sw.js").catch(() => undefined);
  if (document.readyState === "complete") register();
  else window.addEventListener("load", register, { once: true });
}
