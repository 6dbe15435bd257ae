// What goes along works without a signal: what was taken along, and what was opened for the way.
// Anything else gives a page that says so and lists what is here: no white page out in the dark.
const OPENED = "aim-pages-1"; // pages as they were opened, and the styles and scripts of all
const ALONG = "aim-along-1"; // what was taken along
const OFF_LINE = "/off-line/";
const AT = "/cards/at/";
const INDEX = "/along/index.json";
const LIGHT = "/along/light";
const LASTING = /^\/(bundle|static|drills\/seen)\//;
const MADE = /^\/(bundle|drills\/seen)\//; // those of them of which there are ever new ones
const CARRIED = /\/(walk|card|field|practice|there|drills)\/$/;
const MOST = 60;
const AGAIN = 10 * 60 * 1000; // ms after which what is along is fetched anew

// One after another, so that none tidies away what the other has just put there for a page to come.
let last = Promise.resolve();
function inTurn(work) {
  const done = last.then(work);
  last = done.catch(() => {});
  return done;
}

// A page of steps is the same page at every step.
function named(address) {
  const url = new URL(address, self.location);
  url.searchParams.delete("step");
  url.hash = "";
  return url.href;
}

// Whether a page came to its end: a line that dies may send a part of one, or nothing, as if it were all.
const isWhole = (text) => /<\/html>\s*$/.test(text);

// The styles and scripts that a page needs, and the faces that those name.
async function needs(text) {
  const found = [...text.matchAll(/(?:href|src)="(\/(?:bundle|static|drills\/seen)\/[^"]+)"/g)].map((m) => m[1]);
  const cache = await caches.open(OPENED);
  const all = new Set(found);
  for (const one of found.filter((name) => name.endsWith(".css"))) {
    const answer = (await cache.match(one)) || (await fetch(one));
    if (!answer.ok) continue;
    for (const [, face] of (await answer.clone().text()).matchAll(/url\(["']?(\/[^"')]+)/g)) all.add(face);
  }
  return [...all];
}

async function addAll(addresses) {
  const cache = await caches.open(OPENED);
  for (const one of addresses) if (!(await cache.match(one))) await cache.add(one);
}

async function keep(address, response) {
  const cache = await caches.open(OPENED);
  await cache.put(address, response);
  const kept = await cache.keys();
  const pages = kept.filter((one) => CARRIED.test(new URL(one.url).pathname));
  for (const old of pages.slice(0, Math.max(pages.length - MOST, 0))) await cache.delete(old);
}

// A page, with what it needs, among those that were opened.
async function take(address) {
  const page = await fetch(address);
  if (!page.ok || page.redirected) return;
  const text = await page.clone().text();
  if (!isWhole(text)) return;
  await addAll(await needs(text));
  await keep(named(address), page);
}

// Taken along ------------------------------------------------------------------------------

async function index() {
  const cache = await caches.open(ALONG);
  const found = await cache.match(INDEX);
  return found ? found.json() : [];
}

async function put(entries) {
  const cache = await caches.open(ALONG);
  const headers = { "Content-Type": "application/json" };
  await cache.put(INDEX, new Response(JSON.stringify(entries), { headers }));
}

// All pages of a thing or none: fetched first, and put away when all are there.
async function takeAlong(thing) {
  const pages = [];
  let bytes = 0;
  for (const [, address] of thing.pages) {
    const page = await fetch(address, { headers: { "Aim-Along": "1" } });
    if (!page.ok) throw new Error(page.status === 404 ? "gone" : "line");
    const text = await page.clone().text();
    if (!isWhole(text)) throw new Error("line");
    bytes += new Blob([text]).size;
    pages.push([named(address), page, await needs(text)]);
  }
  const cache = await caches.open(ALONG);
  const done = [];
  try {
    for (const [address, page, needed] of pages) {
      await addAll(needed);
      done.push(address);
      await cache.put(address, page);
    }
    const rest = (await index()).filter((one) => one.key !== thing.key);
    await put([...rest, { ...thing, bytes, taken: new Date().toISOString() }]);
  } catch (error) {
    const before = (await index()).some((one) => one.key === thing.key);
    if (!before) for (const address of done) await cache.delete(address);
    throw new Error(error.name === "QuotaExceededError" ? "full" : "line");
  }
  return bytes;
}

async function leave(key) {
  const cache = await caches.open(ALONG);
  const entries = await index();
  const rest = entries.filter((one) => one.key !== key);
  const still = new Set(rest.flatMap((one) => one.pages.map(([, page]) => named(page))));
  for (const [, page] of entries.find((one) => one.key === key)?.pages ?? []) {
    if (!still.has(named(page))) await cache.delete(named(page));
  }
  await put(rest);
}

// With a line again, what is along is fetched anew; what is gone there stays here, and says so.
async function refresh() {
  await take(OFF_LINE);
  await take(AT);
  for (const thing of await index()) {
    if (Date.now() - Date.parse(thing.taken) < AGAIN) continue;
    try {
      await takeAlong(thing);
    } catch (error) {
      if (error.message !== "gone") return;
      const rest = (await index()).filter((one) => one.key !== thing.key);
      await put([...rest, { ...thing, gone: true }]);
    }
  }
  await tidy();
}

// Styles and scripts of which no page here knows any more.
async function tidy() {
  const opened = await caches.open(OPENED);
  const there = await opened.keys(); // before the pages are looked at: what comes meanwhile stays
  const needed = new Set();
  for (const name of [OPENED, ALONG]) {
    const cache = await caches.open(name);
    for (const one of await cache.keys()) {
      if (LASTING.test(new URL(one.url).pathname)) continue;
      const text = await (await cache.match(one)).clone().text();
      for (const [, file] of text.matchAll(/(?:href|src)="(\/(?:bundle|drills\/seen)\/[^"]+)"/g)) needed.add(file);
    }
  }
  for (const one of there) {
    const path = new URL(one.url).pathname;
    if (MADE.test(path) && !needed.has(path)) await opened.delete(one);
  }
}

// Who signs out, or in, leaves nothing of anybody's on the device.
async function forget() {
  const cache = await caches.open(OPENED);
  for (const one of await cache.keys()) {
    if (CARRIED.test(new URL(one.url).pathname)) await cache.delete(one);
  }
  await caches.delete(ALONG);
}

// Without a line ----------------------------------------------------------------------------

// A page that is here, in the light that this device is in now, and saying since when it is here.
async function lit(page) {
  const cache = await caches.open(OPENED);
  const said = await cache.match(LIGHT);
  const light = said ? await said.text() : "";
  const taken = page.headers.get("date") || "";
  let text = await page.text();
  if (light) text = text.replace(/data-light="\w*"/, `data-light="${light}"`);
  text = text.replace("</title>", `</title><meta name="taken" content="${taken}">`);
  return new Response(text, { status: 200, headers: page.headers });
}

async function here(address) {
  const url = new URL(address);
  const loose = { ignoreSearch: url.pathname === AT };
  for (const name of [ALONG, OPENED]) {
    const cache = await caches.open(name);
    const found = (await cache.match(named(address), loose)) || (await withoutSearch(cache, url));
    if (found) return lit(found);
  }
  const cache = await caches.open(OPENED);
  const off = await cache.match(OFF_LINE);
  return off ? lit(off) : Response.error();
}

// What is kept opens as it was kept, whatever its address says besides.
async function withoutSearch(cache, url) {
  return /\/\d+\//.test(url.pathname) ? cache.match(url.origin + url.pathname) : undefined;
}

async function page(request) {
  const carried = CARRIED.test(new URL(request.url).pathname);
  try {
    const answer = await fetch(request);
    if (carried && answer.ok && !answer.redirected) {
      if (!isWhole(await answer.clone().text())) return here(request.url);
      await keep(named(request.url), answer.clone()).catch(() => {}); // no room: opened all the same
      if (/^\/drills\//.test(new URL(request.url).pathname)) inTurn(tidy); // the pictures of the last time go
    }
    return answer;
  } catch {
    return here(request.url);
  }
}

async function lasting(request) {
  const cache = await caches.open(OPENED);
  const found = await cache.match(request);
  if (found) return found;
  const answer = await fetch(request);
  if (answer.ok) await cache.put(request, answer.clone()).catch(() => {});
  return answer;
}

self.addEventListener("install", (event) => {
  event.waitUntil(inTurn(() => take(OFF_LINE).then(() => take(AT))).then(() => self.skipWaiting()));
});

// Pages that are open are this worker's from now on, and those for out there are kept.
async function claim() {
  await self.clients.claim();
  const open = await self.clients.matchAll({ includeUncontrolled: true });
  for (const one of open) if (CARRIED.test(new URL(one.url).pathname)) await inTurn(() => take(one.url));
}

self.addEventListener("activate", (event) => {
  const clean = async () => {
    for (const name of await caches.keys()) {
      if (name !== OPENED && name !== ALONG) await caches.delete(name);
    }
    await claim();
  };
  event.waitUntil(clean());
});

self.addEventListener("message", (event) => {
  const { ask, thing, light } = event.data;
  const answer = (said) => event.ports[0]?.postMessage(said);
  const doing = {
    take: () => inTurn(() => takeAlong(thing)).then((bytes) => answer({ bytes })),
    leave: () => inTurn(() => leave(thing.key)).then(() => answer({})),
    claim: () => claim().then(() => answer({})),
    refresh: () => inTurn(refresh).then(() => answer({})),
    light: async () => (await caches.open(OPENED)).put(LIGHT, new Response(light)),
  }[ask];
  if (doing) event.waitUntil(doing().catch((error) => answer({ wrong: error.message })));
});

self.addEventListener("fetch", (event) => {
  const url = new URL(event.request.url);
  if (url.origin !== self.location.origin) return;
  if (event.request.method !== "GET") {
    if (/^\/you\/(sign-out|sign-in|delete)\/$/.test(url.pathname)) {
      event.waitUntil(forget().then(() => inTurn(forget))); // and what is just being put there
    }
    return;
  }
  if (event.request.mode === "navigate") event.respondWith(page(event.request));
  else if (LASTING.test(url.pathname)) event.respondWith(lasting(event.request));
});
