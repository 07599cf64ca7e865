// Keeps the pages of a paired device at hand, so that a note can be begun where nobody answers. What is in the studio is never kept here.
const SHELL = "shell-1";

self.addEventListener("install", (event) => {
  event.waitUntil(caches.open(SHELL).then((c) => c.addAll(["/offline.html", "/device"])).then(() => self.skipWaiting()));
});

self.addEventListener("activate", (event) => {
  const old = (names) => Promise.all(names.filter((n) => n !== SHELL).map((n) => caches.delete(n)));
  event.waitUntil(caches.keys().then(old).then(() => self.clients.claim()));
});

const fromNet = async (request) => {
  const answer = await fetch(request);
  if (answer.ok && !answer.redirected) (await caches.open(SHELL)).put(request, answer.clone());
  return answer;
};

self.addEventListener("fetch", (event) => {
  const { request } = event;
  const { origin, pathname } = new URL(request.url);
  if (request.method !== "GET" || origin !== location.origin || pathname.startsWith("/api/")) return;
  if (pathname.startsWith("/assets/")) {
    // Their names change with what is in them.
    event.respondWith(caches.match(request).then((kept) => kept ?? fromNet(request)));
  } else if (request.mode === "navigate") {
    const kept = async () => (await caches.match("/device")) ?? (await caches.match("/offline.html"));
    event.respondWith(fetch(request).catch(kept));
  }
});
