// Taking along, one tap each: what is on this device, how old and how large it is, and the list of
// it that opens without a signal.
(() => {
  const INDEX = "/along/index.json";
  const WRONG = {
    full: "No room left on this device: nothing was kept of it.",
    gone: "It is not there any more.",
    line: "The line broke off: nothing was kept of it. Try again.",
  };
  const able = "serviceWorker" in navigator && "caches" in window;

  async function index() {
    if (!able) return [];
    const found = await (await caches.open("aim-along-1")).match(INDEX);
    return found ? found.json() : [];
  }

  // Asks the worker, and waits for what it says.
  async function asked(ask, thing) {
    const { active } = await navigator.serviceWorker.ready;
    return new Promise((done) => {
      const line = new MessageChannel();
      line.port1.onmessage = (event) => done(event.data);
      active.postMessage({ ask, thing }, [line.port2]);
    });
  }

  function size(bytes) {
    return bytes < 1e6 ? `${Math.max(1, Math.round(bytes / 1000))} kB` : `${(bytes / 1e6).toFixed(1)} MB`;
  }

  function age(taken) {
    const minutes = (Date.now() - Date.parse(taken)) / 60000;
    if (minutes < 60) return "just now";
    const [n, unit] = minutes < 48 * 60 ? [Math.round(minutes / 60), "hour"] : [Math.round(minutes / 1440), "day"];
    return `${n} ${unit}${n === 1 ? "" : "s"} ago`;
  }

  const thingOf = (button) => ({
    key: button.dataset.along,
    name: button.dataset.name,
    noun: button.dataset.noun,
    pages: JSON.parse(button.dataset.pages),
  });

  async function show() {
    const here = new Map((await index()).map((one) => [one.key, one]));
    for (const button of document.querySelectorAll("button[data-along]")) {
      const found = here.get(button.dataset.along);
      button.hidden = !able;
      button.setAttribute("aria-pressed", String(found !== undefined));
      button.textContent = found
        ? `On this device, ${size(found.bytes)}, ${age(found.taken)}`
        : `Take along, about ${button.dataset.about} kB`;
      button.setAttribute("aria-label", `${button.dataset.name}: ${button.textContent}`);
      button.title = found ? "Press to take it off this device" : "";
    }
    const all = document.querySelector("button[data-along-all]");
    if (all) {
      const rest = document.querySelectorAll("button[data-along][aria-pressed=false]").length;
      all.hidden = !able || rest === 0;
      all.textContent = `Take all ${rest} along`;
    }
    const unable = document.getElementById("along-unable");
    if (unable) unable.hidden = able;
  }

  function say(text) {
    const place = document.getElementById("along-says");
    if (place) place.textContent = text;
  }

  async function take(button) {
    button.disabled = true;
    button.textContent = "Taking along…";
    const said = await asked("take", thingOf(button));
    button.disabled = false;
    if (said.wrong) say(`${button.dataset.name}: ${WRONG[said.wrong] ?? WRONG.line}`);
    return !said.wrong;
  }

  document.addEventListener("click", async (event) => {
    const button = event.target.closest("button[data-along], button[data-along-all]");
    if (!button) return;
    say("");
    if ("alongAll" in button.dataset) {
      for (const one of document.querySelectorAll("button[data-along][aria-pressed=false]")) {
        if (!(await take(one))) break;
        await show();
      }
    } else if (button.getAttribute("aria-pressed") === "true") {
      await asked("leave", thingOf(button));
    } else {
      const strip = document.querySelector("button[data-along][data-strip][aria-pressed=false]");
      if ((await take(button)) && strip && strip !== button) await take(strip);
    }
    await show();
  });

  // The list on a page that came without a signal, and what to find in it.
  async function list() {
    const place = document.getElementById("along-list");
    if (!place) return;
    const entries = (await index()).sort((a, b) => a.name.localeCompare(b.name));
    const words = (document.getElementById("along-find")?.value ?? "").toLowerCase().split(/\s+/);
    const found = entries.filter((one) => words.every((word) => `${one.name} ${one.noun}`.toLowerCase().includes(word)));
    place.replaceChildren(...found.map((one) => {
      const item = document.createElement("li");
      const name = Object.assign(document.createElement("b"), { textContent: one.name });
      const about = `${one.noun}, taken ${age(one.taken)}${one.gone ? ", deleted since" : ""}`;
      const note = Object.assign(document.createElement("small"), { textContent: about });
      const ways = Object.assign(document.createElement("span"), { className: "along-ways" });
      for (const [label, address] of one.pages) {
        const link = Object.assign(document.createElement("a"), { href: address, textContent: label });
        link.setAttribute("aria-label", `${label} of ${one.name}`);
        ways.append(link);
      }
      item.append(name, " ", note, ways);
      return item;
    }));
    document.getElementById("along-none").hidden = entries.length > 0;
    document.getElementById("along-nothing").hidden = entries.length === 0 || found.length > 0;
    document.getElementById("along-search").hidden = entries.length < 2;
  }

  document.getElementById("along-find")?.addEventListener("input", list);
  carryAlong();
  show();
  list();
  if (able && navigator.onLine) navigator.serviceWorker.ready.then(() => asked("refresh")).then(show).then(list);
})();
