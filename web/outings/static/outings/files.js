// Files of an outing, read one after the other: with a bar, to be stopped and gone on with. What was
// read already is passed over, whatever window read it.
(() => {
  const place = document.getElementById("after-files");
  if (!place) return;
  const bar = place.querySelector(".after-bar");
  const progress = bar.querySelector("progress");
  const says = bar.querySelector("p");
  const stop = bar.querySelector("[data-stop]");
  const wrong = place.querySelector(".after-wrong");
  const token = place.querySelector("[name=csrfmiddlewaretoken]").value;
  const PICTURE = /\.(jpe?g|tiff?|png|webp|hei[cf]|dng|nef|cr[23]|arw|raf|rw2|orf|pef|srw|xmp)$/i;
  const WAIT = 2000;
  const counts = { new: 0, same: 0, broken: 0, sidecar: 0 };
  let queue = [];
  let done = 0;
  let running = false;
  let stopped = false;

  const named = (name, file) => `${name}|${file.size}`;

  function show(text) {
    progress.max = Math.max(queue.length, 1);
    progress.value = done;
    const parts = [`${done} of ${queue.length}`];
    if (counts.same) parts.push(`${counts.same} were read before`);
    if (counts.broken) parts.push(`${counts.broken} cannot be read`);
    says.textContent = text ?? parts.join(", ");
    stop.textContent = running && !stopped ? "Stop" : "Go on";
    stop.hidden = done >= queue.length;
    wrong.hidden = counts.broken === 0;
    wrong.querySelector("summary").textContent = `${counts.broken} cannot be read`;
  }

  function blame(file, why) {
    const item = document.createElement("li");
    item.textContent = `${file.name}: ${why}`;
    const list = wrong.querySelector("ul");
    if (counts.broken === 1) list.replaceChildren();
    list.append(item);
  }

  async function one(file) {
    if (file.size > Number(place.dataset.limit)) return { state: "broken", says: "It is larger than 200 MB." };
    const body = new FormData();
    body.append("file", file, file.name);
    const answer = await fetch(place.dataset.take, { method: "POST", headers: { "X-CSRFToken": token }, body });
    if (answer.status === 404) return { state: "stop", says: "This outing was deleted meanwhile." };
    if (answer.status === 429) return { state: "wait", says: "" };
    try {
      return await answer.json();
    } catch {
      return { state: answer.status === 413 ? "broken" : "wait", says: "It is too large." };
    }
  }

  async function run() {
    if (running) return;
    running = true;
    stopped = false;
    bar.hidden = false;
    show();
    while (done < queue.length && !stopped) {
      const file = queue[done];
      let said;
      try {
        said = await one(file);
      } catch {
        said = { state: "wait", says: "" };
      }
      if (said.state === "wait") {
        show(said.says || "No line: it goes on by itself when there is one.");
        await new Promise((ready) => setTimeout(ready, WAIT));
        continue;
      }
      if (said.state === "stop" || said.state === "full") {
        stopped = true;
        running = false;
        show(said.says);
        return;
      }
      counts[said.state] = (counts[said.state] ?? 0) + 1;
      if (said.state === "broken") blame(file, said.says);
      done += 1;
      show();
    }
    running = false;
    show();
    if (done >= queue.length && counts.new + counts.sidecar + counts.broken > 0) window.location.reload();
  }

  async function begin(files) {
    let known = new Set();
    try {
      known = new Set((await (await fetch(place.dataset.known)).json()).files);
    } catch {
      // sent all the same: what is there is passed over there
    }
    const wanted = [...files].filter((file) => PICTURE.test(file.name) || file.type.startsWith("image/"));
    // Sidecars last: they speak of pictures.
    wanted.sort((a, b) => /\.xmp$/i.test(a.name) - /\.xmp$/i.test(b.name) || a.name.localeCompare(b.name, undefined, { numeric: true }));
    const fresh = wanted.filter((file) => !known.has(named(file.name, file)));
    counts.same += wanted.length - fresh.length;
    queue = queue.concat(fresh);
    bar.hidden = false;
    if (!wanted.length) show("No pictures are in there.");
    else if (fresh.length) run();
    else show("All of these were read before.");
  }

  place.addEventListener("change", (event) => {
    if ("files" in event.target.dataset) begin(event.target.files);
  });
  stop.addEventListener("click", () => {
    if (running && !stopped) stopped = true;
    else run();
    show();
  });

  async function* within(entry) {
    if (entry.isFile) yield new Promise((done, failed) => entry.file(done, failed));
    if (!entry.isDirectory) return;
    const reader = entry.createReader();
    for (;;) {
      const some = await new Promise((done, failed) => reader.readEntries(done, failed));
      if (!some.length) return;
      for (const one of some) yield* within(one);
    }
  }

  document.addEventListener("dragover", (event) => {
    event.preventDefault();
    place.classList.add("dropping");
  });
  document.addEventListener("dragleave", () => place.classList.remove("dropping"));
  document.addEventListener("drop", async (event) => {
    event.preventDefault();
    place.classList.remove("dropping");
    const entries = [...event.dataTransfer.items].map((one) => one.webkitGetAsEntry?.()).filter(Boolean);
    const files = [];
    if (!entries.length) files.push(...event.dataTransfer.files);
    for (const entry of entries) for await (const file of within(entry)) files.push(file);
    begin(files);
  });

  addEventListener("beforeunload", (event) => {
    if (running) event.preventDefault();
  });
})();
