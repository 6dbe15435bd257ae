// In the dark a browser's own list of choices is pale and bright. Here is one of red on black, with
// the keys, the pointer and the words for screen readers that the browser's own has.
const OwnList = {
  field: null, // the select, or the input that has suggestions
  list: null,
  items: [],
  active: -1,
  typed: "",
  typedAt: 0,
  touched: null,

  dark() {
    return document.documentElement.dataset.light === "dark";
  },

  // What has a list: a select of one, or an input whose suggestions are set aside in the dark.
  of(target) {
    if (!this.dark()) return null;
    return target.closest?.("select:not([multiple]), input[data-list]") ?? null;
  },

  // The suggestions of inputs, by the browser in daylight and by us in the dark.
  setAside() {
    const dark = this.dark();
    for (const input of document.querySelectorAll(dark ? "input[list]" : "input[data-list]")) {
      if (dark) {
        input.dataset.list = input.getAttribute("list");
        input.removeAttribute("list");
      } else {
        input.setAttribute("list", input.dataset.list);
        delete input.dataset.list;
      }
    }
  },

  choices() {
    if (this.field.tagName === "SELECT") {
      return [...this.field.options].map((one) => ({
        text: one.text,
        off: one.disabled,
        group: one.parentElement.label ?? "",
      }));
    }
    const list = document.getElementById(this.field.dataset.list);
    return [...(list?.options ?? [])].map((one) => ({ text: one.value, off: false, group: "" }));
  },

  open(field) {
    this.close();
    this.field = field;
    const choices = this.choices();
    if (!choices.length) return;
    const list = document.createElement("ul");
    list.className = "own-list";
    list.id = "own-list";
    list.tabIndex = -1;
    list.popover = "manual";
    list.setAttribute("role", "listbox");
    list.setAttribute("aria-label", field.labels[0]?.textContent ?? field.ariaLabel ?? "Choices");
    const now = field.tagName === "SELECT"
      ? field.selectedIndex
      : choices.findIndex((one) => one.text === field.value);
    this.items = [];
    choices.forEach((choice, index) => {
      if (choice.group && choice.group !== choices[index - 1]?.group) {
        const head = document.createElement("li");
        head.className = "group";
        head.textContent = choice.group;
        head.setAttribute("role", "presentation");
        list.append(head);
      }
      const item = document.createElement("li");
      item.id = `own-list-${index}`;
      item.textContent = choice.text;
      item.setAttribute("role", "option");
      item.setAttribute("aria-selected", String(index === now));
      if (choice.off) item.setAttribute("aria-disabled", "true");
      list.append(item);
      this.items.push(item);
    });
    document.body.append(list);
    this.list = list;
    list.showPopover();
    this.place();
    this.move(Math.max(now, 0));
    list.focus();
  },

  // Under its field where there is room, else over it.
  place() {
    const at = this.field.getBoundingClientRect();
    const below = window.innerHeight - at.bottom - 8;
    const above = at.top - 8;
    const up = below < Math.min(this.list.scrollHeight, 220) && above > below;
    this.list.style.maxHeight = `${up ? above : below}px`;
    this.list.style.minWidth = `${at.width}px`;
    const width = this.list.offsetWidth;
    this.list.style.left = `${Math.max(8, Math.min(at.left, window.innerWidth - width - 8))}px`;
    this.list.style.top = up ? `${at.top - this.list.offsetHeight}px` : `${at.bottom}px`;
  },

  move(index) {
    const { items } = this;
    if (index < 0 || index >= items.length) return;
    items[this.active]?.classList.remove("active");
    this.active = index;
    items[index].classList.add("active");
    items[index].scrollIntoView({ block: "nearest" });
    this.list.setAttribute("aria-activedescendant", items[index].id);
  },

  // Past what cannot be chosen.
  step(by) {
    let next = this.active + by;
    while (this.items[next]?.ariaDisabled === "true") next += by;
    this.move(next);
  },

  choose() {
    const { field, active } = this;
    const item = this.items[active];
    if (!item || item.ariaDisabled === "true") return;
    const select = field.tagName === "SELECT";
    const changed = select ? field.selectedIndex !== active : field.value !== item.textContent;
    if (select) field.selectedIndex = active;
    else field.value = item.textContent;
    this.close();
    field.focus();
    if (!changed) return;
    field.dispatchEvent(new Event("input", { bubbles: true }));
    field.dispatchEvent(new Event("change", { bubbles: true }));
  },

  close() {
    this.list?.remove();
    this.list = null;
    this.active = -1;
    this.typed = "";
  },

  // Letters typed in a row find what begins with them.
  find(letter) {
    const now = Date.now();
    if (now - this.typedAt > 800) this.typed = "";
    this.typedAt = now;
    this.typed += letter.toLowerCase();
    const { items } = this;
    const begins = (item) => item.textContent.toLowerCase().startsWith(this.typed);
    const from = this.typed.length === 1 ? this.active + 1 : this.active;
    const found = items.findIndex((item, index) => index >= from && begins(item));
    this.move(found >= 0 ? found : items.findIndex(begins));
  },

  key(event) {
    const steps = { ArrowDown: 1, ArrowUp: -1 };
    const ends = { Home: 0, PageUp: 0, End: this.items.length - 1 };
    ends.PageDown = ends.End;
    if (event.key === "Tab") {
      this.choose();
      return;
    }
    event.stopPropagation();
    if (event.altKey && event.key === "ArrowUp") this.choose();
    else if (event.key in steps) this.step(steps[event.key]);
    else if (event.key in ends) this.move(ends[event.key]);
    else if (event.key === "Enter" || (event.key === " " && !this.typed)) this.choose();
    else if (event.key === "Escape") {
      const { field } = this;
      this.close();
      field.focus();
    } else if (event.key.length === 1) this.find(event.key);
    else return;
    event.preventDefault();
  },
};

document.addEventListener("DOMContentLoaded", () => OwnList.setAside());
document.addEventListener("htmx:afterSwap", () => OwnList.setAside());
new MutationObserver(() => OwnList.setAside()).observe(document.documentElement, {
  attributeFilter: ["data-light"],
});

document.addEventListener(
  "mousedown",
  (event) => {
    if (OwnList.list) {
      const item = event.target.closest?.(".own-list > [role=option]");
      const same = OwnList.field.contains(event.target);
      if (item) {
        OwnList.move(OwnList.items.indexOf(item));
        OwnList.choose();
        event.preventDefault();
        return;
      }
      if (OwnList.list.contains(event.target)) return; // its own bar is dragged
      OwnList.close();
      if (same) {
        event.preventDefault();
        return;
      }
    }
    const field = OwnList.of(event.target);
    if (!field || event.button !== 0) return;
    if (field.tagName === "SELECT") {
      event.preventDefault();
      OwnList.open(field);
    }
  },
  true,
);

// A finger that did not move is a tap: some browsers open their list on nothing later than that.
document.addEventListener(
  "touchstart",
  (event) => {
    OwnList.touched = { x: event.touches[0].clientX, y: event.touches[0].clientY };
  },
  { passive: true, capture: true },
);
document.addEventListener(
  "touchend",
  (event) => {
    const field = OwnList.of(event.target);
    if (!field || field.tagName !== "SELECT" || !OwnList.touched) return;
    const end = event.changedTouches[0];
    const went = Math.hypot(end.clientX - OwnList.touched.x, end.clientY - OwnList.touched.y);
    if (went > 10) return;
    event.preventDefault();
    OwnList.open(field);
  },
  { passive: false, capture: true },
);

document.addEventListener("mousemove", (event) => {
  const item = event.target.closest?.(".own-list > [role=option]");
  if (item) OwnList.move(OwnList.items.indexOf(item));
});

document.addEventListener(
  "keydown",
  (event) => {
    if (OwnList.list) {
      OwnList.key(event);
      return;
    }
    const field = OwnList.of(event.target);
    if (!field || event.ctrlKey || event.metaKey) return;
    const select = field.tagName === "SELECT";
    const opens = event.altKey
      ? ["ArrowDown", "ArrowUp"].includes(event.key)
      : event.key === "F4" || (select ? ["Enter", " "].includes(event.key) : event.key === "ArrowDown");
    if (!opens) return;
    event.preventDefault();
    event.stopPropagation();
    OwnList.open(field);
  },
  true,
);

window.addEventListener("blur", () => OwnList.close());
window.addEventListener("resize", () => OwnList.close());
document.addEventListener(
  "scroll",
  (event) => {
    if (OwnList.list && event.target !== OwnList.list) OwnList.close();
  },
  true,
);
