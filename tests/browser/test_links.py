"""Links carry the numbers, and open for anyone; nothing copies an address that nobody can open."""

from __future__ import annotations

from urllib.parse import urlsplit

from tests.browser import chromium
from tests.browser.base import BrowserTest


class LinksTest(BrowserTest):
    expected_in_console = ("422 (Unprocessable",)

    def copied(self) -> str:
        """What is in the clipboard after the button was pressed."""
        where = {"origin": self.live_server_url,
                 "permissions": ["clipboardReadWrite", "clipboardSanitizedWrite"]}  # fmt: skip
        self.driver.execute_cdp_cmd("Browser.grantPermissions", where)
        self.click(".deed.copy")
        self.wait_for_text(".deed.copy", "Copied")
        script = "const done = arguments[0]; navigator.clipboard.readText().then(done)"
        return str(self.driver.execute_async_script(script))

    def test_a_friend_opens_the_link_of_what_was_saved(self) -> None:
        answer, shows = ".answer", "return document.querySelector('.answer').innerText"
        for app in ("view", "street", "sky"):
            with self.subTest(app):
                self.open(f"/{app}/?f_number=5.6&focal_length_mm=35&lens=")
                self.type_in("#kept-name", f"For a friend, {app}")
                self.follow("#save .deed")
                mine = urlsplit(self.driver.current_url).path
                self.assertNotEqual(mine, f"/{app}/")
                link, said = self.copied(), self.text(answer)
                self.assertEqual(urlsplit(link).path, f"/{app}/")
                self.assertEqual(urlsplit(self.driver.current_url).path, mine, "it stays here")
                friend = chromium.start()
                self.addCleanup(friend.quit)
                friend.get(link)
                shown = friend.execute_script(shows)
                self.assertEqual(shown, said)

    def test_sixty_marks_are_asked_for_answered_and_come_back(self) -> None:
        self.open("/view/")
        script = (
            "const c = new DataTransfer(); c.setData('text/plain', arguments[0]);"
            "document.querySelector('#mark-name-0').dispatchEvent(new ClipboardEvent('paste',"
            " { clipboardData: c, bubbles: true, cancelable: true }))"
        )
        lines = "\n".join(f"Stone by the way, number {n}\t{2 + n} m" for n in range(60))
        self.driver.execute_script(script, lines)
        self.wait_for(lambda: len(self.query().get("mark_name", [])) == 60)
        self.wait_for_text(".answer", "BH")
        said = self.text(".answer")
        self.assertNotIn("not counted", said)
        self.driver.refresh()
        self.wait_ready()
        self.assertEqual(self.text(".answer"), said)
        self.assertNotIn("iso", self.query(), "what says nothing is not sent")

    def test_from_a_phone_with_what_was_changed_a_moment_ago(self) -> None:
        chromium.resize(self.driver, chromium.NARROW, touch=True)
        self.addCleanup(chromium.resize, self.driver, chromium.WIDE)
        self.open("/view/")
        self.type_in("#mark-distance-1", "5.5 m")
        self.wait_for_text(".strip", "holds")
        self.wait_quiet()
        self.assertIn("mark_distance=5.5+m", self.copied())

    def test_a_page_that_could_not_be_saved_is_at_its_link(self) -> None:
        self.open("/view/?f_number=5.6&mark_distance=3+m&mark_name=Post")
        self.read("document.getElementById('kept-name').removeAttribute('maxlength')")
        self.type_in("#kept-name", "x" * 300)
        self.follow("#save .deed")
        self.wait_for_text("#message-name", "80")
        self.assertEqual(urlsplit(self.driver.current_url).path, "/view/")
        self.assertEqual(self.query()["f_number"], ["5.6"])
        self.driver.refresh()
        self.wait_ready()
        self.wait_for_text("#aperture-now", "f/5.6")
        value = self.read("return document.getElementById('kept-name').value")
        self.assertEqual(value, "x" * 300, "and what was typed is there")
