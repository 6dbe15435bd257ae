// View, the list of marks: rows that come and go, pasted lists, letters. Part of the component of
// view.js: `this` is that.
const Marks = {
  // Marks -----------------------------------------------------------------------------

  typed(event) {
    if (event.target.id === "f_number") document.getElementById("choose").value = "fixed";
    this.forgetLens(event);
    if (event.target.name === "mark_how") {
      const usual = event.target.selectedOptions[0].dataset.usual;
      event.target.closest("[data-row]").querySelector("[name=mark_error]").placeholder = usual;
    }
    const row = event.target.closest("[data-row]");
    if (event.target.name === "mark_distance") {
      row.querySelector(".as-far")?.setAttribute("aria-pressed", String(["inf", "∞"].includes(event.target.value)));
    }
    if (row && row === this.$refs.marks.lastElementChild && event.target.value) this.addRow();
  },

  // Lines of a list pasted into a mark: a name and a distance each, apart by a tab, a semicolon
  // or the last comma.
  pasted(event) {
    const lines = event.clipboardData.getData("text/plain").split(/\r?\n/).filter((l) => l.trim());
    if (lines.length < 2 || !event.target.matches("[name^=mark_]")) return;
    event.preventDefault();
    const rows = this.$refs.marks.children;
    let at = [...rows].indexOf(event.target.closest("[data-row]"));
    for (const line of lines.slice(0, 200)) {
      const [, name, distance] = line.match(/^(.*?)\s*[\t;,]\s*([^\t;,]+(?:,\d+\s*\w*)?)$/)
        ?? [null, "", line];
      if (at === rows.length - 1) this.addRow();
      const row = rows[at++];
      row.querySelector("[name=mark_name]").value = name.trim();
      row.querySelector("[name=mark_distance]").value = distance.trim();
    }
    this.ask();
  },

  // One tap that has a mark counted: its text written, or the place to write it.
  cure(event) {
    const { row, column, text } = event.currentTarget.dataset;
    const holder = row === undefined ? this.$refs.scene : this.$refs.marks.children[row];
    const name = row === undefined ? column : `mark_${column}`;
    const field = holder.querySelector(`[name=${name}]`);
    if (text !== undefined) {
      field.value = text;
      this.ask();
      return;
    }
    if (row === undefined && this.$refs.marks.matches(".first")) this.allOfIt();
    const folded = field.closest("details");
    if (folded) folded.open = true;
    const more = field.closest(".more-said");
    if (more && !more.classList.contains("open")) {
      more.classList.add("open");
      holder.querySelector(".more").setAttribute("aria-expanded", "true");
    }
    field.focus();
    field.select();
  },

  // What an empty scene asks -----------------------------------------------------------

  measureFrom(event) {
    const row = event.currentTarget.closest("[data-row]");
    const how = row.querySelector("[name=mark_how]");
    how.value = event.currentTarget.dataset.how;
    how.dispatchEvent(new Event("input", { bubbles: true }));
    this.pressed(row);
    if (!row.querySelector("[name=mark_distance]").value) {
      row.querySelector("[name=mark_distance]").focus();
    }
  },

  pressed(row) {
    const { value } = row.querySelector("[name=mark_how]");
    for (const chip of row.querySelectorAll("[data-how]")) {
      chip.setAttribute("aria-pressed", String(chip.dataset.how === value));
      chip.tabIndex = chip.dataset.how === value ? 0 : -1; // one stop; arrows go on from there
    }
  },

  asFar(event) {
    const row = event.currentTarget.closest("[data-row]");
    row.querySelector("[name=mark_distance]").value = event.currentTarget.dataset.text;
    event.currentTarget.setAttribute("aria-pressed", "true");
    this.ask();
  },

  openStand() {
    if (this.$refs.marks.matches(".first")) this.allOfIt();
    const stand = document.getElementById("camera_height");
    stand.closest("details").open = true;
    stand.focus();
    stand.select();
  },

  // From two questions to the whole list.
  allOfIt() {
    document.getElementById("first").value = "";
    this.$refs.marks.classList.remove("first");
    for (const row of this.$refs.marks.children) row.classList.remove("asks");
    for (const part of document.querySelectorAll(".question, .from, .all-of-it")) part.remove();
    this.ask();
  },

  // A step nearer or farther: the server knows which a hand can set.
  stepMark(event) {
    const { step } = event.currentTarget.dataset;
    const row = event.currentTarget.closest("[data-row]");
    const at = [...this.$refs.marks.children].indexOf(row);
    this.move({ mark_step: at, mark_by: Number(step) });
  },

  addRow() {
    const row = this.$refs.marks.lastElementChild.cloneNode(true);
    row.classList.remove("asks");
    for (const input of row.querySelectorAll("input")) input.value = "";
    for (const select of row.querySelectorAll("select")) select.selectedIndex = 0;
    row.querySelector(".more-said").classList.remove("open");
    row.querySelector(".more").setAttribute("aria-expanded", "false");
    row.querySelector("[id^=verdict-]").replaceChildren();
    row.querySelector("[id^=message-]").replaceChildren();
    this.$refs.marks.append(row);
    this.letterRows();
  },

  removeMark(event) {
    const row = event.target.closest("[data-row]");
    const rows = [...this.$refs.marks.children];
    const at = rows.indexOf(row);
    const name = row.querySelector("[name=mark_name]").value;
    if (at === rows.length - 1) return;
    row.remove();
    // Trial frames speak of marks by their letters, which are others now.
    const trials = document.getElementById("trials");
    this.removed = { row, at, name: name || "the mark", trials: trials.value };
    trials.value = "";
    this.letterRows();
    this.$refs.marks.children[at].querySelector("input").focus();
    this.ask();
  },

  putBack() {
    this.$refs.marks.children[this.removed.at].before(this.removed.row);
    this.removed.row.querySelector("input").focus();
    document.getElementById("trials").value = this.removed.trials;
    this.removed = null;
    this.letterRows();
    this.ask();
  },

  // Letters and ids go by the place in the list.
  tellMore(event) {
    const button = event.currentTarget;
    const row = button.closest("[data-row]");
    const open = row.querySelector(".more-said").classList.toggle("open");
    button.setAttribute("aria-expanded", String(open));
    if (open) row.querySelector("[name=mark_how]").focus();
  },

  letterRows() {
    [...this.$refs.marks.children].forEach((row, index) => {
      const letter = letterOf(index);
      row.querySelector("[data-letter]").textContent = letter;
      for (const part of row.querySelectorAll("[id]")) {
        part.id = part.id.replace(/\d+$/, index);
      }
      for (const label of row.querySelectorAll("label")) {
        label.htmlFor = label.htmlFor.replace(/\d+$/, index);
        label.textContent = label.textContent.replace(/mark \S+/, `mark ${letter}`);
      }
      const described = row.querySelector("[aria-describedby]");
      described.setAttribute("aria-describedby", `message-mark-${index}`);
      const more = row.querySelector(".more");
      more.setAttribute("aria-controls", `more-${index}`);
      more.setAttribute("aria-label", `How far and how high mark ${letter} is`);
      row.querySelector(".remove").setAttribute("aria-label", `Remove mark ${letter}`);
    });
  },
};

// The letter of the mark in that place of the list: A to Z, then AA, AB and so on.
function letterOf(index) {
  const first = Math.floor(index / 26);
  return (first ? letterOf(first - 1) : "") + String.fromCharCode(65 + (index % 26));
}
