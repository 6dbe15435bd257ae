// What was logged on this device and not sent yet goes now, whichever page of outings is opened: what
// came home is matched by it.
(async () => {
  const place = document.getElementById("log-sent");
  if (!place) return;
  const waiting = new Map();
  try {
    for (let at = 0; at < localStorage.length; at += 1) {
      const [, outing] = /^aim-log:(\d+):/.exec(localStorage.key(at)) ?? [];
      if (outing) waiting.set(outing, (waiting.get(outing) ?? 0) + 1);
    }
  } catch {
    return; // a browser that keeps nothing has nothing to send
  }
  let sent = 0;
  for (const [outing, count] of waiting) {
    const said = await new OutingLog(outing, place.dataset.log.replace("/0/", `/${outing}/`)).send();
    if (said === "sent") sent += count;
  }
  if (sent) place.textContent = `${sent} logged on this device ${sent === 1 ? "was" : "were"} sent just now.`;
})();
