"""Headless Chromium, started the same way by the browser tests and by the screenshots."""

from __future__ import annotations

import os
from pathlib import Path

from selenium import webdriver
from selenium.webdriver.chrome.options import Options
from selenium.webdriver.chrome.service import Service

WIDE = (1280, 800)
NARROW = (390, 844)

_LIGHT, _WHOLE = Path("/usr/lib/chromium/chromium-headless-shell"), Path("/usr/bin/chromium")
"""Without its windows Chromium draws the same pages for half the work; where that is not installed,
the whole one does. It is the program itself that is started, not Debian's script for it, which
would end without it."""
_FLAGS = (
    "--headless=new",
    "--no-sandbox",
    "--disable-dev-shm-usage",
    "--hide-scrollbars",
    "--force-device-scale-factor=1",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--no-first-run",
    # One process draws all pages of a browser: starting another takes as long as a page.
    "--renderer-process-limit=1",
    "--disable-site-isolation-trials",
    "--disable-features=IsolateOrigins,site-per-process,SpareRendererForSitePerProcess",
)


def start(*, scripts: bool = True) -> webdriver.Chrome:
    """A browser of its own, with its console kept; ``scripts=False`` turns JavaScript off."""
    os.environ.update(SE_OFFLINE="true", SE_AVOID_STATS="true")
    options = Options()
    options.binary_location = str(_LIGHT if _LIGHT.exists() else _WHOLE)
    for flag in _FLAGS:
        options.add_argument(flag)
    options.set_capability("goog:loggingPrefs", {"browser": "ALL"})
    driver = webdriver.Chrome(options=options, service=Service("/usr/bin/chromedriver"))
    if not scripts:
        driver.execute_cdp_cmd("Emulation.setScriptExecutionDisabled", {"value": True})
    resize(driver, WIDE)
    return driver


def resize(driver: webdriver.Chrome, size: tuple[int, int], *, touch: bool = False) -> None:
    """Give the page exactly this many CSS pixels; ``--window-size`` alone falls short."""
    width, height = size
    metrics = {"width": width, "height": height, "deviceScaleFactor": 1, "mobile": touch}
    driver.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", metrics)
    driver.execute_cdp_cmd("Emulation.setTouchEmulationEnabled", {"enabled": touch})
