/** The page kept on this device: without a network a build that was open here still opens. */
type Policy = { createScriptURL: (url: string) => string };
type Policies = { createPolicy: (name: string, rules: Policy) => Policy };

const WORKER = "/sw.js";

/** Let the worker keep what is opened, where the browser allows one. */
export function keepPage(): void {
  if (!("serviceWorker" in navigator) || !import.meta.env.PROD) return;
  const policies = (window as { trustedTypes?: Policies }).trustedTypes;
  const address = policies?.createPolicy("krill-worker", { createScriptURL: (url) => url }).createScriptURL(WORKER);
  // a browser that refuses it loses nothing but that
  navigator.serviceWorker.register(address ?? WORKER).catch(() => undefined);
}
