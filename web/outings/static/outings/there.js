// The page of an outing for one thumb: what is tapped is logged at once, with or without a signal.
(() => {
  const page = document.getElementById("there");
  if (!page) return;
  const log = new OutingLog(page.dataset.key, page.dataset.log);
  const line = document.getElementById("there-line");
  const words = JSON.parse(document.getElementById("there-words").innerHTML);
  const plans = [...page.querySelectorAll(".there-plan")];
  const names = new Map(plans.map((plan) => [Number(plan.dataset.item), plan.dataset.name]));
  const AGAIN = 30 * 1000; // ms between tries to send
  const RESETS = ["checked", "knocked", "moved"];
  const ASKS = ["knocked", "moved"];
  let at = 0;
  let state = navigator.onLine ? "" : "off-line";

  const two = (number) => String(number).padStart(2, "0");
  const clock = (date) => `${two(date.getHours())}:${two(date.getMinutes())}`;
  const here = () => (plans.length ? Number(plans[at].dataset.item) : null);

  function show() {
    plans.forEach((plan, place) => {
      const item = Number(plan.dataset.item);
      plan.hidden = place !== at;
      plan.querySelector(".there-done").hidden = !log.last(`done:${item}`);
      for (const word of plan.querySelectorAll(".there-word")) {
        const last = log.last(`check:${item}:${word.dataset.end}`);
        word.setAttribute("aria-pressed", String(last?.says.word === word.dataset.says));
      }
    });
    document.getElementById("there-both").hidden = log.both.size === 0;
    list();
    remind();
    say();
  }

  function list() {
    const entries = log.standing.filter((one) => one.what !== "settled").reverse();
    const waiting = new Set(log.waiting.map((one) => one.key));
    document.getElementById("there-none").hidden = entries.length > 0;
    page.querySelector("[data-undo]").hidden = entries.length === 0;
    page.querySelector("[data-save]").hidden = waiting.size === 0 || state === "";
    document.getElementById("there-list").replaceChildren(...entries.slice(0, 60).map((one) => {
      const row = document.createElement("li");
      const { end, word, text, differed, judged, was } = one.says;
      const said = [end && `${end}: ${word}`, text, differed, judged && `${judged}, was ${was}`].filter(Boolean).join(" ");
      const time = Object.assign(document.createElement("time"), { textContent: clock(new Date(one.at)), dateTime: one.at });
      const what = Object.assign(document.createElement("span"), { textContent: `${words[one.what]}${said ? `: ${said}` : ""} ` });
      what.append(Object.assign(document.createElement("small"), { textContent: names.get(one.item) ?? "" }));
      const about = [log.both.has(one.key) && "another device says otherwise", waiting.has(one.key) && "not sent"];
      const note = Object.assign(document.createElement("small"), { textContent: about.filter(Boolean).join(", ") });
      row.classList.toggle("both", log.both.has(one.key));
      row.append(time, what, note);
      return row;
    }));
  }

  // When to check again: by minutes, frames or waves since the last check, whichever comes first.
  function remind() {
    const limits = page.dataset;
    const place = document.getElementById("there-again");
    const entries = log.standing.filter((one) => one.item === here() || one.item === null || ["wave", "knocked", "moved"].includes(one.what));
    const from = entries.findLastIndex((one) => RESETS.includes(one.what));
    const since = entries.slice(from + 1);
    const checked = from >= 0 && entries[from].what === "checked";
    const shaken = from >= 0 && ASKS.includes(entries[from].what);
    const begun = checked ? entries[from].at : since.find((one) => one.what === "taken")?.at;
    const minutes = begun ? (Date.now() - Date.parse(begun)) / 60000 : 0;
    const count = (what) => since.filter((one) => one.what === what).length;
    const over = [
      Number(limits.minutes) > 0 && minutes >= Number(limits.minutes) && `${Math.floor(minutes)} minutes`,
      Number(limits.frames) > 0 && count("taken") >= Number(limits.frames) && `${count("taken")} frames`,
      Number(limits.waves) > 0 && count("wave") >= Number(limits.waves) && `${count("wave")} waves`,
    ].filter(Boolean);
    let text = "";
    if (shaken) text = entries[from].what === "moved" ? "The camera moved: check again." : "The ring may have been knocked: check again.";
    else if (over.length) text = `Check again: ${over[0]} since ${checked ? "the last check" : "the first frame"}.`;
    place.hidden = !text;
    if (place.textContent !== text) place.textContent = text;
  }

  function say() {
    const count = log.waiting.length;
    const kept = `${count} kept on this device`;
    const said = {
      full: "No room on this device: that was not kept. Write it down.",
      gone: `This outing was deleted. ${count ? `${kept}: save them as a file.` : "Nothing is lost of it here."}`,
      refused: `${kept}, refused: ${Object.values(log.refused ?? {})[0] ?? ""}`,
    }[state];
    line.textContent = said ?? (count ? `${kept}, not sent yet` : state === "off-line" ? "no signal" : "all sent");
  }

  async function send() {
    const said = await log.send();
    if (said && state !== "full") state = said === "sent" ? "" : said;
    show();
  }

  function add(...entry) {
    try {
      log.add(...entry);
      if (state === "full") state = "";
      if (navigator.vibrate) navigator.vibrate(30);
    } catch {
      state = "full";
      show();
      return false;
    }
    show();
    send();
    return true;
  }

  function go(step) {
    if (!plans.length) return;
    at = (at + step + plans.length) % plans.length;
    show();
  }

  function tap(button) {
    const what = button.dataset.log;
    const item = here();
    if (what === "checked") {
      const { end, says } = button.dataset;
      add(what, item, { end, word: says }, `check:${item}:${end}`);
    } else if (what === "taken") {
      const differed = document.getElementById("there-differed");
      if (add(what, item, differed.value.trim() ? { differed: differed.value.trim() } : {})) differed.value = "";
    } else if (what === "done") {
      if (add(what, item, {}, `done:${item}`)) go(1);
    } else {
      add(what, ["wave", "wiped", "clock"].includes(what) ? null : item, {});
    }
  }

  function undo() {
    const last = log.standing.filter((one) => one.what !== "settled").at(-1);
    if (last) add("undone", last.item, { of: last.key });
  }

  function save() {
    const blob = new Blob([JSON.stringify(log.waiting, null, 1)], { type: "application/json" });
    const link = Object.assign(document.createElement("a"), { href: URL.createObjectURL(blob), download: "log.json" });
    link.click();
    URL.revokeObjectURL(link.href);
  }

  page.addEventListener("click", (event) => {
    const button = event.target.closest("button");
    if (!button) return;
    if (button.dataset.log) tap(button);
    else if (button.dataset.go) go(Number(button.dataset.go));
    else if ("undo" in button.dataset) undo();
    else if ("save" in button.dataset) save();
    else if (button.dataset.open) {
      const form = document.getElementById(button.dataset.open);
      form.hidden = !form.hidden;
      if (!form.hidden) form.querySelector("textarea").focus();
    }
  });

  document.getElementById("there-note").addEventListener("submit", (event) => {
    event.preventDefault();
    const text = document.getElementById("there-text");
    if (!text.value.trim() || !add("note", here(), { text: text.value.trim() })) return;
    text.value = "";
    event.target.hidden = true;
  });

  document.getElementById("there-judged").addEventListener("submit", (event) => {
    event.preventDefault();
    const { judged, was } = event.target.elements;
    const whole = judged.value.trim() && was.value.trim();
    event.target.querySelector(".message").textContent = whole ? "" : "Give both: as you judged it, and as it was.";
    if (whole && add("judged", here(), { judged: judged.value.trim(), was: was.value.trim() })) event.target.reset();
  });

  document.addEventListener("keydown", (event) => {
    if (isTyping(event.target) || event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === "f") tap(page.querySelector("[data-log=taken]"));
    else if (event.key === "n") go(1);
    else if (event.key === "p") go(-1);
    else if (event.key === "z") undo();
  });

  function tick() {
    const now = new Date();
    document.getElementById("there-time").textContent = `${clock(now)}:${two(now.getSeconds())}`;
  }

  setInterval(tick, 250);
  setInterval(send, AGAIN);
  setInterval(remind, AGAIN);
  addEventListener("online", send);
  addEventListener("offline", () => {
    state = "off-line";
    show();
  });
  const open = plans.findIndex((plan) => !log.last(`done:${plan.dataset.item}`));
  at = Math.max(open, 0);
  tick();
  show();
  send();
  carryAlong();
})();
