// What was opened for the way opens again without a signal: steps, and cards. Anything else gives a
// plain page that says so, red on black: no white page out in the dark.
const KEPT = "aim-pages-1";
const OFF_LINE = "/off-line/";
const LASTING = /^\/(bundle|static)\//;
const CARRIED = /\/(walk|card)\/$/;
const MOST = 60;

// A page of steps is the same page at every step.
function named(address) {
  const url = new URL(address);
  url.searchParams.delete("step");
  url.hash = "";
  return url.href;
}

async function keep(address, response) {
  const cache = await caches.open(KEPT);
  await cache.put(address, response);
  const kept = await cache.keys();
  const pages = kept.filter((one) => CARRIED.test(new URL(one.url).pathname));
  for (const old of pages.slice(0, Math.max(pages.length - MOST, 0))) await cache.delete(old);
}

// A page, with the styles and scripts that it needs.
async function take(address) {
  const cache = await caches.open(KEPT);
  const page = await fetch(address);
  if (!page.ok || page.redirected) return;
  const text = await page.clone().text();
  const needed = [...text.matchAll(/(?:href|src)="(\/bundle\/[^"]+)"/g)].map((one) => one[1]);
  await cache.addAll(needed);
  await keep(named(new URL(address, self.location).href), page);
}

async function page(request) {
  const carried = CARRIED.test(new URL(request.url).pathname);
  try {
    const answer = await fetch(request);
    if (carried && answer.ok && !answer.redirected) {
      await keep(named(request.url), answer.clone());
    }
    return answer;
  } catch {
    const cache = await caches.open(KEPT);
    const found = carried && (await cache.match(named(request.url)));
    return found || (await cache.match(OFF_LINE)) || Response.error();
  }
}

async function lasting(request) {
  const cache = await caches.open(KEPT);
  const found = await cache.match(request);
  if (found) return found;
  const answer = await fetch(request);
  if (answer.ok) await cache.put(request, answer.clone());
  return answer;
}

// Who signs out leaves nothing of theirs on the device.
async function forget() {
  const cache = await caches.open(KEPT);
  for (const one of await cache.keys()) {
    if (CARRIED.test(new URL(one.url).pathname)) await cache.delete(one);
  }
}

self.addEventListener("install", (event) => {
  event.waitUntil(take(OFF_LINE).then(() => self.skipWaiting()));
});

self.addEventListener("activate", (event) => {
  const clean = async () => {
    for (const name of await caches.keys()) if (name !== KEPT) await caches.delete(name);
    await self.clients.claim();
    const open = await self.clients.matchAll({ includeUncontrolled: true });
    for (const one of open) if (CARRIED.test(new URL(one.url).pathname)) await take(one.url);
  };
  event.waitUntil(clean());
});

self.addEventListener("fetch", (event) => {
  const url = new URL(event.request.url);
  if (url.origin !== self.location.origin) return;
  if (event.request.method !== "GET") {
    if (/\/(sign-out|sign-in|delete)\/$/.test(url.pathname)) event.waitUntil(forget());
    return;
  }
  if (event.request.mode === "navigate") event.respondWith(page(event.request));
  else if (LASTING.test(url.pathname)) event.respondWith(lasting(event.request));
});
