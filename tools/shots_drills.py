"""Pictures of drills for docs/screenshots: three of them, each as it is told what was true."""

from __future__ import annotations

from pathlib import Path

from selenium.webdriver.chrome.webdriver import WebDriver
from selenium.webdriver.support.ui import WebDriverWait

from tests.browser import chromium

_LONG = 30
_SHOWN = "return document.getElementById('task').dataset.shown === String(drill.at)"
_TOLD = "return document.getElementById('task').dataset.told === String(drill.at)"
_OFF = "drill.stage.go(drill.task.best + arguments[0]); document.getElementById('set').click()"
_NAMED = (
    "drill.stage.pick(drill.task.best + 1);"
    "setTimeout(() => drill.stage.pick(drill.task.then.best + 1), 50)"
)
_PICTURES = "return [...document.images].every((one) => one.complete && one.naturalWidth > 0)"


def take(driver: WebDriver, address: str, folder: Path) -> None:
    """The pictures, from a demo that serves the sample world."""

    def until(script: str) -> None:
        WebDriverWait(driver, _LONG).until(lambda d: d.execute_script(script))

    for name, drill, seed, light, script, said in (
        ("drill-distance", "distance", 12, "daylight", _OFF, 3),
        ("drill-star", "star", 5, "dark", _OFF, -7),
        ("drill-blur", "blur", 5, "daylight", _NAMED, 0),
    ):
        chromium.resize(driver, chromium.WIDE)
        driver.get(address)
        driver.add_cookie({"name": "light", "value": light})
        driver.get(f"{address}/drills/{drill}/practice/?seed={seed}")
        until(_SHOWN)
        driver.execute_script(script, said)
        until(_TOLD)
        until(_PICTURES)
        until("return document.fonts.status === 'loaded'")
        driver.execute_script("document.activeElement.blur(); scrollTo(0, 0)")
        driver.save_screenshot(str(folder / f"{name}.png"))
        print(f"docs/screenshots/{name}.png")
