// Frames of a test: brought in one after the other, so that one sees how far it is, can stop, and go
// on. Without this the form sends all of them at once.
document.addEventListener("alpine:init", () => {
  Alpine.data("frames", () => ({
    busy: false,
    stopped: false,
    done: 0,
    most: 1,
    says: "",
    trouble: "",

    async bring(event) {
      const files = [...event.target.querySelector("[type=file]").files];
      if (!files.length) return;
      event.preventDefault();
      const token = event.target.querySelector("[name=csrfmiddlewaretoken]").value;
      await this.all(files.length, async (at) => {
        this.says = `${at + 1} of ${files.length}: ${files[at].name}`;
        const body = new FormData();
        body.append("csrfmiddlewaretoken", token);
        body.append("file", files[at]);
        await this.send(event.target.action, body);
        return true;
      });
    },

    async takeAll(event) {
      event.preventDefault();
      const body = new FormData(event.target);
      this.says = "The first is taken and measured";
      await this.all(60, async (at) => {
        const answer = await this.send(event.target.action, body);
        this.says = `${at + 1} done; next ${answer.next}`;
        return answer.more;
      });
    },

    async all(most, one) {
      Object.assign(this, { busy: true, stopped: false, done: 0, most, trouble: "" });
      try {
        for (let at = 0; at < most && !this.stopped; at += 1) {
          const more = await one(at);
          this.done = at + 1;
          if (!more) break;
        }
      } catch {
        this.busy = false;
        this.trouble = "It was broken off. What came in is kept: choose the files again to go on.";
        return;
      }
      window.location.reload();
    },

    async send(address, body) {
      const answer = await fetch(address, {
        method: "POST",
        body,
        headers: { Accept: "application/json" },
      });
      if (!answer.ok) throw new Error(String(answer.status));
      return answer.json();
    },

    stop() {
      this.stopped = true;
      this.says = "Stopping after this one";
    },
  }));
});
