// Lets a group's bench be opened again while the network is away. The page names what it is made of; that is kept, and
// given out when the network does not answer. Nothing is ever sent from here: readings wait in the page's own store.
const SHELL = "pipette-shell-1";
const DATA = "pipette-bench-1";
const KEPT_DATA = ["/api/bench", "/api/bench/packs", "/api/bench/notebook", "/api/who", "/api/materials"];
/** Belongs to nobody, so it stays when a group leaves. */
const PRACTISE = "/api/practise";
const PATIENCE_MS = 4000;
let forgotten = false; // a group has left: what is still on its way is not kept
let toldAt = 0; // when a stream last brought the bench

self.addEventListener("install", () => self.skipWaiting());

self.addEventListener("activate", (event) => {
  const mine = [SHELL, DATA];
  event.waitUntil(
    caches
      .keys()
      .then((names) => Promise.all(names.filter((name) => !mine.includes(name)).map((name) => caches.delete(name))))
      .then(() => self.clients.claim()),
  );
});

/** Keep a file that is not kept yet; files are named by their content, so what is kept stays right. */
async function keep(url) {
  const cache = await caches.open(SHELL);
  if (!(await cache.match(url))) {
    const answer = await fetch(url);
    if (answer.ok && !forgotten) await cache.put(url, answer);
  }
}

self.addEventListener("message", (event) => {
  const { keep: urls, forget, told } = event.data ?? {};
  if (told) {
    // The bench as a stream has brought it: newer than what was last fetched.
    toldAt = performance.now();
    const answer = new Response(told, { headers: { "Content-Type": "application/json" } });
    return event.waitUntil(store("/api/bench", answer));
  }
  forgotten = Boolean(forget);
  const begun = performance.now();
  if (forget) event.waitUntil(caches.delete(DATA));
  if (urls)
    event.waitUntil(
      Promise.allSettled([
        ...urls.map(keep),
        fetch("/bench").then(async (answer) => answer.ok && (await caches.open(SHELL)).put("/bench", answer)),
        ...KEPT_DATA.map((path) => fetch(path).then((answer) => store(path, answer, begun))),
        fetch(PRACTISE).then((answer) => storePractise(answer)),
      ]),
    );
});

/** Keep an answer, asked for at `begun`; what was asked for before a stream brought the bench is older than that. */
async function store(path, answer, begun = Infinity) {
  if (path === "/api/bench" && answer.ok && begun < toldAt) return answer;
  if (answer.ok && !forgotten) await (await caches.open(DATA)).put(path, answer.clone());
  else if (answer.status === 401) await caches.delete(DATA);
  return answer;
}

async function storePractise(answer) {
  if (answer.ok) await (await caches.open(SHELL)).put(PRACTISE, answer.clone());
  return answer;
}

const late = () => new Promise((_, refuse) => setTimeout(() => refuse(new Error("late")), PATIENCE_MS));

/** What the network says; what is kept when it says nothing in time. */
async function networkFirst(request, cacheName, key, put) {
  const network = fetch(request);
  try {
    return await Promise.race([network.then(put), late()]); // what comes too late for this page is kept for the next
  } catch {
    const kept = await (await caches.open(cacheName)).match(key);
    return kept ?? network;
  }
}

self.addEventListener("fetch", (event) => {
  const { request } = event;
  const { origin, pathname } = new URL(request.url);
  const begun = performance.now();
  if (request.method !== "GET" || origin !== self.location.origin) return;
  if (pathname.startsWith("/static/"))
    event.respondWith(caches.match(request, { cacheName: SHELL }).then((kept) => kept ?? fetch(request)));
  else if (KEPT_DATA.includes(pathname))
    event.respondWith(networkFirst(request, DATA, pathname, (answer) => store(pathname, answer, begun)));
  else if (pathname === PRACTISE) event.respondWith(networkFirst(request, SHELL, PRACTISE, storePractise));
  else if (request.mode === "navigate" && (pathname === "/" || /^\/(bench|practise)/.test(pathname)))
    event.respondWith(networkFirst(request, SHELL, "/bench", async (answer) => answer));
});
