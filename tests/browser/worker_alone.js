// The worker by itself, with caches and a line made up: the scripts of a page come late. While they are
// on their way it is asked to refresh (what does a kept page lack afterwards?), or somebody signs out
// who was just taking that page along (what is left of it?). Or the line dies and sends nothing as if it
// were the page (what is seen, and what is kept?).
const [scene, done] = arguments;
const walk = `${location.origin}/sky/walk/?way=star`;
const heard = {};
const self = {
  location,
  addEventListener: (name, work) => { heard[name] = work; },
  clients: { claim: async () => {}, matchAll: async () => [{ url: walk }] },
};
let dying = false;
const fetch = async (one) => {
  const address = one.url ?? one;
  await new Promise((then) => setTimeout(then, /\.js$/.test(address) ? 150 : 1));
  if (dying) return new Response("");
  const needed = '<link href="/bundle/0/walk.css"><script src="/bundle/0/walk.js"></script>';
  return new Response(address === walk ? `${needed}</html>` : "");
};
const made = {};
const store = () => {
  const held = new Map();
  const name = (one) => new URL(one.url ?? one, location).href;
  const put = async (one, answer) => { held.set(name(one), await answer.text()); };
  return {
    put,
    add: async (one) => put(one, await fetch(one)),
    match: async (one) => (held.has(name(one)) ? new Response(held.get(name(one))) : undefined),
    keys: async () => [...held.keys()].map((url) => ({ url })),
    delete: async (one) => held.delete(name(one)),
  };
};
const caches = {
  open: async (name) => (made[name] ??= store()),
  keys: async () => Object.keys(made),
  delete: async (name) => delete made[name],
};
/* WORKER */
const ask = (what, thing) =>
  new Promise((then) => {
    heard.message({ data: { ask: what, thing }, ports: [], waitUntil: (work) => work.then(then) });
  });
const signOut = () =>
  new Promise((then) => {
    const request = { method: "POST", url: `${location.origin}/you/sign-out/` };
    heard.fetch({ request, waitUntil: (work) => work.then(then) });
  });
const scenes = {
  async tidied() {
    await Promise.all([ask("claim"), ask("refresh")]);
    const cache = await caches.open("aim-pages-1");
    const needed = [walk, "/bundle/0/walk.css", "/bundle/0/walk.js"];
    const found = await Promise.all(needed.map((one) => cache.match(one)));
    return needed.filter((one, at) => !found[at]);
  },
  async left() {
    const taken = ask("take", { key: "kept-1", pages: [["Plan", walk]] });
    await new Promise((then) => setTimeout(then, 30));
    await Promise.all([taken, signOut()]);
    const there = await (await caches.open("aim-along-1")).keys();
    return there.map((one) => one.url);
  },
  async died() {
    await ask("claim");
    dying = true;
    const request = { method: "GET", mode: "navigate", url: walk };
    const seen = await new Promise((then) => heard.fetch({ request, respondWith: then }));
    const kept = await (await caches.open("aim-pages-1")).match(walk);
    return [await seen.text(), await kept.text()].filter((text) => !text.includes("walk.js"));
  },
};
scenes[scene]().then(done);
