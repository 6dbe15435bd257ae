// Tries are kept on this device at once, and sent until they have been heard.
class TryLog extends Waiting {
  // `place`: an element that says where they go, and who is signed in there; nobody for a guest.
  constructor(place) {
    super("aim-try:", place.dataset.tries);
    this.who = place.dataset.who;
    this.full = false;
  }

  // What somebody else answered on this device waits for them.
  get waiting() {
    return super.waiting.filter((one) => !one.who || one.who === this.who);
  }

  // Keeps a try. Says under which key; nothing where there was no room.
  add(said) {
    const key = Waiting.made();
    try {
      this.keep({ key, at: new Date().toISOString(), who: this.who, ...said });
      this.full = false;
    } catch {
      this.full = true;
    }
    return this.full ? "" : key;
  }

  // Takes a try back: where it was not sent yet it is gone, else that is sent after it.
  takeBack(key) {
    if (this.waiting.some((one) => one.key === key) && !this.sending) this.forget(key);
    else this.add({ undo: key });
  }

  // What became of them, in a few words; empty where there is nothing to say.
  line(said) {
    if (this.full) return "No room on this device: the last try was not kept.";
    const count = this.waiting.length;
    if (!count) return "";
    if (said === "refused") return `${count} could not be kept: ${Object.values(this.refused)[0]}`;
    return `${count} kept on this device, not sent yet`;
  }
}

// On the page of all drills: what waits goes now, and the page then shows it.
(async () => {
  const place = document.getElementById("tries-line");
  if (!place) return;
  const log = new TryLog(place);
  let count = 0;
  try {
    count = log.waiting.length;
  } catch {
    return; // a browser that keeps nothing has nothing to send
  }
  if (!count) return;
  const said = await log.send();
  place.textContent = said === "sent" ? "" : log.line(said);
  if (said === "sent") window.location.reload();
})();
