"""Pictures of the bench for docs/screenshots: the result of a test."""

from __future__ import annotations

import sqlite3
from pathlib import Path

from selenium.webdriver.chrome.webdriver import WebDriver
from selenium.webdriver.common.by import By
from selenium.webdriver.support.ui import WebDriverWait

from tests.browser import chromium

_LENS = "50 mm f/1.8"
_SEED = 4
"""Of a copy that shifts its focus."""
_LONG = 120
_ALL_TAKEN = "return !document.querySelector('.bench-made-up') && document.querySelector('svg')"


def take(driver: WebDriver, address: str, var: str, folder: Path) -> None:
    """The pictures of the bench, from a demo that keeps its data in the folder ``var``."""

    def until(script: str) -> None:
        WebDriverWait(driver, _LONG).until(lambda d: d.execute_script(script))

    def shot(name: str) -> None:
        driver.save_screenshot(str(folder / f"{name}.png"))
        print(f"docs/screenshots/{name}.png")

    chromium.resize(driver, chromium.NARROW)
    driver.get(f"{address}/bench/")
    driver.add_cookie({"name": "light", "value": "daylight"})
    driver.get(f"{address}/bench/")
    driver.execute_script(
        "const list = document.getElementById('bench-lens');"
        f"list.value = [...list.options].find((one) => one.text === '{_LENS}').value"
    )
    driver.find_element(By.CSS_SELECTOR, "[name=kind][value=shift]").click()
    until("return document.querySelector('.bench-made-up')")
    test = driver.current_url
    chromium.resize(driver, chromium.WIDE)
    driver.get(test)
    with sqlite3.connect(Path(var) / "demo.sqlite3") as data:
        data.execute("update bench_test set made_up = ?", (_SEED,))
    driver.find_element(By.CSS_SELECTOR, ".bench-made-up .deed").click()
    until(_ALL_TAKEN)
    driver.execute_script("scrollTo(0, 60)")
    shot("bench-result")
