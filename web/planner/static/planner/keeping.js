// What planners have in common: what is typed is kept, sent along and copied. Part of each planner's
// component: `this` is that.
const Keeping = {
  // A name and a note not saved yet outlive a page that comes again, as with another lens in hand.
  // ``meant``: for the page that comes now; else for a reload, or the way back.
  keepTyped(meant = true) {
    if (!meant && sessionStorage.getItem("typed")) return;
    const typed = ["kept-name", "note"]
      .map((id) => [id, document.getElementById(id)?.value])
      .filter(([, text]) => text !== undefined);
    sessionStorage.setItem("typed", JSON.stringify({ on: window.location.pathname, typed, meant }));
  },

  giveBackTyped() {
    const kept = JSON.parse(sessionStorage.getItem("typed"));
    sessionStorage.removeItem("typed");
    if (kept?.on !== window.location.pathname) return;
    const [came] = performance.getEntriesByType("navigation");
    if (!kept.meant && !["reload", "back_forward"].includes(came?.type)) return;
    for (const [id, text] of kept.typed) document.getElementById(id).value = text;
  },

  // What is saved is what the form says now, not what the last answer was about.
  carry() {
    document.getElementById("state").value = this.typedScene();
  },

  carryToBag() {
    this.keepTyped();
    document.getElementById("hand-state").value = this.typedScene();
  },

  typedScene() {
    return new URLSearchParams(this.saidOf(new FormData(this.$refs.scene))).toString();
  },

  // Without what says nothing: fields that may be empty and are, columns of marks that are.
  saidOf(form) {
    for (const name of this.$refs.scene.dataset.quiet.split(" ")) {
      if (form.get(name) === "") form.delete(name);
    }
    for (const name of new Set(form.keys())) {
      const column = name.startsWith("mark_") && name !== "mark_name" && name !== "mark_distance";
      if (column && form.getAll(name).every((text) => text === "")) form.delete(name);
    }
    return form;
  },

  // The link carries the numbers, whatever the address says: an owner's page opens for nobody else.
  // Where the clipboard is closed to pages, the link is shown, to be taken by hand.
  async copyLink(event) {
    const link = new URL(event.currentTarget.dataset.page, window.location.href);
    await this.quiet();
    link.search = this.link;
    try {
      await navigator.clipboard.writeText(link.href);
      this.linkSays = "Copied";
    } catch {
      this.linkShown = link.href;
      this.$nextTick(() => document.getElementById("link-shown").select());
    }
    setTimeout(() => { this.linkSays = this.linkName; }, 2500);
  },

  // Until no answer is on its way any more, or for two seconds.
  async quiet() {
    for (let turn = 0; turn < 40 && document.querySelector(".htmx-request"); turn += 1) {
      await new Promise((done) => { setTimeout(done, 50); });
    }
  },

  // The server says the link with every answer; a page that came of a form that could not be saved
  // is at the link too, and not where that was sent.
  keepLink(event) {
    const told = event?.detail.xhr?.getResponseHeader("HX-Replace-Url");
    if (told && told !== "false") this.link = told.split("?")[1] ?? "";
    const [, posted] = event?.detail.serverResponse?.match(/ data-link="([^"]*)"/) ?? [];
    if (posted === undefined) return;
    const plain = document.createElement("textarea");
    plain.innerHTML = posted;
    this.link = plain.value;
    const here = this.$refs.scene.getAttribute("action");
    window.history.replaceState(window.history.state, "", `${here}?${this.link}`);
  },

  openLink() {
    this.link = document.getElementById("state").value;
    const here = this.$refs.scene.getAttribute("action");
    if (window.location.pathname !== here) {
      window.history.replaceState(null, "", `${here}?${this.link}`);
    }
  },

  // What is in hand while all of it can be used stands in for what cannot, later.
  isGood() {
    if (this.$refs.scene.querySelector(".message.wrong")) return;
    const hand = new URLSearchParams(this.typedScene());
    for (const name of [...hand.keys()]) if (name.startsWith("mark_")) hand.delete(name);
    this.good = hand.toString();
  },
};
