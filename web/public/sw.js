// Keeps the page and the builds that were open on this device, so that a build sheet opens beside a bench without a network.
// Where there is a network it is asked first, always; who signs out leaves nothing behind.
const PAGE = "krill-page";
const MINE = "krill-mine";
const OF_PAGE = [/^\/$/, /^\/static\//, /^\/favicon\.svg$/, /^\/theme\.js$/];
const OF_MINE = [/^\/api\/session$/, /^\/api\/builds\/[0-9a-f-]{36}$/, /^\/api\/(classes|materials)(\/|$)/];
const within = (patterns, path) => patterns.some((pattern) => pattern.test(path));

self.addEventListener("install", () => self.skipWaiting());
self.addEventListener("activate", (event) => event.waitUntil(self.clients.claim()));
self.addEventListener("fetch", (event) => {
  const { method, url } = event.request;
  const { origin, pathname } = new URL(url);
  if (origin !== self.location.origin) return;
  if (method === "POST" && pathname === "/api/logout") event.waitUntil(caches.delete(MINE));
  if (method !== "GET") return;
  if (within(OF_PAGE, pathname)) event.respondWith(networkFirst(event.request, PAGE));
  else if (within(OF_MINE, pathname)) event.respondWith(networkFirst(event.request, MINE));
});

async function networkFirst(request, name) {
  const cache = await caches.open(name);
  let answer;
  try {
    answer = await fetch(request);
  } catch (gone) {
    const kept = await cache.match(request, { ignoreVary: true });
    if (kept) return kept;
    throw gone;
  }
  if (answer.ok) await cache.put(request, answer.clone());
  else if (name === MINE) await cache.delete(request);
  return answer;
}
