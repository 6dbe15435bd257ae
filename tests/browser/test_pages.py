"""All pages: the two lights, accessibility, help, and working without JavaScript."""

from __future__ import annotations

from pathlib import Path

from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import Select

from tests import WHOLE, some
from tests.browser import chromium
from tests.browser.base import BrowserTest
from tests.browser.plain import grey_pictures
from web.bag.models import Attachment, Body, Lens, Standard
from web.cards.models import Pack
from web.kept.kinds import kinds
from web.kept.models import Kept
from web.outings.models import Frame, Outing

AXE = (Path(__file__).parent / "vendor" / "axe.min.js").read_text()
LAYOUT = ["target-size", "scrollable-region-focusable", "bypass", "aria-hidden-focus", "label",
          "nested-interactive", "link-in-text-block", "summary-name"]  # fmt: skip
"""axe's rules about what a narrow screen may change."""
PAGES = (
    "/view/",
    "/view/?f_number=0&ring=1m",
    "/view/plan/{plan}/",
    "/cards/plan/sheet/",
    "/kept/",
    "/view/plan/0/",
    "/bag/",
    "/bag/lens/new/",
    "/bag/lens/{lens}/",
    "/bag/body/{body}/",
    "/bag/standard/{standard}/",
    "/bag/standards/",
    "/bag/formats/",
    "/bag/import/",
    "/you/",
    "/you/join/",
    "/you/sign-in/",
    "/you/reset/",
    "/you/reset/sent/",
    "/you/reset/Mg/no-such-token/",
    "/bag/adapter/{attachment}/",
    "/street/",
    "/street/?count=2&near=5m&far=2m&locked=inf",
    "/street/set/{set}/",
    "/kept/?kind=set",
    "/cards/set/card/?count=4",
    "/drills/positions/practice/?seed=1",
    "/sky/",
    "/sky/night/{night}/",
    "/kept/?kind=night",
    "/cards/night/card/?foreground=1.5+m",
    "/cards/",
    "/cards/lens/{lens}/?barrel=0",
    "/cards/kept/{plan}/card/",
    "/cards/packs/{pack}/",
    "/cards/strip/",
    "/bench/",
    "/bench/lens/{lens}/",
    "/bench/target/",
    "/bench/loupe/",
    "/outings/snapshot/?focal_length_mm=24&sensor_mm=36&width_px=3000&height_px=2000&lens_height=eye"
    "&horizon=0.1,0.71&horizon=0.9,0.71&thing_name=Slab&thing_foot=0.4,0.3&thing_top=0.4,0.5",
    "/outings/",
    "/outings/{outing}/",
    "/outings/{outing}/there/",
    "/outings/{outing}/log/",
    "/outings/{outing}/after/",
    "/outings/{outing}/sheet/",
    "/outings/frames/{frame}/",
    "/outings/learnt/",
    "/drills/",
    "/drills/field/",
    "/drills/ring/practice/?seed=1",
    "/drills/moment/practice/?seed=1",
    "/drills/blur/practice/?seed=1",
    "/drills/star/practice/?seed=1",
    "/cards/bag/",
    "/cards/at/?c=Pit&n=ring+2.6+m,+f/11&in=view&focal_length_mm=24",
    "/off-line/",
    "/sky/walk/?way=light&step=2",
    "/sky/?foreground=1.5+m&latitude=47&direction=N&height=40&ring=9+m&upright=1",
    "/sky/?pixels_across=&star_px=2&margin=0.5&latitude=47",
)


PLANNERS = ("/view/?", "/street/?", "/sky/?", "/cards/night/card", "/cards/plan/sheet")


def pages() -> list[str]:
    """The addresses, with the keys of what the sample world has."""
    keys = {model._meta.model_name: model.objects.all()[0].pk
            for model in (Lens, Body, Standard, Attachment)}  # fmt: skip
    keys["pack"] = Pack.objects.all()[0].pk
    keys["outing"] = Outing.objects.get(name="Sallow Pit, low sun").pk
    keys["frame"] = Frame.objects.get(name="pit-03.jpg").pk
    keys |= {kind.key: Kept.objects.filter(kind=kind.key)[0].pk for kind in kinds()}
    return [page.format(**keys) for page in PAGES]


class PagesTest(BrowserTest):
    expected_in_console = ("404 (Not Found)",)

    @classmethod
    def setUpClass(cls) -> None:
        grey_pictures(cls)
        super().setUpClass()

    def test_each_on_a_phone_and_by_axe_in_either_light_on_either_screen(self) -> None:
        """On a phone nothing sticks out and every target is large enough: every day on every
        fourth page. By axe, everything on a wide page by day; on a narrow one what has to do with
        where things stand, and with colours in the dark: the elements are the same, but on the
        planners, which have their own drawings there. Every day one of these on every eighth page,
        by turns; on the first, all."""
        self.addCleanup(chromium.resize, self.driver, chromium.WIDE)
        for at, page in enumerate(pages()):
            if at % 4 and not WHOLE:
                continue
            chromium.resize(self.driver, chromium.NARROW, touch=True)
            self.open(page)
            self.unfold()
            with self.subTest(page=page, on="a phone"):
                self.assert_fits_a_phone()
            if at % 8 and not WHOLE:
                continue
            self.driver.execute_script(AXE)
            ways = (
                (chromium.WIDE, "daylight", None),
                (chromium.NARROW, "dark", [*LAYOUT, "color-contrast"]),
                (chromium.NARROW, "daylight", ["color-contrast"]),
            )[: 3 if page.startswith(PLANNERS) else 2]
            for size, light, rules in some(ways, len(ways) if at else 1, first=at // 8):
                chromium.resize(self.driver, size)
                self.read(f"document.documentElement.dataset.light = '{light}'")
                with self.subTest(page=page, light=light, size=size):
                    self.assertEqual(self.complaints(rules), [])

    def complaints(self, rules: list[str] | None) -> list[str]:
        """What axe finds on the page as it is; ``rules``: by these alone."""
        found: list[str] = self.driver.execute_async_script(
            "const [rules, done] = arguments;"
            "const wanted = {resultTypes: ['violations'], preload: false,"
            " ...(rules && {runOnly: rules})};"
            "const frame = () => new Promise(r => requestAnimationFrame(r));"
            "const settled = async () => { await frame(); await frame();"
            " while (document.querySelector('.htmx-request')) await frame(); };"
            "settled().then(() => axe.run(document, wanted)).then(r => done(r.violations.map("
            "v => v.id + ': ' + v.nodes.map(n => n.html).join(' ').slice(0, 300))))",
            rules,
        )
        return found

    def unfold(self) -> None:
        """Open all that is folded away, and what more can be said of a mark."""
        self.read("for (const fold of document.querySelectorAll('details')) fold.open = true;")
        self.read("document.querySelector('.more')?.click();")

    def assert_fits_a_phone(self) -> None:
        self.assertEqual(self.read("return document.documentElement.scrollWidth"), 390)
        small = self.read(
            "return [...document.querySelectorAll("
            "'button:not(.term), .ways a, .screens a, .choice, .deed, summary, .thing')]"
            ".filter(e => e.offsetParent && e.getBoundingClientRect().height < 43.5)"
            ".map(e => e.outerHTML.slice(0, 80))"
        )
        self.assertEqual(small, [], "targets under 44 px")

    def test_the_dark_is_dark(self) -> None:
        self.open("/view/")
        self.click(".for-daylight")
        self.wait_until("return document.documentElement.dataset.light === 'dark'")
        self.open("/view/")
        self.assertEqual(self.find("html").get_attribute("data-light"), "dark", "and stays so")
        colours = self.read(
            "const seen = new Set();"
            "for (const e of document.querySelectorAll('body, body *')) {"
            "  const s = getComputedStyle(e);"
            "  for (const p of ['color', 'backgroundColor', 'fill', 'stroke', 'borderTopColor',"
            "    'borderLeftColor', 'borderBottomColor', 'outlineColor'])"
            "    if (s[p].startsWith('rgb')) seen.add(s[p]);"
            "} return [...seen]"
        )
        for colour in colours:
            parts = [float(n) for n in colour[colour.index("(") + 1 : -1].split(",")]
            if len(parts) == 4 and parts[3] == 0:
                continue
            self.assertLessEqual(max(parts[1], parts[2]), 25, f"{colour} is not red alone")

    def test_help_is_about_its_page(self) -> None:
        for path, words in (
            ("/view/", "without a certified filter"), ("/street/", "local law comes first"),
            ("/sky/", "Latitude"), ("/bag/", "Start with my own"), ("/bag/lens/new/", "its throw"),
            ("/bag/standards/", "by the pixel"), ("/kept/", "deleted lately"),
            ("/you/", "How far off you judge"),
        ):  # fmt: skip
            self.open(path)
            said = self.read("return document.getElementById('help').textContent")
            self.assertIn(words, said, path)

    def test_help_opens_by_key_and_closes_by_escape(self) -> None:
        self.open("/view/")
        ActionChains(self.driver).send_keys("?").perform()
        self.wait_until("return document.getElementById('help').offsetHeight > 0")
        self.assertIn("without a certified filter", self.text("#help"))
        ActionChains(self.driver).send_keys(Keys.ESCAPE).perform()
        self.wait_until("return document.getElementById('help').offsetHeight === 0")

    def test_a_plan_that_is_not_there_says_so(self) -> None:
        self.open("/view/plan/0/")
        self.assertIn("There is no such plan", self.text("main"))


class WithoutScriptsTest(BrowserTest):
    scripts = False

    def test_the_same_form_with_a_button_does_the_same_job(self) -> None:
        self.driver.get(f"{self.live_server_url}/view/")
        field = self.find("#f_number")
        field.clear()
        field.send_keys("16")
        self.find("#mark-name-4").send_keys("Heron")
        self.find("#mark-distance-4").send_keys("9 m")
        self.follow(".work")
        self.assertIn("f/16", self.find(".answer").text)
        self.assertIn("f_number=16", self.driver.current_url)
        self.assertEqual(self.find("#mark-name-4").get_attribute("value"), "Heron")
        self.assertIn("holds", self.find("#verdict-4").text)
        self.assertTrue(self.find(".sightline.wide .curve").is_displayed())
        self.follow(".units a")
        self.assertIn("ft", self.driver.current_url)
        self.follow(".for-daylight")
        self.assertEqual(self.find("html").get_attribute("data-light"), "dark")
        self.assertIn("f_number=16", self.driver.current_url, "and the scene is still there")
        Select(self.find("#pick-lens")).select_by_visible_text("50 mm f/1.8")
        self.follow(".take")
        self.assertIn("focal_length_mm=50", self.driver.current_url)
        self.find("#kept-name").send_keys("By hand")
        self.follow("#save .deed")
        self.assertIn("/view/plan/", self.driver.current_url)
