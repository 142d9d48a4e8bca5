// Where the program does not answer, a page says so in place of the browser's own.
const kept = 'fair-tangle';
self.addEventListener('install', (e) => {
  e.waitUntil(caches.open(kept).then((c) => c.add(new Request('/away', { cache: 'reload' }))).then(() => self.skipWaiting()));
});
self.addEventListener('activate', (e) => { e.waitUntil(self.clients.claim()); });
self.addEventListener('fetch', (e) => {
  if (e.request.mode !== 'navigate' || e.request.method !== 'GET') return;
  e.respondWith(fetch(e.request).catch(() => caches.match('/away')));
});
