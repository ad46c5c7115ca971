"""What is asked of a picture, set on the board in the browser, and what follows from it."""

import json
import re

from playwright.sync_api import expect

from tests.browser.app_in_browser import InBrowser


class Board(InBrowser):
    def open_row(self, path, name):
        self.visit(path)
        self.page.get_by_role("tab", name="Limits").click()
        self.page.get_by_role("tab", name=re.compile(f"{name} ")).click()

    def limit(self, name):
        return self.region("Exposure map").get_by_role("button", name=name)

    def commit(self, label, value):
        field = self.page.get_by_label(label, exact=True)
        field.fill(value)
        field.press("Enter")

    def test_a_pulsing_lamp_leaves_only_whole_pulses(self):
        page = self.page
        self.open_row("/sheets/7", "Lamps")
        expect(self.limit("no flicker")).to_have_count(0)
        page.get_by_role("radio", name="50 Hz mains").click()
        expect(self.limit("no flicker")).to_be_visible()
        expect(page.get_by_role("tabpanel", name=re.compile("Lamps"))).to_contain_text(
            "whole pulses of 10 ms"
        )
        # In the sun 1/100 s is too long: the collision names the lamp.
        expect(self.region("Slip")).to_contain_text("No flicker")
        page.get_by_role("radio", name="Driven lamp").click()
        self.commit("Driver, Hz", "4000")
        expect(page.get_by_role("tabpanel", name=re.compile("Lamps"))).to_contain_text(
            "whole pulses of 0.25 ms"
        )
        page.get_by_role("radio", name="Steady light").click()
        expect(self.limit("no flicker")).to_have_count(0)
        expect(self.slip("Shutter")).to_have_text("1/1250 s")

    def test_a_look_bounds_the_shutter_from_both_sides(self):
        page = self.page
        self.open_row("/sheets/4", "Motion blur")
        page.get_by_role("button", name="Add motion blur").click()
        panel = page.get_by_role("tabpanel", name=re.compile("Motion blur"))
        expect(panel).to_contain_text(re.compile("shows as threads from .* to "))
        self.commit("Least, × height", "5")
        # The most is at 0.4: the least may not pass it, and nothing changes.
        expect(panel).to_contain_text("Enter a number from 0.001 to 0.4. Still 0.1.")
        before = panel.get_by_role("button", name=re.compile("shows as threads")).inner_text()
        self.commit("Least, × height", "0.1")
        self.commit("Most, × height", "1")
        self.commit("Least, × height", "0.5")
        shows = panel.get_by_role("button", name=re.compile("shows as threads"))
        expect(shows).not_to_have_text(before)
        expect(panel).not_to_contain_text("A number from")
        panel.get_by_role("button", name="Remove").click()
        expect(panel).to_contain_text("No motion blur wanted")

    def test_frames_are_averaged_or_bracketed(self):
        page = self.page
        self.open_row("/sheets/4", "Frames")
        self.commit("Frames averaged", "8")
        expect(self.region("Slip")).to_contain_text("8 averaged")
        panel = page.get_by_role("tabpanel", name=re.compile("Frames"))
        panel.get_by_label("Stacking").select_option("bracketed")
        expect(panel.get_by_role("row")).to_have_count(3)
        expect(self.region("Slip")).to_contain_text("3 bracketed")

    def test_a_burst_lengthens_what_the_hand_can_hold(self):
        page = self.page
        self.open_row("/sheets/4", "Support")
        panel = page.get_by_role("tabpanel", name=re.compile("Support"))
        expect(panel).to_contain_text("about 1/3 s")
        self.commit("Burst, frames", "9")
        expect(panel).to_contain_text("burst of 9 with a 90% chance of a sharp frame")
        expect(page.get_by_role("tab", name=re.compile("Support"))).to_contain_text("burst of 9")
        self.commit("Stabiliser, stops", "0")
        expect(panel).not_to_contain_text("about 1/3 s")
        page.get_by_role("radio", name="Tripod").click()
        expect(page.get_by_label("Burst, frames")).to_have_count(0)
        expect(self.limit("hold still")).to_have_count(0)

    def test_where_it_is_seen_sets_how_clean_it_must_be(self):
        page = self.page
        self.open_row("/sheets/4", "Output size")
        panel = page.get_by_role("tabpanel", name=re.compile("Output size"))
        ceiling = panel.get_by_text(re.compile("The subject: SNR"))
        expect(ceiling).to_contain_text("SNR 10 at 1920 × 1440")
        page.get_by_label("Output", exact=True).select_option("print-a4")
        expect(ceiling).not_to_contain_text("1920 × 1440")
        page.get_by_role("radio", name="Excellent, 40").click()
        expect(ceiling).to_contain_text("SNR 40")
        page.get_by_role("radio", name="Custom").click()
        self.commit("Subject SNR", "25")
        expect(ceiling).to_contain_text("SNR 25")
        page.get_by_role("radio", name="Any noise").click()
        expect(ceiling).to_have_count(0)
        expect(panel).to_contain_text("Range to keep")

    def test_a_panned_mover_frees_the_hand(self):
        page = self.page
        self.open_row("/sheets/7", "Freeze motion")
        panel = page.get_by_role("tabpanel", name=re.compile("Freeze motion"))
        before = page.get_by_label("Speed, m/s").first.input_value()
        page.get_by_label("Subject").first.select_option(label="Someone running")
        expect(page.get_by_label("Speed, m/s").first).not_to_have_value(before)
        panel.get_by_role("button", name="Panned").first.click()
        expect(self.limit("hold still")).to_have_count(0)
        page.get_by_label("Sharpness").first.select_option("pixel")
        expect(page.get_by_label("Blur, px").first).to_have_value("2")

    def test_numbers_out_of_reason_are_refused_where_they_stand(self):
        page = self.page
        self.open_row("/sheets/4", "Support")
        self.commit("Risk accepted, stops", "99")
        expect(page.get_by_label("Risk accepted, stops")).to_have_attribute("aria-invalid", "true")
        expect(page.get_by_text("Enter a number from 0 to 15. Still 0.")).to_be_visible()
        self.commit("Risk accepted, stops", "1")
        expect(page.get_by_text("A number from")).to_have_count(0)
        panel = page.get_by_role("tabpanel", name=re.compile("Support"))
        expect(panel).to_contain_text("1.0 stop of shake accepted")

    def test_a_preset_goes_out_as_a_file_and_comes_back(self):
        page = self.page
        self.visit("/sheets/4")
        page.get_by_role("button", name="Presets").click()
        card = page.get_by_role("listitem").filter(has_text="Goods in a lit box")
        with page.expect_download() as download:
            card.get_by_role("button", name="Export").click()
        preset = json.loads(download.value.path().read_text("utf-8"))
        self.assertEqual(preset["format"], "oxlen-preset/1")
        mine = {**preset, "id": "tins-by-the-door", "name": "Tins by the door"}
        files = [("tins.json", json.dumps(mine)), ("notes.json", "{"), ("odd.json", '{"a": 1}')]
        for name, text in files:
            page.get_by_label("Import file").set_input_files(
                {"name": name, "mimeType": "application/json", "buffer": text.encode()}
            )
        expect(page.get_by_role("button", name="Apply Tins by the door")).to_be_visible()
        expect(page.get_by_text("notes.json is not valid JSON.")).to_be_visible()
        page.get_by_role("button", name="Apply Tins by the door").click()
        page.get_by_role("button", name="Undo").click()
        expect(self.slip("Shutter")).to_have_text("1/1000 s")
