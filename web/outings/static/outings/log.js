// The log of an outing on this device: what is tapped, what others logged, and what contradicts what.
class OutingLog extends Waiting {
  constructor(outing, address) {
    super(`aim-log:${outing}:`, address);
    this.outing = outing;
    this.heard = []; // as the other side has it
    this.both = new Set(); // keys of what contradicts something
    try {
      this.heard = JSON.parse(localStorage.getItem(`aim-heard:${outing}`) || "[]");
    } catch {
      // what was heard comes again with a line
    }
  }

  get all() {
    const waiting = this.waiting;
    const mine = new Set(waiting.map((one) => one.key));
    const every = [...this.heard.filter((one) => !mine.has(one.key)), ...waiting];
    return every.sort((a, b) => Date.parse(a.at) - Date.parse(b.at));
  }

  // Those that were not taken back.
  get standing() {
    const every = this.all;
    const gone = new Set(every.filter((one) => one.what === "undone").map((one) => one.says.of));
    return every.filter((one) => !gone.has(one.key) && one.what !== "undone");
  }

  last(subject) {
    const there = this.standing.filter((one) => one.subject === subject);
    const over = new Set(there.filter((one) => one.what === "settled").flatMap((one) => (one.says.over || "").split(" ")));
    return there.filter((one) => one.what !== "settled" && !over.has(one.key)).at(-1);
  }

  // Keeps an entry. Throws where the device has no room.
  add(what, item = null, says = {}, subject = "") {
    return this.keep({
      key: Waiting.made(), device: Waiting.device, at: new Date().toISOString(), what, item, subject,
      follows: subject ? (this.last(subject)?.key ?? "") : "", says,
    });
  }

  hear(said) {
    this.heard = said.entries;
    this.both = new Set(said.conflicts.flat());
    try {
      localStorage.setItem(`aim-heard:${this.outing}`, JSON.stringify(this.heard));
    } catch {
      // no room for what others logged: it is there with a line
    }
  }
}
