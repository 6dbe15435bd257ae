"""Every key that the help names does something, on the screen that names it."""

from __future__ import annotations

from urllib.parse import urlsplit

from selenium.webdriver.common.keys import Keys

from tests import some
from tests.browser.base import BrowserTest
from web.ui.screens import Screen, every, known

NAMED = {
    "←": Keys.ARROW_LEFT, "→": Keys.ARROW_RIGHT, "↑": Keys.ARROW_UP, "↓": Keys.ARROW_DOWN,
    "Esc": Keys.ESCAPE, "Home": Keys.HOME, "End": Keys.END,
}  # fmt: skip
ON = {"on the ring": ".handle", "on a position": ".handle", "on a mark": "#dot-1"}
"""What a key is pressed on, by how its words in the help begin."""
FOLDED_AWAY = ("on a mark", "a way")
"""Of which what they change is folded away at first."""
STATE = """
  const shown = [...document.querySelectorAll("main, [role=main]")].map((e) => e.innerText);
  const open = [...document.querySelectorAll("details")].map((one) => one.open).join();
  const values = [...document.querySelectorAll("input, select")]
    .map((e) => e.type === "radio" || e.type === "checkbox" ? e.checked : e.value).join();
  const places = [...document.querySelectorAll("svg [transform]")]
    .map((e) => e.getAttribute("transform")).join();
  const at = document.activeElement;
  return [location.href, at?.id || at?.name, open, values, places, shown].join("|");
"""


def keys_of(words: tuple[tuple[str, bool], ...]) -> list[str]:
    """The keys that words of the help name, the last first: what is there at first comes last."""
    named = [word for word, is_key in words if is_key]
    if ("to", False) in words:
        first, last = named
        return [str(n) for n in some(range(int(last), int(first) - 1, -1), 2)]
    return named[::-1]


class KeysTest(BrowserTest):
    def press_all(self, screen: Screen, path: str) -> None:
        for words, does in some(screen.pressed, 4, first=len(screen.key)):
            self.open(path)
            if does.startswith(FOLDED_AWAY):
                self.read("document.querySelectorAll('details').forEach((one) => one.open = true)")
            self.wait_quiet()
            if ("Esc", True) in words and self.read("return !!document.querySelector('.handle')"):
                self.read("document.querySelector('.handle').focus()")
                self.press(Keys.ARROW_RIGHT)  # something to be given back
                self.wait_quiet()
            for key in keys_of(words):
                with self.subTest(screen=screen.key, key=key, does=does):
                    self.wait_ready()
                    on = next((sel for start, sel in ON.items() if does.startswith(start)), "")
                    self.read(
                        f"document.querySelector({on!r}).focus()"
                        if on
                        else "document.activeElement?.blur()"
                    )
                    before = self.read(STATE)
                    self.press(NAMED.get(key, key))
                    self.wait_for(lambda was=before: self.read(STATE) != was, f"{key}: {does}")
                    self.wait_quiet()

    def test_on_the_planners(self) -> None:
        for screen in every():
            if screen.address.endswith(":page") and screen.keys:
                self.press_all(screen, f"/{screen.key}/")

    def test_on_the_steps_of_the_night(self) -> None:
        self.press_all(known("walk"), "/sky/walk/?way=star&step=3")

    def test_on_the_steps_of_a_test(self) -> None:
        self.open("/bench/")
        self.follow("[name=kind][value=infinity]")
        at = urlsplit(self.driver.current_url).path
        self.press_all(known("bench-steps"), f"{at}steps/?step=3")

    def test_all_that_have_keys_are_asked(self) -> None:
        asked = {screen.key for screen in every() if screen.address.endswith(":page")}
        asked |= {"walk", "bench-steps"}
        # Each in tests of their own:
        asked |= {"field", "loupe", "snapshot", "outing-there", "outing-frame", "drill"}
        with_keys = {screen.key for screen in every() if screen.keys}
        self.assertLessEqual(with_keys, asked)
