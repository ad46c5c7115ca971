"""A drawing with a lamp in the browser: chosen, seen, mirrored, counted through, and kept."""

import re

from playwright.sync_api import expect

from tests.browser.app_in_browser import InBrowser


class LampDrawing(InBrowser):
    def test_a_word_is_planned_seen_mirrored_and_used(self):
        page = self.page
        self.visit("/sheets/14/drawing")
        drawing = page.get_by_role("region", name="Result")
        expect(drawing.get_by_text(re.compile("ISO 50"))).to_be_visible()
        page.get_by_label("Word or shape").fill("OAR")
        page.get_by_label("Word or shape").press("Enter")
        expect(page.get_by_role("button", name="heart")).to_have_attribute("aria-pressed", "false")
        expect(page.get_by_alt_text("Predicted frame")).to_have_js_property("naturalWidth", 960)
        page.get_by_role("radio", name="As you draw").click()
        hand = page.get_by_role("img", name="Path of the hand, mirrored")
        expect(hand.locator("polyline")).to_have_count(5)
        page.get_by_role("button", name="Use this drawing").click()
        expect(page.get_by_text("The sheet uses this drawing now.")).to_be_visible()
        body = page.request.get(f"{self.server.url}/api/sheets/14").json()["body"]
        self.assertEqual(body["drawing"]["what"], "OAR")
        page.get_by_role("button", name="Start countdown").click()
        timer = page.get_by_role("timer")
        expect(timer).to_contain_text("Starts in")
        expect(timer).to_contain_text("Lamp on")
        page.get_by_role("button", name="Stop").click()
        expect(timer).to_have_count(0)

    def test_the_ways_to_a_time_are_compared_and_one_is_taken(self):
        page = self.page
        self.visit("/sheets/8/time")
        best = page.get_by_role("list", name="Best routes").get_by_role("listitem")
        expect(best).to_have_count(3)
        expect(best.first).to_contain_text("Polariser and ND 1000")
        expect(best.first).to_contain_text("ISO 50")
        others = page.get_by_role("list", name="Routes to this time").get_by_role("listitem")
        expect(others.filter(has_text="copies of").first).to_contain_text("too short")
        axis = page.get_by_role("slider", name="Total time")
        before = axis.get_attribute("aria-valuetext")
        axis.focus()
        for _ in range(20):
            page.keyboard.press("ArrowRight")
        self.assertNotEqual(axis.get_attribute("aria-valuetext"), before)
        best.first.get_by_role("button", name="Use this").click()
        expect(page).to_have_url(re.compile(r"/sheets/8$"))
        expect(page.get_by_role("region", name="Slip").get_by_text("ND 1000").first).to_be_visible()
