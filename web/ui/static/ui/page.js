// What every page does by itself: the light, and the help panel.
document.addEventListener("alpine:init", () => {
  Alpine.data("page", () => ({
    // Without a request, and so without a flash of white in the dark.
    changeLight(event) {
      const light = event.submitter.value;
      const aYear = 365 * 24 * 3600;
      event.preventDefault();
      document.cookie = `light=${light}; path=/; max-age=${aYear}; samesite=lax`;
      document.documentElement.dataset.light = light;
      const bar = document.querySelector("meta[name=theme-color]");
      bar.content = bar.dataset[light];
      tellLight();
      // The button pressed has made way for the other.
      event.target.querySelector(`button[value="${light === "dark" ? "daylight" : "dark"}"]`).focus();
    },

    // The link to the same scene in other units, for the scene as it is typed now.
    readIn(event) {
      const scene = document.getElementById("scene");
      const link = event.currentTarget;
      const units = new URLSearchParams(link.search).get("read_in");
      const query = new URLSearchParams(new FormData(scene));
      query.set("read_in", units);
      link.search = query.toString();
    },

    toggleHelp() {
      const open = this.$refs.help.classList.toggle("open");
      (open ? this.$refs.help : document.getElementById("help-link")).focus();
    },

    key(event) {
      if (event.key === "?" && !isTyping(event.target)) {
        this.toggleHelp();
        event.preventDefault();
      } else if (event.key === "Escape" && this.$refs.help.classList.contains("open")) {
        this.toggleHelp();
        event.stopImmediatePropagation();
      }
    },
  }));
});

// What was opened for the way opens again without a signal; where the browser can, and is let. On a
// bad line that can fail: it is tried again.
function carryAlong(again = 3) {
  const retry = () => again > 0 && setTimeout(() => carryAlong(again - 1), 3000);
  navigator.serviceWorker?.register("/worker.js").then((kept) => {
    kept.installing?.addEventListener("statechange", ({ target }) => {
      if (target.state === "redundant" && !kept.active) retry();
    });
    tellLight();
  }).catch(retry);
  // A page that was on its way while the worker began is not the worker's yet, nor kept.
  navigator.serviceWorker?.ready.then(({ active }) => {
    if (!navigator.serviceWorker.controller) active.postMessage({ ask: "claim" });
  });
}

// The worker opens pages in the light that this device is in, whatever they were kept in.
function tellLight() {
  const { light } = document.documentElement.dataset;
  navigator.serviceWorker?.ready.then(({ active }) => active.postMessage({ ask: "light", light }));
}

// A page that came from this device says so, and how old it is.
{
  const taken = document.querySelector("meta[name=taken]");
  if (taken && !document.getElementById("along-list")) {
    const when = new Date(taken.content);
    const here = { dateStyle: "medium", timeStyle: "short" };
    const since = Number.isNaN(when.getTime()) ? "" : `, as it was on ${when.toLocaleString([], here)}`;
    const note = document.createElement("p");
    note.className = "taken";
    note.setAttribute("role", "status");
    note.textContent = `No signal: this page is from this device${since}.`;
    document.getElementById("main").prepend(note);
  }
}

// Times as the clock here has them; without a script they say which clock it is.
for (const time of document.querySelectorAll("time[datetime]")) {
  const here = { dateStyle: "medium", timeStyle: "short" };
  time.textContent = new Date(time.dateTime).toLocaleString([], here);
}

// What opens to another page on a phone.
if (window.matchMedia("(max-width: 760px)").matches) {
  for (const link of document.querySelectorAll("a[data-narrow]")) link.href = link.dataset.narrow;
}

// Whether a key pressed here writes text.
function isTyping(element) {
  return element.closest("input:not([type=radio]), select, textarea") !== null;
}
