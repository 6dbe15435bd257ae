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
    return new URLSearchParams(new FormData(this.$refs.scene)).toString();
  },

  // The address is the link; where the clipboard is closed to pages, it says so.
  async copyLink() {
    try {
      await navigator.clipboard.writeText(window.location.href);
      this.linkSays = "Copied";
    } catch {
      this.linkSays = "Copy the address";
    }
    setTimeout(() => { this.linkSays = "Copy link"; }, 2500);
  },

  // What is in hand while all of it can be used stands in for what cannot, later.
  isGood() {
    if (this.$refs.scene.querySelector(".message.wrong")) return;
    const hand = new URLSearchParams(this.typedScene());
    for (const name of [...hand.keys()]) if (name.startsWith("mark_")) hand.delete(name);
    this.good = hand.toString();
  },
};
