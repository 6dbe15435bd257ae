"""Retakes docs/screenshots from the demo data: ./aim shots"""

from __future__ import annotations

import os
import signal
import socket
import subprocess
import sys
import tempfile
import time
import urllib.error
import urllib.request
from pathlib import Path

from selenium.webdriver.support.ui import WebDriverWait

from tests.browser import chromium
from tools import shots_bench, shots_drills, shots_outings

ROOT = Path(__file__).resolve().parents[1]
FOLDER = ROOT / "docs" / "screenshots"
NIGHT = (
    "lens=16+mm+f/2+for+the+night&format=full-frame&pixels_across=6000&focal_length_mm=16"
    "&f_number=2&circle_mm=0.025&units=m&star_px=1.5"
)
TWO = "name=Hallin+Top&foreground=1.5+m&way=two"
PACK = (
    "document.querySelector('.pack-more').open = true;window.aimSettles = performance.now() + 1500;"
)
SHOTS: tuple[tuple[str, str, tuple[int, int], str, str], ...] = (
    ("view", "/view/", chromium.WIDE, "daylight", ""),
    ("view-dark", "/view/", chromium.WIDE, "dark", ""),
    ("view-field", "/view/plan/3/field/", chromium.NARROW, "daylight", ""),
    ("view-narrow", "/view/plan/3/", chromium.NARROW, "daylight", ""),
    ("street", "/street/", chromium.WIDE, "daylight", ""),
    ("cards-pack", "/cards/packs/1/", chromium.WIDE, "daylight", PACK),
    ("sky", "/sky/", chromium.WIDE, "dark", ""),
    ("sky-narrow", f"/sky/walk/?{NIGHT}&{TWO}&step=3", chromium.NARROW, "dark", ""),
    ("plan-sheet", "/cards/kept/3/sheet/", (1280, 1250), "daylight", ""),
    ("drills", "/drills/", chromium.WIDE, "daylight", ""),
    ("kept", "/kept/", chromium.WIDE, "daylight", ""),
    ("bag", "/bag/", chromium.WIDE, "daylight", ""),
)
STARTS_WITHIN = 60
SETTLES = ";window.aimSettles = performance.now() + 700;"
SETTLED = "return performance.now() > window.aimSettles && !document.querySelector('.htmx-request')"
"""What was done first has been answered: what waits for a pause in typing has had one."""


def free_port() -> int:
    """A port that nobody listens on."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port: int = probe.getsockname()[1]
        return port


def wait_for(address: str) -> None:
    """Until the server answers."""
    end = time.monotonic() + STARTS_WITHIN
    while True:
        try:
            urllib.request.urlopen(address).close()
        except urllib.error.URLError:
            if time.monotonic() > end:
                raise
            time.sleep(0.2)
        else:
            return


def take(address: str, var: str) -> None:
    """Every picture, from one browser."""
    driver = chromium.start()
    try:
        for name, path, size, light, done_first in SHOTS:
            chromium.resize(driver, size)
            driver.get(address + path)
            driver.add_cookie({"name": "light", "value": light})
            driver.get(address + path)
            WebDriverWait(driver, 10).until(
                lambda d: d.execute_script("return document.fonts.status") == "loaded"
            )
            if done_first:
                driver.execute_script(done_first + SETTLES)
                WebDriverWait(driver, 10).until(lambda d: d.execute_script(SETTLED))
            driver.save_screenshot(str(FOLDER / f"{name}.png"))
            print(f"docs/screenshots/{name}.png")
        shots_bench.take(driver, address, var, FOLDER)
        shots_outings.take(driver, address, FOLDER)
        shots_drills.take(driver, address, FOLDER)
    finally:
        driver.quit()


def main() -> int:
    """Serve fresh demo data on a port of its own, and photograph it."""
    FOLDER.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as var:
        port = free_port()
        environment = {**os.environ, "AIM_VAR": var}
        server = subprocess.Popen(
            [str(ROOT / "aim"), "demo", "--port", str(port)],
            env=environment,
            stdout=subprocess.DEVNULL,
        )
        try:
            wait_for(f"http://localhost:{port}/view/")
            take(f"http://localhost:{port}", var)
        finally:
            server.send_signal(signal.SIGINT)
            server.wait(timeout=10)
    return 0


if __name__ == "__main__":
    sys.exit(main())
