"""Tins for the yard shop: one sheet leads, eleven follow, and each says so."""

import re

from playwright.sync_api import expect

from tests.browser.app_in_browser import InBrowser

TINS = 5
"""A sheet of the demo with a slip."""


class ATinShoot(InBrowser):
    def start(self, count=3):
        page = self.page
        self.visit(f"/sheets/{TINS}")
        page.get_by_role("button", name="Series").click()
        page.get_by_label("New pictures").fill(str(count))
        page.get_by_label("New pictures").press("Tab")
        page.get_by_role("button", name=f"Start series of {count + 1}").click()
        expect(self.band()).to_contain_text(f"{count + 1} sheets. This sheet leads.")

    def band(self):
        return self.page.get_by_role("status").filter(has_text="Series")

    def follow(self):
        page = self.page
        page.get_by_role("button", name="Series").click()
        page.get_by_role("dialog").get_by_role("link").nth(1).click()
        expect(self.band()).to_contain_text("Settings from")

    def test_asked_by_number_the_sheets_are_there_with_the_same_slip(self):
        self.start(11)
        shutter = self.slip("Shutter").text_content()
        self.follow()
        expect(self.slip("Shutter")).to_have_text(shutter)
        locked = self.region("Slip").get_by_text(re.compile("Locked by"))
        self.assertGreaterEqual(locked.count(), 4)
        self.visit("/")
        expect(self.page.get_by_text(re.compile("^Series ")).first).to_be_visible()

    def test_a_sheet_that_differs_says_so_and_returns_with_one_button(self):
        self.start()
        self.follow()
        locked = self.region("Slip").get_by_text("Locked by")
        before = locked.count()
        self.page.get_by_role("slider", name="Slip on the map").focus()
        self.page.keyboard.press("ArrowLeft")
        expect(self.band()).to_contain_text("Changed here: Exposure")
        expect(locked).to_have_count(3)  # white balance, focus, what is saved
        self.page.get_by_role("button", name="Use series settings").click()
        expect(locked).to_have_count(before)

    def test_it_ends_and_every_sheet_keeps_its_settings(self):
        self.start()
        self.page.get_by_role("button", name="Series").click()
        self.page.get_by_role("button", name="End series").click()
        expect(self.page.get_by_text("Every sheet keeps its settings")).to_be_visible()
        expect(self.band()).to_have_count(0)
