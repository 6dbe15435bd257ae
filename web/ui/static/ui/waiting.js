// What is made on this device and is to be kept elsewhere: each entry is kept here by itself, at once,
// and sent until it has been heard. Its key is its own: what is sent twice is one entry.
class Waiting {
  constructor(before, address) {
    this.before = before; // of the names under which entries are kept
    this.address = address;
    this.sending = false;
    this.refused = {};
  }

  static get device() {
    try {
      let name = localStorage.getItem("aim-device");
      if (!name) {
        const kind = /iPhone|Android|Mobile/.test(navigator.userAgent) ? "phone" : "computer";
        name = `${kind} ${Waiting.made().slice(0, 4)}`;
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

  // Keeps an entry. Throws where the device has no room.
  keep(entry) {
    localStorage.setItem(this.before + entry.key, JSON.stringify(entry));
    return entry;
  }

  forget(key) {
    localStorage.removeItem(this.before + key);
  }

  // Sends what waits, and hears what is there. Says what became of it.
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

  // What the other side says, each time.
  hear() {}

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
