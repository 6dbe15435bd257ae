// Tries are kept on this device at once, and sent until they have been heard.
class TryLog extends Waiting {
  constructor(address) {
    super("aim-try:", address);
    this.full = false;
  }

  // Keeps a try. Says whether there was room.
  add(said) {
    try {
      this.keep({ key: Waiting.made(), at: new Date().toISOString(), ...said });
      this.full = false;
    } catch {
      this.full = true;
    }
    return !this.full;
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
  const log = new TryLog(place.dataset.tries);
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
