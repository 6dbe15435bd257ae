"""A pack as somebody makes it: named, filled, ordered and printed, by keys and with nothing to wait
for but the press."""

from __future__ import annotations

import re

from selenium.webdriver.common.keys import Keys

from tests.browser.base import BrowserTest
from web.bag.models import Lens
from web.cards.models import Pack


class PacksTest(BrowserTest):
    def names(self) -> list[str]:
        found: list[str] = self.read(
            "return [...document.querySelectorAll('.pack-card b:first-child')]"
            ".map((one) => one.textContent)"
        )
        return found

    def test_from_a_name_to_the_pdf_by_keys_alone(self) -> None:
        self.open("/cards/")
        self.tab_to("#pack-name")
        self.press("Coast", Keys.ENTER)
        self.wait_until("return document.querySelector('.pack-page') !== null")
        for _ in range(4):
            self.tab_to(".pack-more input:not(:checked)")
            self.press(" ")
        self.tab_to(".pack-more button")
        self.press(Keys.ENTER)
        self.wait_for(lambda: len(self.names()) == 4)
        self.wait_ready()
        self.wait_for_text(".pack-cards", "not printed yet")
        first, second = self.names()[:2]
        self.tab_to(".pack-cards li:nth-child(2) button[value=up]")
        self.press(Keys.ENTER)
        self.wait_for(lambda: self.names()[:2] == [second, first])
        self.wait_ready()
        self.tab_to(".pack-print button")
        self.press(Keys.ENTER)
        self.wait_until("return document.querySelector('#progress') !== null")
        self.wait_until("return document.getElementById('pack-pdf') !== null")
        self.assertIn("4 of 4 cards", self.text("#progress"))
        link = self.find("#pack-pdf").get_attribute("href")
        found = self.driver.execute_async_script(
            "const [link, done] = arguments;"
            "fetch(link).then((one) => one.blob()).then((one) => done([one.type, one.size]))",
            link,
        )
        self.assertEqual(found[0], "application/pdf")
        self.assertGreater(found[1], 20_000)

    def test_what_changed_since_says_so_on_the_page(self) -> None:
        self.open("/cards/")
        self.follow("[aria-labelledby=of-packs] a")
        self.follow(".pack-print button")
        self.wait_until("return document.getElementById('pack-pdf') !== null")
        pack = Pack.objects.exclude(copied_from=None).get()
        lens = Lens.objects.filter(owner=pack.owner)[0]
        lens.name = "The zoom with the dent"
        lens.save()
        self.open(f"/cards/packs/{pack.pk}/")
        self.wait_for_text(".pack-cards", "Changed since it was printed")
        self.assertIn("The zoom with the dent", self.text(".pack-cards .changed ~ *, .pack-cards"))
        self.click("button[name=which]")
        self.wait_until("return document.getElementById('pack-pdf') !== null")
        # The zoom's own card, and the plans that name the lens as it was called.
        ready, of_all = map(int, re.findall(r"\d+", self.text("#progress"))[:2])
        self.assertEqual(ready, of_all)
        self.assertLess(of_all, pack.cards.count())
