"""Takes: what waits for a sheet, the logbook, and takes side by side."""

import re

import numpy as np
from playwright.sync_api import expect

from tests.browser.app_in_browser import InBrowser
from tests.pictures.making import exif, jpeg


class TakesPage(InBrowser):
    def bring(self, *files):
        self.page.locator("input[type=file][aria-label='Choose files']").set_input_files(
            [{"name": name, "mimeType": "image/jpeg", "buffer": data} for name, data in files]
        )

    def test_what_was_shot_finds_its_sheet_and_a_bad_file_is_named(self):
        page = self.page
        slip = page.request.get(f"{self.server.url}/api/sheets/7").json()["answer"]["plan"]["slip"]
        shot = exif(iso=round(slip["iso"]), shutter=(1, round(1 / slip["shutter_s"])))
        self.visit("/takes")
        good = jpeg(np.full((60, 80, 3), 120), shot)
        self.bring(("bad.jpg", b"nothing"), ("IMG_1.jpg", good), ("IMG_2.jpg", good))
        coming = page.get_by_role("region", name="Imports")
        expect(coming.get_by_text("2 of 3 imported, 1 not imported:")).to_be_visible()
        expect(coming.get_by_text("bad.jpg")).to_be_visible()
        coming.get_by_role("button", name="Dismiss").click()
        expect(page.get_by_role("heading", name="1 without a sheet")).to_be_visible()
        expect(
            page.get_by_text(re.compile("Sail trials.*same settings as its slip"))
        ).to_be_visible()
        page.get_by_role("button", name="Add to “Sail trials from the jetty”").click()
        expect(page.get_by_role("heading", name="Import what you shot")).to_be_visible()
        log = page.get_by_role("list", name="Logbook")
        # One more than the two of the hull and the twelve of the shop.
        kept = page.request.get(f"{self.server.url}/api/logbook/count").json()
        self.assertEqual(kept["count"], 15)
        page.get_by_label("Find").fill("sail jetty")
        expect(log.get_by_role("listitem")).to_have_count(1)
        expect(page).to_have_url(re.compile("words=sail"))

    def test_takes_are_judged_together_and_seen_through_one_window(self):
        page = self.page
        self.visit("/takes?words=hull")
        log = page.get_by_role("list", name="Logbook")
        expect(log.get_by_role("checkbox")).to_have_count(2)
        for box in log.get_by_role("checkbox").all():
            box.check()
        chosen = page.get_by_role("region", name="Chosen takes")
        chosen.get_by_role("button", name="Keep").click()
        expect(log.get_by_text("kept")).to_have_count(2)
        for box in log.get_by_role("checkbox").all():
            box.check()
        chosen.get_by_role("button", name="Side by side").click()
        frames = page.get_by_role("region", name=re.compile(r"^Take \d"))
        expect(frames).to_have_count(2)
        expect(frames.nth(1).get_by_text("Total: 0.3 stop darker")).to_be_visible()
        pictures = frames.get_by_role("application").locator("img")
        frames.first.get_by_role("application").focus()
        page.keyboard.press("+")
        styles = [pictures.nth(place).get_attribute("style") for place in range(2)]
        self.assertIn("scale(1.5)", styles[0])
        self.assertEqual(*styles)
        zoom = page.get_by_role("group", name="Zoom and move")
        finger = frames.first.get_by_role("application")
        self.assertEqual(finger.evaluate("seen => getComputedStyle(seen).touchAction"), "none")
        zoom.get_by_role("button", name="Zoom in").click()
        zoom.get_by_role("button", name="Move right").click()
        # 2.25 times as large, a third of what was in view further on: 0.5 + 1 / (3 · 2.25).
        expect(pictures.first).to_have_attribute("style", re.compile(r"scale\(2\.25\)"))
        across = float(re.search(r"translate\(([-.\d]+)%", pictures.last.get_attribute("style"))[1])
        self.assertAlmostEqual(across, 100 * (0.5 / 2.25 - (0.5 + 1 / (3 * 2.25))), delta=0.01)
        zoom.get_by_role("button", name="Whole frame").click()
        expect(zoom.get_by_role("button", name="Move left")).to_have_count(0)
        self.assertEqual(finger.evaluate("seen => getComputedStyle(seen).touchAction"), "pan-y")
        page.get_by_label("1:1 pixels").check()
        for place in range(2):
            expect(pictures.nth(place)).to_have_js_property("naturalWidth", 640)
        page.get_by_role("radio", name="Blink").click()
        expect(frames).to_have_count(1)
