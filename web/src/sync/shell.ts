/** The application on the device: kept by a worker for when there is no signal, with what this person has read. */

/** What every day begins with: read once more as soon as the worker keeps answers. */
const FIRST = ["/api/v1/session", "/api/v1/worklist", "/api/v1/apiaries?sort=by", "/api/v1/apiary-places"];

/** Lets the device keep the application, once the page has all it needs itself; then `readAgain` what it shows. */
export function keepShell(readAgain: () => void): void {
  if (!("serviceWorker" in navigator) || !import.meta.env.PROD) return;
  navigator.serviceWorker.addEventListener("controllerchange", () => {
    // Read to its end: an answer that nobody reads holds its connection.
    for (const address of FIRST)
      void fetch(address)
        .then((response) => response.text())
        .catch(() => undefined);
    readAgain();
  });
  const register = () => void navigator.serviceWorker.register("/service-worker.js").catch(() => undefined);
  if (document.readyState === "complete") register();
  else window.addEventListener("load", register);
}
