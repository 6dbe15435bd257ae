// Saving on a bad line: what could not be sent is kept in this browser, sent when the line is back,
// and says when it went through. Part of each planner's component: `this` is that.
const Saving = {
  unsent: false,
  wentThrough: "",
  savedLink: "",

  listenForLine() {
    this.unsent = localStorage.getItem(UNSENT) !== null;
    window.addEventListener("online", () => this.sendKept());
    if (this.unsent) this.sendKept();
  },

  // The page that comes is the server's; only where none comes is it kept here instead.
  async save(event) {
    const form = event.target;
    this.carry();
    event.preventDefault();
    const said = new FormData(form, event.submitter);
    const body = new URLSearchParams(said).toString();
    try {
      const came = await fetch(form.action, { method: "POST", body, headers: POSTED });
      if (came.redirected && came.ok) {
        window.location.assign(came.url);
      } else {
        submitAgain(form, event.submitter); // it says what is wrong
      }
    } catch {
      said.delete("csrfmiddlewaretoken");
      const kept = { action: form.action, body: new URLSearchParams(said).toString() };
      localStorage.setItem(UNSENT, JSON.stringify({ ...kept, name: said.get("name") }));
      this.unsent = true;
      this.wentThrough = "";
      this.trySoon();
    }
  },

  trySoon() {
    clearTimeout(this.trying);
    this.trying = setTimeout(() => this.sendKept(), 8000);
  },

  async sendKept() {
    const kept = JSON.parse(localStorage.getItem(UNSENT));
    if (!kept || this.sending) return;
    this.sending = true;
    const token = document.querySelector("#save [name=csrfmiddlewaretoken]").value;
    const body = `${kept.body}&csrfmiddlewaretoken=${encodeURIComponent(token)}`;
    try {
      const came = await fetch(kept.action, { method: "POST", body, headers: POSTED });
      localStorage.removeItem(UNSENT);
      this.unsent = false;
      const at = new Date().toLocaleTimeString([], { hour: "2-digit", minute: "2-digit" });
      const called = kept.name ? `“${kept.name}”` : "It";
      if (came.redirected && came.ok) {
        this.wentThrough = `${called} was saved at ${at}.`;
        this.savedLink = came.url;
      } else {
        this.wentThrough = `${called} could not be saved as it was: look at its name, and save again.`;
      }
    } catch {
      this.trySoon();
    }
    this.sending = false;
  },
};

const UNSENT = "aim-unsent";
const POSTED = { "Content-Type": "application/x-www-form-urlencoded" };

// As the browser itself would have, with the button that was pressed.
function submitAgain(form, button) {
  if (button?.name) {
    const pressed = document.createElement("input");
    Object.assign(pressed, { type: "hidden", name: button.name, value: button.value });
    form.append(pressed);
  }
  form.submit();
}
