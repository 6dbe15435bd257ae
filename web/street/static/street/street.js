// Street: what is on the screen and nowhere else. Everything that is worked out comes from the
// server.
// What is typed here is about where the positions go: they are found anew.
const PLACES = ["like", "near", "far", "count", "home", "locked"];

document.addEventListener("alpine:init", () => {
  Alpine.data("street", () => ({
    ...Planner,

    unlocked: null,

    init() {
      this.listen();
    },

    // A position moved is a position locked; others may have changed places with it.
    moved() {
      const now = document.getElementById("fixed-now").dataset;
      document.getElementById("home").value = now.home;
      document.getElementById("locked").value = now.locked;
      const held = (id) => id.replace(/\d+$/, now.held);
      if (this.pointer) {
        this.pointer.handle = held(this.pointer.handle);
        if (this.pointer.which.at !== undefined) this.pointer.which = { at: now.held };
        this.follow();
      }
      if (this.turning) {
        const focused = document.activeElement?.closest(".handle");
        if (focused) document.getElementById(held(focused.id))?.focus();
      }
    },

    // The ring stays where it is as the aperture is changed, until it is asked to follow.
    typed(event) {
      this.forgetLens(event);
      if (event.target.id === "f_number") this.ringStays(event.target.value);
      else if (PLACES.includes(event.target.id)) document.getElementById("set_for").value = "";
    },

    ringStays(next) {
      const set = document.getElementById("set_for");
      set.value ||= document.getElementById("aperture-now").dataset.number;
      if (Number(set.value) === Number(next.replace(",", "."))) set.value = "";
    },

    keepRing(event) {
      const { number } = event.currentTarget.dataset;
      this.ringStays(number);
      this.set({ f_number: number });
    },

    likeIt(event) {
      this.set({ like: event.currentTarget.dataset.like, set_for: "" });
    },

    moveRing() {
      this.set({ set_for: "" });
    },

    relink() {
      this.relinkPages();
      const { near, far } = document.getElementById("fixed-now").dataset;
      document.getElementById("near").placeholder = near;
      document.getElementById("far").placeholder = far;
      const gear = new URLSearchParams(new FormData(this.$refs.scene));
      for (const name of ["home", "locked", "near", "far", "set_for"]) gear.delete(name);
      document.getElementById("new-view").search = gear.toString();
    },

    set(values) {
      for (const [id, text] of Object.entries(values)) document.getElementById(id).value = text;
      this.ask();
    },

    stopDown(direction) {
      const field = document.getElementById("f_number");
      const next = this.nextAperture(Number(field.value.replace(",", ".")), direction);
      if (next === undefined) return;
      this.ringStays(String(next));
      this.set({ f_number: String(next) });
    },

    // From a table of what positions could do that follow.
    takeAperture(event) {
      this.set({ f_number: event.currentTarget.dataset.number, set_for: "" });
    },

    // Positions ---------------------------------------------------------------------------

    stepCount(event) {
      const now = Number(document.getElementById("count").value) || 3;
      const step = Number(event.currentTarget.dataset.step);
      this.set({ count: String(Math.min(Math.max(now + step, 1), 9)), set_for: "" });
    },

    setCount(event) {
      this.set({ count: event.currentTarget.dataset.count, set_for: "" });
    },

    lock(event) {
      const { focus, home } = event.currentTarget.dataset;
      if (home) return this.set({ home: focus });
      const { locked } = this.fixedNow();
      if (!locked.includes(focus)) locked.push(focus);
      this.set({ locked: locked.join("; ") });
    },

    unlock(event) {
      const { focus } = event.currentTarget.dataset;
      const { home, locked } = this.fixedNow();
      this.set({
        locked: locked.filter((one) => one !== focus).join("; "),
        home: home === focus ? "" : home,
      });
    },

    // What was home stays where it is only if it was locked for itself.
    makeHome(event) {
      const { focus } = event.currentTarget.dataset;
      const { locked } = this.fixedNow();
      this.set({ home: focus, locked: locked.filter((one) => one !== focus).join("; ") });
    },

    // What is fixed, written as the buttons write it, however it was typed.
    fixedNow() {
      const { homeSaid, lockedSaid } = document.getElementById("fixed-now").dataset;
      return { home: homeSaid, locked: lockedSaid.split("; ").filter((one) => one) };
    },

    takeSchool(event) {
      const { count, home, locked } = event.currentTarget.dataset;
      this.set({ count, home, locked, set_for: "" });
    },

    computedAgain() {
      const { home, locked } = this.fixedNow();
      this.unlocked = { home, locked: locked.join("; ") };
      this.set({ home: "", locked: "" });
    },

    lockAgain() {
      this.set(this.unlocked);
      this.unlocked = null;
    },

    key(event) {
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      const { home, locked } = document.getElementById("fixed-now").dataset;
      if (isTyping(event.target) || this.apertureKey(event)) {
        return;
      } else if (event.key === "Escape" && (home || locked)) {
        this.computedAgain();
      } else if (event.key === "h") {
        document.querySelector(".positions-table .chosen [data-home='1']")?.click();
      } else if (event.key >= "1" && event.key <= "9") {
        this.set({ count: event.key, set_for: "" });
      }
    },
  }));
});
