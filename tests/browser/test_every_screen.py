"""Every screen, in every theme and size: accessible, in view, light."""

import re
from pathlib import Path

from playwright.sync_api import expect

from tests.browser.app_in_browser import ROOT, InBrowser

AXE = ROOT / "web" / "node_modules" / "axe-core" / "axe.min.js"
AXE_RULES = "{runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa']}"
BUT_COLOURS = AXE_RULES.replace("}", ", rules: {'color-contrast': {enabled: false}}}")
TOO_SMALL = Path(__file__).with_name("too_small.js")
FOR_THE_FIELD = (
    "/",
    "/begin",
    "/begin?of=water",
    "/sheets/5",
    "/sheets/5?line=focus&part=line",
    "/sheets/5/run",
    "/sheets/9/time",
    "/takes",
    "/kit",
    "/places/1",
    "/outings/1/light",
    "/phone",
)
COLOURS = "{runOnly: ['color-contrast', 'link-in-text-block']}"


class EveryScreen(InBrowser):
    def test_no_accessibility_faults_in_any_theme(self):
        page = self.page
        for path in (
            "/",
            "/sheets/4",
            "/sheets/3",
            "/sheets/8",
            "/kit",
            "/takes",
            "/takes/learned",
            "/places/1?date=2026-10-03",
            "/places/1?show=night&date=2027-06-04",
            "/places/1?show=place",
            "/outings/2/light",
            "/sheets/14/drawing",
        ):
            self.visit(path)
            expect(page.locator("main, h1").first).to_be_visible()
            page.wait_for_timeout(300)
            page.wait_for_load_state("networkidle")
            page.evaluate(AXE.read_text("utf-8"))
            # Another theme is other colours on the same page.
            for theme, rules in (("day", AXE_RULES), ("sun", COLOURS), ("night", COLOURS)):
                page.evaluate("theme => { document.documentElement.dataset.theme = theme }", theme)
                found = page.evaluate(f"axe.run(document, {rules})")["violations"]
                words = [f"{v['id']}: {v['nodes'][0]['html'][:160]}" for v in found]
                with self.subTest(theme=theme, path=path):
                    self.assertEqual(words, [])

    def test_no_accessibility_faults_in_any_part_of_a_sheet(self):
        page = self.page
        # The smaller screen has the same colours.
        for width, height, rules in ((1280, 800, AXE_RULES), (390, 844, BUT_COLOURS)):
            page = self.open_page(width, height)
            self.visit("/sheets/2", page)
            page.evaluate("localStorage.setItem('oxlen-theme', 'night')")
            page.reload()
            page.get_by_role("radio", name="Dry run").click()
            predicted = page.get_by_role("img", name=re.compile("^Predicted frame, auto"))
            expect(predicted).to_be_visible()
            page.evaluate(AXE.read_text("utf-8"))
            for part in self.tabs(page):
                part.click()
                page.wait_for_timeout(200)
                found = page.evaluate(f"axe.run(document, {rules})")["violations"]
                words = [f"{v['id']}: {v['nodes'][0]['html'][:160]}" for v in found]
                with self.subTest(width=width, part=part.inner_text()):
                    self.assertEqual(words, [])

    def tabs(self, page):
        """The parts of a sheet, then its instruments."""
        for name in ("Parts of the sheet", "Instruments"):
            yield from page.get_by_role("tablist", name=name).get_by_role("tab").all()

    def test_large_text_covers_and_cuts_no_value_of_the_slip(self):
        for width, height in ((390, 844), (320, 640), (844, 390)):
            page = self.open_page(width, height)
            self.page = page
            self.visit("/sheets/5")
            for percent in (100, 150, 200):
                page.evaluate("p => { document.documentElement.style.fontSize = p + '%' }", percent)
                for field in ("iso", "shutter_s"):
                    value = page.locator(f".fixed [data-fact={field}]")
                    box = value.bounding_box()
                    with self.subTest(size=(width, height), percent=percent, field=field):
                        self.assertGreaterEqual(box["x"], 0)
                        self.assertLessEqual(box["x"] + box["width"], width)
                        self.assertLessEqual(box["y"] + box["height"], height)
                        on_top = value.evaluate(
                            "one => { const box = one.getBoundingClientRect();"
                            " return one.contains(document.elementFromPoint("
                            "box.right - 2, box.top + box.height / 2)) }"
                        )
                        self.assertTrue(on_top)

    def test_the_keyboard_skips_the_header(self):
        page = self.page
        self.visit("/")
        expect(page.get_by_role("heading", level=1, name="Outings")).to_be_visible()
        page.keyboard.press("Tab")
        page.keyboard.press("Enter")
        expect(page.get_by_role("main")).to_be_focused()
        page.keyboard.press("Tab")
        inside = "document.activeElement.closest('main') !== null"
        self.assertTrue(page.evaluate(inside))

    def test_a_link_leads_to_the_heading_of_the_next_page(self):
        page = self.page
        self.visit("/")
        for link in ("Places", "Kit", "Takes"):
            page.get_by_role("navigation", name="Main pages").get_by_role("link", name=link).focus()
            page.keyboard.press("Enter")
            expect(page.get_by_role("heading", level=1, name=link, exact=True)).to_be_focused()
        page.go_back()
        expect(page.get_by_role("heading", level=1, name="Kit", exact=True)).to_be_focused()
        # Whoever is at work in the page already is not taken away from it.
        self.visit("/takes")
        page.get_by_role("link", name="Kit").first.click()
        page.get_by_role("heading", level=1, name="Kit").wait_for()
        field = page.get_by_role("main").get_by_role("button").first
        field.focus()
        page.wait_for_timeout(500)
        self.assertTrue(field.evaluate("shown => shown === document.activeElement"))

    def test_a_new_sheet_begins_at_its_title(self):
        page = self.page
        self.visit("/begin?of=water")
        page.get_by_role("button", name="Show slip").click()
        expect(page.get_by_label("Sheet title")).to_be_visible()
        expect(page.get_by_role("heading", level=1)).to_be_focused()
        expect(page.get_by_role("link", name="Skip to content")).not_to_be_focused()

    def test_every_target_is_as_large_as_a_finger_on_a_phone(self):
        page = self.open_page(390, 844)
        self.page = page
        for path in FOR_THE_FIELD:
            self.visit(path)
            expect(page.locator("main, h1").first).to_be_visible()
            page.wait_for_load_state("networkidle")
            with self.subTest(path):
                self.assertEqual(page.evaluate(TOO_SMALL.read_text("utf-8")), [])

    def test_the_theme_is_there_at_the_first_frame(self):
        page = self.open_page()
        self.visit("/", page)
        page.evaluate("localStorage.setItem('oxlen-theme', 'night')")
        page.add_init_script(
            "requestAnimationFrame(() => {"
            " window.firstTheme = document.documentElement.dataset.theme; });"
        )
        page.reload()
        first = "new Promise(done => requestAnimationFrame(() => done(window.firstTheme)))"
        self.assertEqual(page.evaluate(first), "night")

    def test_small_screen_has_the_slip_one_tap_away(self):
        page = self.open_page(390, 844)
        self.visit("/sheets/5", page)
        page.get_by_role("button", name=re.compile("Lens Main")).click()
        expect(self.slip("Shutter", page)).to_have_text("1/6400 s")
        width = page.evaluate("document.documentElement.scrollWidth")
        self.assertLessEqual(width, 390)
        # A line chosen there brings its instrument into view, above the bar.
        page.get_by_role("dialog").get_by_text("White balance", exact=True).click()
        dial = page.get_by_role("slider", name="White balance dial")
        expect(dial).to_be_in_viewport(ratio=1)

    def test_nothing_hangs_over_the_edge_of_a_small_screen(self):
        for width in (360, 390, 768):
            page = self.open_page(width, 844)
            for path, dry in (
                ("/", False),
                ("/kit", False),
                ("/sheets/2", True),
                ("/sheets/8", False),
                ("/places/1?date=2026-10-03", False),
                ("/places/1?show=night&date=2027-06-04", False),
                ("/outings/2/light", False),
            ):
                self.visit(path, page)
                expect(page.locator("main, h1").first).to_be_visible()
                if dry:
                    page.get_by_role("radio", name="Dry run").click()
                    predicted = page.get_by_role("img", name=re.compile("^Predicted frame, slip"))
                    expect(predicted).to_be_visible()
                page.wait_for_load_state("networkidle")
                for part in self.tabs(page):
                    part.click()
                    shown = page.evaluate("document.documentElement.scrollWidth")
                    with self.subTest(width=width, path=path, part=part.inner_text()):
                        self.assertLessEqual(shown, width)
                self.assertLessEqual(
                    page.evaluate("document.documentElement.scrollWidth"), width, path
                )

    def test_text_twice_as_large_fits_a_narrow_phone(self):
        page = self.open_page(320, 640)
        for path in ("/", "/sheets/5", "/sheets/5/run", "/takes", "/kit", "/begin", "/phone"):
            with self.subTest(path=path):
                self.visit(path, page)
                expect(page.locator("main, h1").first).to_be_visible()
                page.wait_for_load_state("networkidle")
                page.evaluate("document.documentElement.style.fontSize = '200%'")
                shown = page.evaluate("document.documentElement.scrollWidth")
                self.assertLessEqual(shown, 320)

    def test_the_sheet_needs_no_scrolling_at_1280_by_800(self):
        self.visit("/sheets/5")
        expect(self.slip("Shutter")).to_be_visible()
        self.assertLessEqual(self.page.evaluate("document.documentElement.scrollHeight"), 800)
        for name in ("Tone rail", "Exposure map", "Slip"):
            self.assertLessEqual(self.bottom_of(self.page.get_by_role("region", name=name)), 801)

    def test_a_collision_and_three_ways_out_are_read_without_scrolling(self):
        for path in ("/sheets/3", "/sheets/4"):
            self.visit(path)
            expect(self.page.get_by_role("region", name="Conflict")).to_be_visible()
            if path == "/sheets/4":  # the nearest settings stay in sight
                expect(self.slip("Shutter")).to_have_text("1/1000 s")
            ways = self.page.get_by_role("region", name="Ways out").get_by_role("listitem")
            shown = min(3, ways.count())
            self.assertLessEqual(self.bottom_of(ways.nth(shown - 1)), 800)
            self.assertLessEqual(self.page.evaluate("document.documentElement.scrollHeight"), 800)

    def bottom_of(self, part):
        box = self.box_of(part)
        return box["y"] + box["height"]

    def test_the_scripts_of_a_sheet_stay_light(self):
        self.visit("/sheets/4")
        expect(self.slip("Shutter")).to_be_visible()
        # What is fetched at rest, for later, comes after the first thing is seen.
        sent = self.page.evaluate(
            "performance.getEntriesByType('resource').filter((r) => r.name.endsWith('.js') &&"
            " r.startTime <= performance.getEntriesByName('first-contentful-paint')[0].startTime)"
            ".map((r) => r.encodedBodySize)"
        )
        self.assertGreater(sum(sent), 120_000, sent)
        self.assertLess(sum(sent), 200_000, sent)
