// What planners have in common: an answer asked for and drawn in place, pointers on the axis moved
// by hand, the aperture stepped, what is typed kept. Part of each planner's component: `this` is
// that. A planner has `moved(event)`, called when the answer to a movement has come.
const Planner = {
  ...Keeping,
  ...Saving,
  ...Pointers,

  trouble: false,
  tooLong: false,
  pointer: null,
  turning: false,
  waiting: null,
  busy: false,
  settling: 0,
  taking: 0,
  keyed: false,
  again: 0,
  unfolded: new Set(),
  answered: false,
  linkSays: "Copy link",
  linkName: "Copy link",
  linkShown: "",
  link: "",
  good: "",

  listen() {
    const narrow = window.matchMedia("(max-width: 760px)");
    const results = document.getElementById("results");
    results.addEventListener("pointerdown", (event) => this.grab(event));
    results.addEventListener("keydown", (event) => this.turn(event));
    // What was unfolded stays so when the answer is drawn again.
    this.$refs.scene.addEventListener("toggle", (event) => {
      const fold = event.target;
      if (!fold.id.startsWith("fold-")) return;
      if (!fold.open) {
        if (fold.isConnected) this.unfolded.delete(fold.id);
      } else if (!this.unfolded.has(fold.id)) {
        this.unfolded.add(fold.id);
        const outdated = this.answered && fold.querySelector("[data-out]");
        if (isEmpty(fold) || outdated) this.ask();
      }
    }, true);
    // A tap takes the whole figure, to be written over.
    this.$refs.scene.addEventListener("focusin", (event) => {
      if (narrow.matches && event.target.matches("input.form-control")) event.target.select();
    });
    this.giveBackTyped();
    document.getElementById(sessionStorage.getItem("aim-taken"))?.focus();
    sessionStorage.removeItem("aim-taken");
    this.isGood();
    this.openLink();
    this.listenForLine();
    if (narrow.matches) this.linkSays = this.linkName = "Link";
    document.addEventListener("htmx:beforeSwap", (event) => this.keepLink(event));
    window.addEventListener("pagehide", () => this.keepTyped(false));
    // A page that was gone back to has fields as they were left, and its ways as the server drew them.
    document.addEventListener("click", (event) => {
      if (event.target.closest("[data-carries]")) this.relinkPages();
    }, true);
    document.querySelector(".units a").addEventListener("click", () => this.keepTyped());
    // The server sends only what this page shows.
    narrow.addEventListener("change", () => this.ask());
    // An answer brings the messages that still stand.
    document.addEventListener("htmx:beforeSwap", () => {
      for (const message of this.$refs.scene.querySelectorAll(".message")) {
        message.className = "message";
        message.replaceChildren();
      }
    });
    document.addEventListener("htmx:configRequest", (event) => {
      event.detail.headers["Aim-Screen"] = narrow.matches ? "narrow" : "wide";
      event.detail.headers["Aim-Unfolded"] = [...this.unfolded].join(" ");
      event.detail.headers["Aim-Before"] = this.good;
      delete event.detail.headers["HX-Current-URL"]; // as long as the link, and not read
      const { formData, headers } = event.detail;
      this.saidOf(formData);
      const { length } = new URLSearchParams(formData).toString();
      this.tooLong = length > Number(this.$refs.scene.dataset.mostLink);
      if (this.tooLong) event.preventDefault();
      if (length > LONG) { // servers on the way need not take a long address
        Object.assign(event.detail, { verb: "post", useUrlParams: false });
        headers["Content-Type"] = "application/x-www-form-urlencoded";
        headers["X-CSRFToken"] = document.querySelector("#save [name=csrfmiddlewaretoken]").value;
      }
    });
    document.addEventListener("htmx:afterSwap", (event) => {
      // Only the answer to a movement says where things are now: one to the form, asked before the
      // movement began, may come in between. At once, for the next step starts from what is seen.
      if (event.detail.requestConfig?.elt?.id === "results") this.moved(event);
      this.answered = true;
      let empty = false;
      for (const id of this.unfolded) {
        const fold = document.getElementById(id);
        fold?.setAttribute("open", "");
        empty ||= fold !== null && isEmpty(fold);
      }
      if (empty) this.ask(); // opened after that answer had been asked for
    });
    document.addEventListener("htmx:afterSettle", () => this.redrawn());
    document.addEventListener("htmx:sendError", () => this.failed(0));
    document.addEventListener("htmx:responseError", (event) => this.failed(event.detail.xhr.status));
    window.addEventListener("online", () => { if (this.trouble) this.ask(); });
  },

  redrawn() {
    this.trouble = false;
    clearTimeout(this.again);
    this.$refs.scene.classList.remove("outdated");
    for (const field of this.$refs.scene.querySelectorAll("[aria-describedby]")) {
      const message = document.getElementById(field.getAttribute("aria-describedby"));
      const wrong = message !== null && message.classList.contains("wrong");
      if (wrong) field.setAttribute("aria-invalid", "true");
      else field.removeAttribute("aria-invalid");
    }
    this.isGood();
    this.relink?.();
  },

  // Ways to other pages of the same plan carry what the form says now.
  relinkPages() {
    const scene = new URLSearchParams(this.typedScene());
    const name = document.getElementById("kept-name").value;
    if (name) scene.set("name", name);
    for (const link of document.querySelectorAll("[data-carries]")) {
      const way = link.dataset.way;
      link.search = scene.toString() + (way ? `&way=${way}` : "");
    }
  },

  ask() {
    this.$refs.scene.dispatchEvent(new Event("change", { bubbles: true }));
  },

  // What is typed stays, what is shown looks old; it is asked again until an answer comes, unless
  // the server has said that it will not.
  failed(status) {
    this.trouble = true;
    this.$refs.scene.classList.add("outdated");
    clearTimeout(this.again);
    if (status === 0 || status >= 500) this.again = setTimeout(() => this.ask(), 4000);
  },

  nothing() {},

  typed(event) {
    this.forgetLens(event);
  },

  // What the link told of a lens does not hold for another; a zoom's range as typed is one.
  forgetLens(event) {
    const zoom = /\d\s*[-–]\s*\d/.test(event.target.value);
    if (event.target.id === "focal_length_mm" && zoom) {
      document.getElementById("lens").value = "";
      document.getElementById("pick-lens").value = "";
    } else if (event.target.id !== "lens") return;
    for (const name of ["lens_range", "lens_closest", "lens_pupils", "lens_off", "lens_faults", "lens_ideal"]) {
      this.$refs.scene.querySelector(`[name=${name}]`).value = "";
    }
  },

  // Aperture ----------------------------------------------------------------------------

  stepAperture(event) {
    this.stopDown(Number(event.currentTarget.dataset.step));
  },

  // Whether a key was one of those that step the aperture.
  apertureKey(event) {
    const direction = { "[": -1, "]": 1 }[event.key];
    if (direction) this.stopDown(direction);
    return direction !== undefined;
  },

  // The next aperture that the lens has, from the one given.
  nextAperture(now, direction) {
    const series = [...document.querySelectorAll("#engraved option")].map((o) => Number(o.value));
    if (Number.isNaN(now)) return undefined;
    return direction > 0 ? series.find((n) => n > now) : series.findLast((n) => n < now);
  },

  // Another thing from the bag: the page comes again with its numbers. A key that goes through a
  // list may not have come to its end: the page waits for it to rest, or to go on.
  take(event) {
    const list = event.target;
    clearTimeout(this.taking);
    if (!this.keyed) return takeNow(list);
    this.taking = setTimeout(() => takeNow(list), 800);
    list.addEventListener("blur", (left) => takeNow(list, left.relatedTarget), { once: true });
  },

  // One tap: the button carries the choice, the page comes again with it.
  takeTypical(event) {
    sessionStorage.setItem("aim-taken", event.currentTarget.id);
  },

  // Chips beside each other are one stop; arrows go on from there.
  chipKey(event) {
    const chips = [...event.currentTarget.querySelectorAll(".chip")];
    const step = { ArrowLeft: -1, ArrowUp: -1, ArrowRight: 1, ArrowDown: 1 }[event.key];
    const at = chips.indexOf(event.target);
    if (step === undefined || at < 0) return;
    event.preventDefault();
    chips[(at + step + chips.length) % chips.length].focus();
  },

  takeByKey(event) {
    this.keyed = event.type === "keydown";
    if (event.key === "Enter" && this.taking) takeNow(event.target);
  },
};

// The page comes again with what is chosen, the focus on the list, or where a key has gone on to.
function takeNow(list, gone) {
  sessionStorage.setItem("aim-taken", gone?.id || list.id);
  list.form.requestSubmit();
}

// Letters of a question from which on it is posted.
const LONG = 3000;

// Whether a fold waits for what it says to be asked for.
function isEmpty(fold) {
  const out = fold.querySelector("[data-out]");
  return out ? out.childElementCount === 0 : fold.children.length < 2;
}
