"""Pictures of outings for docs/screenshots: the log on a phone, a frame, a snapshot."""

from __future__ import annotations

import tempfile
from pathlib import Path

from selenium.webdriver.chrome.webdriver import WebDriver
from selenium.webdriver.common.by import By
from selenium.webdriver.support.ui import WebDriverWait

from tests.browser import chromium
from tools.demo_frames import file, shots

_LONG = 60
_NAME = "Sallow Pit, low sun"
_MISSED = "pit-03.jpg"
_HEIGHT, _HORIZON = "0.9 m", 0.768
_FEET = (("Slate slab", "0.35,0.06"), ("Winch wheel", "0.67,0.575"))
_CLICKED = """
const form = document.getElementById("snapshot-form");
form.lens_height.value = arguments[0];
const ends = form.querySelectorAll("[name=horizon]");
ends[0].value = `0.1,${arguments[1]}`;
ends[1].value = `0.9,${arguments[1]}`;
for (const [name, foot] of arguments[2]) {
  const made = document.getElementById("snapshot-thing").content.cloneNode(true);
  made.querySelector("[name=thing_name]").value = name;
  made.querySelector("[name=thing_foot]").value = foot;
  document.getElementById("snapshot-things").append(made);
}
form.take_f.value = "5.6";
form.take_focal.value = "28";
form.dispatchEvent(new Event("input", { bubbles: true }));
"""
_DRAWN = "return document.querySelectorAll('.plan-row').length > 2"


def take(driver: WebDriver, address: str, folder: Path) -> None:
    """The pictures, from a demo that serves the sample world."""

    def until(script: str) -> None:
        WebDriverWait(driver, _LONG).until(lambda d: d.execute_script(script))

    def shot(name: str) -> None:
        until("return document.fonts.status === 'loaded'")
        driver.save_screenshot(str(folder / f"{name}.png"))
        print(f"docs/screenshots/{name}.png")

    def go(path: str, size: tuple[int, int], light: str) -> None:
        chromium.resize(driver, size)
        driver.get(address + path)
        driver.add_cookie({"name": "light", "value": light})
        driver.get(address + path)

    go("/outings/", chromium.WIDE, "daylight")
    driver.find_element(By.PARTIAL_LINK_TEXT, _NAME).click()
    outing = driver.current_url.removeprefix(address)
    go(f"{outing}there/", chromium.NARROW, "dark")
    shot("outing-there")
    go(f"{outing}after/", chromium.WIDE, "daylight")
    driver.find_element(By.PARTIAL_LINK_TEXT, _MISSED).click()
    shot("outing-frame")
    go("/outings/snapshot/", chromium.WIDE, "daylight")
    with tempfile.TemporaryDirectory() as at:
        path = Path(at) / "snapshot.jpg"
        path.write_bytes(file(shots()[0]))
        driver.find_element(By.ID, "snapshot-file").send_keys(str(path))
        until("return document.querySelector('[name=width_px]').value === '3000' && "
              "document.querySelector('#snapshot-picture').checkVisibility()")  # fmt: skip
    driver.execute_script(_CLICKED, _HEIGHT, _HORIZON, _FEET)
    until(_DRAWN)
    driver.execute_script("document.querySelector('.snapshot-known').scrollIntoView()")
    shot("snapshot")
