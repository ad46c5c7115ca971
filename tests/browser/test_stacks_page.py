"""Several frames made one: filled, worked on, seen beside one frame, and kept as a take."""

import re

import numpy as np
from playwright.sync_api import expect

from tests.browser.app_in_browser import InBrowser
from tests.stacking.frames import shot, still


class Together(InBrowser):
    def test_frames_dropped_become_one_picture_and_an_odd_one_is_named(self):
        page = self.page
        draw, light = np.random.default_rng(4), still()
        frames = [shot(light * draw.normal(1, 0.03, light.shape), n) for n in range(5)]
        frames.append(shot(light, 9, iso=800))
        self.visit("/takes")
        page.get_by_role("link", name="Stacking").click()
        page.get_by_label("Name of the new stack").fill("Sluice at dusk")
        page.get_by_role("button", name="New stack").click()
        start = page.get_by_role("button", name="Start")
        expect(start).to_be_disabled()
        named = [(f"f{number}.jpg", data) for number, data in enumerate(frames)]
        page.locator("input[type=file]").first.set_input_files(
            [{"name": name, "mimeType": "image/jpeg", "buffer": data} for name, data in named]
        )
        expect(page.get_by_role("heading", name=re.compile("6 frames"))).to_be_visible()
        page.get_by_role("radio", name=re.compile(r"It vanishes(?!,)")).check()
        page.get_by_label("Save as").select_option("jpg")
        start.click()
        result = page.get_by_role("region", name="Result")
        expect(result.get_by_text("5 frames, median")).to_be_visible()
        left = result.get_by_role("list", name="Left out")
        expect(left).to_contain_text("f5.jpg: it was taken at ISO 800")
        expect(page.get_by_alt_text("Stacked frames")).to_have_js_property("naturalWidth", 320)
        result.get_by_role("link", name="in the inbox").click()
        expect(page.get_by_role("heading", name="1 without a sheet")).to_be_visible()

    def test_land_by_its_own_frame_is_chosen_and_its_line_drawn_by_keys(self):
        page = self.page
        light = still()
        frames = [shot(light, n) for n in range(3)] + [shot(light * 0.5, 40, iso=50)]
        self.visit("/takes/stacks")
        page.get_by_label("Name of the new stack").fill("Trails over the hard")
        page.get_by_role("button", name="New stack").click()
        page.locator("input[type=file]").first.set_input_files(
            [
                {"name": f"f{number}.jpg", "mimeType": "image/jpeg", "buffer": data}
                for number, data in enumerate(frames)
            ]
        )
        expect(page.get_by_role("heading", name=re.compile("4 frames"))).to_be_visible()
        page.get_by_role("radio", name=re.compile("It leaves light trails")).check()
        page.get_by_label("Save as").select_option("jpg")
        land = self.region("Foreground frames")
        land.get_by_text("Choose frames").click()
        land.get_by_role("checkbox", name="f3.jpg").check()
        horizon = self.region("Horizon")
        horizon.get_by_role("button", name="Draw line").click()
        page.get_by_role("application").focus()
        for key in ("ArrowUp", "Enter", *["ArrowRight"] * 6, "Enter"):
            page.keyboard.press(key)
        expect(page.get_by_text("2 points, saved.")).to_be_visible()
        page.get_by_role("button", name="Close").click()
        expect(horizon).to_contain_text("A line through 2 points")
        page.get_by_role("button", name="Start").click()
        result = page.get_by_role("region", name="Result")
        expect(result.get_by_text(re.compile("3 frames, lighten"))).to_be_visible()

    def test_the_bench_shoots_a_set_of_the_sheet_and_the_walker_is_gone(self):
        page = self.page
        self.visit("/sheets/2")
        sheet = page.get_by_role("region", name="Takes")
        self.visit("/takes/stacks?sheet=2")
        page.get_by_label("Name of the new stack").fill("Quay without walkers")
        page.get_by_role("button", name="New stack").click()
        page.get_by_role("button", name="Shoot 20 on bench").click()
        expect(page.get_by_role("heading", name=re.compile("20 frames"))).to_be_visible(
            timeout=180_000
        )
        page.get_by_role("radio", name=re.compile("It vanishes, least noise")).check()
        page.get_by_role("button", name="Start").click()
        result = page.get_by_role("region", name="Result")
        expect(result.get_by_text(re.compile("20 frames.*shot within"))).to_be_visible(
            timeout=180_000
        )
        result.get_by_role("link", name="with the sheet’s takes").click()
        expect(sheet.get_by_role("button", name=re.compile("^Take"))).to_have_count(1)
