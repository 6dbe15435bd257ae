// The log of an outing on this device: each entry is kept by itself, at once, and sent until it has
// been heard. Its key is its own: what is sent twice is one entry.
class OutingLog {
  constructor(outing, address) {
    this.outing = outing;
    this.address = address;
    this.before = `aim-log:${outing}:`;
    this.heard = []; // as the other side has it
    this.both = new Set(); // keys of what contradicts something
    this.sending = false;
    this.waits = "";
    try {
      this.heard = JSON.parse(localStorage.getItem(`aim-heard:${outing}`) || "[]");
    } catch {
      // what was heard comes again with a line
    }
  }

  static get device() {
    try {
      let name = localStorage.getItem("aim-device");
      if (!name) {
        const kind = /iPhone|Android|Mobile/.test(navigator.userAgent) ? "phone" : "computer";
        name = `${kind} ${OutingLog.made().slice(0, 4)}`;
        localStorage.setItem("aim-device", name);
      }
      return name;
    } catch {
      return "a device";
    }
  }

  static made() {
    if (crypto.randomUUID) return crypto.randomUUID();
    const bytes = crypto.getRandomValues(new Uint8Array(16));
    return [...bytes].map((byte) => byte.toString(16).padStart(2, "0")).join("");
  }

  // What is kept here and was not heard yet.
  get waiting() {
    const found = [];
    for (let at = 0; at < localStorage.length; at += 1) {
      const name = localStorage.key(at);
      if (!name.startsWith(this.before)) continue;
      try {
        found.push(JSON.parse(localStorage.getItem(name)));
      } catch {
        // half written by a device that went dark: nothing of it can be read
      }
    }
    return found.sort((a, b) => a.at.localeCompare(b.at));
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
    const entry = {
      key: OutingLog.made(), device: OutingLog.device, at: new Date().toISOString(), what, item, subject,
      follows: subject ? (this.last(subject)?.key ?? "") : "", says,
    };
    localStorage.setItem(this.before + entry.key, JSON.stringify(entry));
    return entry;
  }

  forget(key) {
    localStorage.removeItem(this.before + key);
  }

  // Sends what waits, and hears what others logged. Says what became of it.
  async send() {
    if (this.sending) return "";
    this.sending = true;
    try {
      return await this.sent();
    } catch {
      return "off-line";
    } finally {
      this.sending = false;
    }
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

  async sent() {
    const first = await fetch(this.address, { headers: { Accept: "application/json" } });
    if (first.status === 404) return "gone";
    if (!first.ok) return "off-line";
    let said = await first.json();
    this.hear(said);
    for (let waiting = this.waiting; waiting.length; waiting = this.waiting) {
      const body = JSON.stringify({ entries: waiting.slice(0, 200), zone: -new Date().getTimezoneOffset() });
      const headers = { "Content-Type": "application/json", "X-CSRFToken": said.token };
      const answer = await fetch(this.address, { method: "POST", headers, body });
      if (!answer.ok) return answer.status === 404 ? "gone" : "off-line";
      said = await answer.json();
      this.hear(said); // before anything is forgotten: no entry is nowhere, not for a moment
      for (const key of said.heard) this.forget(key);
      this.refused = said.refused;
      if (!said.heard.length) break;
    }
    return Object.keys(this.refused ?? {}).length ? "refused" : "sent";
  }
}
