// The worker by itself, with caches and a line made up: the scripts of a page come late, and while
// they are on their way it is asked to refresh. What a kept page lacks afterwards.
const done = arguments[0];
const walk = `${location.origin}/sky/walk/?way=star`;
const heard = {};
const self = {
  location,
  addEventListener: (name, work) => { heard[name] = work; },
  clients: { claim: async () => {}, matchAll: async () => [{ url: walk }] },
};
const fetch = async (one) => {
  await new Promise((then) => setTimeout(then, /\.js$/.test(one) ? 150 : 1));
  const needed = '<link href="/bundle/0/walk.css"><script src="/bundle/0/walk.js"></script>';
  return new Response(one === walk ? needed : "");
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
const ask = (what) =>
  new Promise((then) => {
    heard.message({ data: { ask: what }, ports: [], waitUntil: (work) => work.then(then) });
  });
Promise.all([ask("claim"), ask("refresh")]).then(async () => {
  const cache = await caches.open("aim-pages-1");
  const lacking = [];
  for (const one of [walk, "/bundle/0/walk.css", "/bundle/0/walk.js"]) {
    if (!(await cache.match(one))) lacking.push(one);
  }
  done(lacking);
});
