// Distances guessed out there: the guess first, then how it was found out. Kept on this device at once.
(() => {
  const form = document.getElementById("field-form");
  if (!form) return;
  const log = new TryLog(form);
  const line = document.getElementById("field-line");
  const message = form.querySelector(".message");
  const list = document.getElementById("field-list");

  function show() {
    list.replaceChildren(...log.waiting.filter((one) => one.way).reverse().map((one) => {
      const why = log.refused[one.key];
      const row = made("li", {}, made("span", {}, `${one.said}, was ${one.was}`), made("small", {}, why ?? "not sent yet"));
      if (why) row.append(made("button", { type: "button", className: "plain", onclick: () => mend(one) }, "Mend"));
      return row;
    }));
  }

  // What was refused goes back into the form, as it was typed.
  function mend(one) {
    for (const name of ["said", "was", "way"]) form.elements[name].value = one[name];
    log.forget(one.key);
    form.elements.said.focus();
    show();
  }

  async function send() {
    const said = await log.send();
    line.textContent = said === "refused" ? "One could not be read: mend it below." : log.line(said) || "all sent";
    show();
  }

  form.addEventListener("submit", (event) => {
    event.preventDefault();
    const [said, was, way] = ["said", "was", "way"].map((name) => form.elements[name].value.trim());
    const whole = said && was;
    message.textContent = whole ? "" : "Give both: as you guessed it, and as it was.";
    if (!whole) return;
    if (!log.add({ said, was, way })) {
      message.textContent = "No room on this device: that was not kept. Write it down.";
      return;
    }
    form.elements.said.value = "";
    form.elements.was.value = "";
    form.elements.said.focus();
    show();
    send();
  });

  addEventListener("online", send);
  show();
  send();
  carryAlong();
})();
