"""The map and the ruler under a hand: clicked, dragged, tapped, and by their keys."""

import re

from playwright.sync_api import expect

from tests.browser.app_in_browser import InBrowser


class OnTheMap(InBrowser):
    def dot(self):
        return self.page.get_by_role("slider", name="Slip on the map")

    def middle(self):
        box = self.box_of(self.dot())
        return box["x"] + box["width"] / 2, box["y"] + box["height"] / 2

    def by_hand(self):
        return self.page.get_by_text("Chosen by hand", exact=True)

    def steps(self):
        words = self.dot().get_attribute("aria-valuetext")
        iso, shutter = re.match(r"ISO (\d+), (1/\d+|[\d.]+) s", words).groups()
        return int(iso), shutter

    def test_a_click_on_the_dot_chooses_nothing(self):
        self.sheet(12.0)
        expect(self.slip("Shutter")).to_be_visible()
        self.page.mouse.click(*self.middle())
        self.page.wait_for_timeout(300)
        expect(self.by_hand()).to_have_count(0)
        expect(self.page.get_by_role("button", name="Undo")).to_be_disabled()

    def test_dragged_along_the_line_it_keeps_the_exposure_and_far_off_it_does_not(self):
        page = self.page
        self.sheet(12.0)
        expect(self.slip("Shutter")).to_have_text("1/640 s")
        x, y = self.middle()
        page.mouse.move(x, y)
        page.mouse.down()
        # Up and to the left, as the line runs; the dot snaps to it.
        page.mouse.move(x - 6, y - 60, steps=6)
        iso, shutter = self.steps()
        page.mouse.up()
        expect(self.by_hand()).to_be_visible()
        self.assertGreater(iso, 50)
        # Reciprocity: ISO over the shutter's denominator stays within half a step.
        denominator = float(shutter.removeprefix("1/"))
        self.assertAlmostEqual(denominator / iso, 640 / 50, delta=0.15 * 640 / 50)
        expect(page.get_by_text("It meets every limit.").first).to_be_visible()
        x, y = self.middle()
        page.mouse.move(x, y)
        page.mouse.down()
        page.mouse.move(x + 120, y - 60, steps=6)
        page.mouse.up()
        expect(page.get_by_role("region", name="Slip")).to_contain_text("brighter than planned")
        self.saved()
        page.keyboard.press("Home")
        expect(self.slip("Shutter")).to_have_text("1/640 s")
        expect(self.by_hand()).to_have_count(0)

    def test_a_double_click_gives_the_plan_back(self):
        page = self.page
        self.sheet(12.0)
        self.dot().focus()
        page.keyboard.press("ArrowLeft")
        page.keyboard.press("ArrowLeft")
        expect(self.by_hand()).to_be_visible()
        # Where the plan's own pair was, a ring stays.
        expect(page.locator("circle[stroke-dasharray='3 2']")).to_have_count(1)
        page.mouse.dblclick(*self.middle())
        expect(self.by_hand()).to_have_count(0)
        expect(page.locator("circle[stroke-dasharray='3 2']")).to_have_count(0)

    def test_it_never_leaves_the_ladders(self):
        page = self.page
        self.sheet(12.0)
        self.dot().focus()
        for key, times in (("ArrowUp", 30), ("ArrowRight", 3)):
            for _ in range(times):
                page.keyboard.press(key)
        self.assertEqual(self.steps()[0], 3200)
        for _ in range(40):
            page.keyboard.press("ArrowDown")
        self.assertEqual(self.steps()[0], 50)
        self.saved()
        self.page.reload()
        expect(self.slip("ISO")).to_have_text("50")
        self.assertEqual(self.faults, [])

    def test_a_limit_is_changed_from_its_name_on_the_map(self):
        page = self.page
        self.sheet(2.0)
        # 1/3 s is what the hand holds: ISO 500 keeps a stop inside it.
        expect(self.slip("ISO")).to_have_text("500")
        page.get_by_role("region", name="Exposure map").get_by_role(
            "button", name="hold still"
        ).click()
        dialog = page.get_by_role("dialog")
        expect(dialog).to_contain_text("t_max = 2^stab/f35")
        dialog.get_by_label("Support").select_option("tripod")
        # Without a hand in it the lowest ISO: f/1.8, EV 2 at ISO 50 wants 1.6 s.
        expect(self.slip("ISO")).to_have_text("50")
        expect(self.slip("Shutter")).to_have_text("1.6 s")

    def test_keys_of_the_sheet(self):
        page = self.page
        page.context.grant_permissions(["clipboard-read", "clipboard-write"])
        self.sheet(12.0)
        expect(self.slip("Shutter")).to_have_text("1/640 s")
        page.keyboard.press("c")
        expect(page.get_by_text("Slip copied.")).to_be_visible()
        self.assertIn("1/640 s", page.evaluate("navigator.clipboard.readText()"))
        # Typed into a field they are letters.
        title = page.get_by_label("Sheet title")
        title.fill("")
        title.press_sequentially("unc?")
        title.press("Enter")
        self.saved()
        expect(title).to_have_value("unc?")
        expect(page.get_by_role("dialog")).to_have_count(0)

    def test_the_sun_theme_is_larger_and_says_so_to_the_device(self):
        page = self.page
        self.visit("/")
        plain = page.evaluate("getComputedStyle(document.documentElement).fontSize")
        page.get_by_role("button", name="Theme: Day").click()
        page.get_by_role("menuitemradio", name=re.compile("^Sun")).click()
        larger = page.evaluate("getComputedStyle(document.documentElement).fontSize")
        self.assertGreater(float(larger[:-2]), float(plain[:-2]))
        expect(page.locator("html")).to_have_attribute("data-theme", "sun")


class OnTheRuler(InBrowser):
    def test_a_tap_sets_the_step_under_the_finger(self):
        self.page = self.open_page(390, 844)
        page = self.page
        self.sheet(12.0)
        dot = page.get_by_role("slider", name="Slip on the ruler")
        expect(dot).to_be_visible()
        ruler = page.get_by_role("group", name=re.compile("^Exposure ruler"))
        columns = []
        for share in (0.08, 0.92):
            # Measured anew: on a busy machine parts of the page above it are still coming.
            box = self.box_of(ruler)
            ruler.click(position={"x": share * box["width"], "y": box["height"] - 60})
            self.saved()
            columns.append(int(dot.get_attribute("aria-valuenow")))
        self.assertGreater(columns[1], columns[0] + 5)
        page.keyboard.press("Escape")
        dot.focus()
        for _ in range(4):
            page.keyboard.press("ArrowLeft")
        self.assertEqual(int(dot.get_attribute("aria-valuenow")), columns[1] - 4)
