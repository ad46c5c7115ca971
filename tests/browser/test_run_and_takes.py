"""From a picture to a kept take: checklist, comparison with the plan, correction."""

import re
import unittest

import numpy as np
from playwright.sync_api import expect

from tests.browser.app_in_browser import InBrowser
from tests.pictures.making import exif, jpeg


def scene(light=1.0):
    """A wall of fine grain with a bright strip and a grey field, under so much light."""
    draw = np.random.default_rng(7)
    linear = np.full((600, 800), 0.06) * draw.uniform(0.5, 1.5, (600, 800))
    linear[:150] = 0.5
    for _ in range(60):
        y, x = draw.integers(160, 560), draw.integers(20, 740)
        linear[y : y + 24, x : x + 30] = draw.uniform(0.02, 0.35)
    codes = 255 * np.clip(linear * light, 0, 1) ** (1 / 2.2)
    return np.repeat(codes[:, :, None], 3, axis=2).astype(np.uint8)


class RunAndTakes(InBrowser):
    def test_a_take_in_other_light_is_corrected_and_the_second_is_kept(self):
        page = self.page
        self.sheet(9.0)
        number = page.url.rsplit("/", 1)[1]
        self.choose_file("plan.jpg", jpeg(scene(), exif(iso=100, shutter=(1, 100))))
        expect(page.get_by_alt_text("Picture of Made for this")).to_be_visible()
        page.get_by_alt_text("Picture of Made for this").click(position={"x": 120, "y": 120})
        page.get_by_label("Role of spot-1").select_option("subject")
        self.saved()
        planned = self.slip_now(number)
        page.get_by_role("tab", name="Picture").click()
        self.add_take("one.jpg", scene(0.4), planned)
        page.get_by_role("region", name="Takes").get_by_role(
            "button", name=re.compile("^Take")
        ).click()
        found = page.get_by_role("region", name="Compared with the plan")
        expect(found.get_by_text(re.compile("The light changed: .* less"))).to_be_visible()
        found.get_by_text("All measurements").click()
        expect(found.get_by_text("same as the slip")).to_be_visible()
        found.get_by_role("button", name="Use correction").click()
        self.saved()
        corrected = self.slip_now(number)
        more = corrected["shutter_s"] * corrected["iso"] / planned["shutter_s"] / planned["iso"]
        self.assertAlmostEqual(float(np.log2(more)), 1.3, delta=0.5)
        self.add_take("two.jpg", scene(0.4 * more), corrected)
        takes = page.get_by_role("region", name="Takes").get_by_role(
            "button", name=re.compile("^Take")
        )
        expect(takes).to_have_count(2)
        takes.nth(1).click()
        shown = page.get_by_role("dialog")
        expect(shown.get_by_text("Keep it.")).to_be_visible()
        shown.get_by_role("radio", name="Keep").click()
        page.keyboard.press("Escape")
        expect(page.get_by_text("kept", exact=False).first).to_be_visible()

    def test_the_run_ticks_off_counts_down_and_stays_after_a_reload(self):
        page = self.open_page(390, 844)
        self.page = page
        self.visit("/sheets/9/run")
        care = page.get_by_role("region", name="Take care")
        expect(care).to_contain_text("stay clear of wet edges")
        dial = page.get_by_role("region", name="Dial").get_by_role("listitem")
        expect(dial.first).to_contain_text("Turn auto ISO off")
        first = page.get_by_role("checkbox").first
        first.check()
        page.reload()
        expect(page.get_by_role("checkbox").first).to_be_checked()
        page.get_by_role("button", name="Start over").click()
        expect(page.get_by_role("checkbox").first).not_to_be_checked()

    def test_set_up_as_last_time_large_numbers_and_a_clock_that_outlives_a_reload(self):
        page = self.open_page(390, 844)
        self.page = page
        self.visit("/sheets/9/run")
        page.get_by_role("button", name="As last time").click()
        set_up = page.get_by_role("region", name="Set up the phone").get_by_role("checkbox")
        self.assertTrue(all(box.is_checked() for box in set_up.all()))
        expect(page.get_by_role("button", name="As last time")).to_have_count(0)
        expect(page.get_by_alt_text(re.compile("^Picture of"))).to_be_visible()
        shutter = page.get_by_role("listitem").filter(has_text="Shutter").locator("b").first
        text = shutter.inner_text()
        page.get_by_role("button", name="Large numbers").click()
        large = page.get_by_role("region", name="Large numbers")
        shown = large.get_by_text(text, exact=True)
        size_px = float(shown.evaluate("one => getComputedStyle(one).fontSize")[:-2])
        self.assertGreaterEqual(size_px, 60)
        large.get_by_role("button", name="Checklist").click()
        frames = {"count": 60, "gap_s": 1, "combine": "average"}
        self.sheet(-5, support="tripod", frames=frames, output={"snr": "any"})
        self.visit(f"/sheets/{page.url.rsplit('/', 1)[1]}/run")
        page.get_by_role("button", name=re.compile("^Start ")).first.click()
        expect(page.get_by_role("timer")).to_be_visible()
        page.reload()
        expect(page.get_by_role("timer")).to_be_visible()
        page.get_by_role("button", name="Stop").click()
        page.reload()
        expect(page.get_by_role("timer")).to_have_count(0)

    def test_a_long_set_is_counted_under_a_black_screen(self):
        page = self.open_page(390, 844)
        self.page = page
        frames = {"count": 120, "gap_s": 1, "combine": "average"}
        stars = {"kind": "stars", "land": "dark"}
        self.sheet(-5, sky=stars, support="tripod", frames=frames, output={"snr": "any"})
        self.visit(f"/sheets/{page.url.rsplit('/', 1)[1]}/run")
        shoot = page.get_by_role("listitem").filter(has_text="120 frames in a row")
        shoot.get_by_role("button", name="Start").click()
        page.get_by_role("button", name="Darken the screen").click()
        cover = page.get_by_role("button", name="Touch to light the screen")
        box = cover.bounding_box()
        self.assertEqual((box["width"], box["height"]), (390, 844))
        dark = cover.evaluate("one => getComputedStyle(one).backgroundColor")
        self.assertEqual(dark, "rgb(0, 0, 0)")
        words = cover.inner_text()
        self.assertRegex(words, r"until \d\d:\d\d\. Touch to light the screen")
        cover.click()
        expect(cover).to_have_count(0)
        shoot.get_by_role("button", name="Stop").click()
        expect(page.get_by_text("Now shoot the foreground frames")).to_be_visible()

    def choose_file(self, name, data):
        picked = {"name": name, "mimeType": "image/jpeg", "buffer": data}
        self.page.locator("input[type=file][multiple]").first.set_input_files([picked])

    def add_take(self, name, pixels, slip):
        block = exif(iso=round(slip["iso"]), shutter=(1, max(1, round(1 / slip["shutter_s"]))))
        picked = {"name": name, "mimeType": "image/jpeg", "buffer": jpeg(pixels, block)}
        self.page.get_by_label("Add takes").first.set_input_files([picked])

    def slip_now(self, number):
        answer = self.page.request.get(f"{self.server.url}/api/sheets/{number}").json()
        return answer["answer"]["plan"]["slip"]


if __name__ == "__main__":
    unittest.main()
