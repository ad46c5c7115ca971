"""One's own phone, from nothing: its pictures in, a slip with its lens out, a figure measured."""

import re
import shutil
import tempfile
from math import log2
from pathlib import Path

from playwright.sync_api import expect

from oxlen.devices.standins import mystery_pictures as pictures
from oxlen.devices.standins.mystery_phone import mystery_phone
from oxlen.store.library import open_library
from tests.browser.app_in_browser import InBrowser, shared
from tests.browser.test_every_screen import AXE, AXE_RULES

MOST_ACTIONS = 6
PHONE = mystery_phone(5, size=(1024, 768))


class YourPhone(InBrowser):
    def begin(self, folder):
        """An Oxlen nobody has used yet, and a phone's pictures on disk."""
        shutil.rmtree(folder)
        self.folder = Path(tempfile.mkdtemp(dir=shared().root))
        open_library(self.folder / "empty")
        self.server.open(self.folder / "empty")

    def written(self, files):
        for file in files:
            (self.folder / file.name).write_bytes(file.content)
            yield str(self.folder / file.name)

    def choose_files(self, button, files):
        with self.page.expect_file_chooser() as chooser:
            self.page.get_by_role("button", name=button).click()
        chooser.value.set_files(list(self.written(files)))

    def sound(self):
        self.page.evaluate(AXE.read_text())
        found = self.page.evaluate(f"axe.run(document, {AXE_RULES})")["violations"]
        self.assertEqual(
            [(violation["id"], violation["nodes"][0]["html"]) for violation in found], []
        )

    def test_from_its_pictures_to_a_slip_with_its_lens(self):
        page, actions = self.page, 0
        self.visit("/")
        page.get_by_role("button", name="Add my phone").click()
        actions += 1
        self.choose_files("Choose pictures", pictures.everyday(PHONE))
        actions += 2  # the button, and the files chosen
        expect(page.get_by_role("heading", name=PHONE.profile.name)).to_be_visible()
        self.sound()
        page.get_by_role("button", name=f"Keep {PHONE.profile.name}").click()
        actions += 1
        page.get_by_role("button", name="Use this picture").click()
        actions += 1
        page.wait_for_url("**/sheets/*")
        aperture = f"f/{PHONE.lens.f_number:g}"
        expect(self.region("Slip")).to_contain_text(aperture)
        expect(self.slip("Shutter")).to_have_text(re.compile(r"\d"))
        self.assertLessEqual(actions, MOST_ACTIONS)

    def test_a_waterfall_on_ones_own_phone(self):
        page = self.page
        self.visit("/kit/new")
        self.choose_files("Choose pictures", pictures.everyday(PHONE))
        page.get_by_role("button", name=f"Keep {PHONE.profile.name}").click()
        page.get_by_role("button", name="Use this picture").wait_for()
        self.visit("/")
        page.get_by_role("button", name="Plan a picture").click()
        page.get_by_role("button", name="Flowing water").click()
        actions = 3
        for answer in ("Waterfall", "ND 1000, 10 stops", "Tripod"):
            choice = page.get_by_role("radio", name=answer, exact=True)
            if not choice.is_checked():
                choice.click()
                actions += 1
        page.get_by_role("button", name="Show slip").click()
        page.wait_for_url("**/sheets/*")
        self.assertLessEqual(actions, MOST_ACTIONS)
        expect(self.region("Slip")).to_contain_text(PHONE.profile.name)
        expect(self.region("Slip")).to_contain_text(f"f/{PHONE.lens.f_number:g}")
        number = page.url.rsplit("/", 1)[1].split("?")[0]
        sheet = page.request.get(f"{self.server.url}/api/sheets/{number}").json()
        plan = sheet["answer"]["plan"]
        slip = plan["slip"]
        # What the settings expose for is the light, less the filter: log2(N²/t) − log2(S/100).
        bare = log2(PHONE.lens.f_number**2 / slip["shutter_s"]) - log2(slip["iso"] / 100)
        worn = sum(log2(lens_filter["factor"]) for lens_filter in sheet["body"]["glass"])
        self.assertAlmostEqual(worn, 10, delta=0.05)
        wanted = plan["wanted_ev100"] - worn
        self.assertAlmostEqual(bare, wanted, delta=0.34)

    def test_a_measurement_guided_left_taken_up_and_used(self):
        page = self.page
        self.visit("/kit/new")
        self.choose_files("Choose pictures", pictures.everyday(PHONE))
        page.get_by_label("Lowest ISO").fill("100")
        page.get_by_label("Highest ISO").fill("3200")
        page.get_by_role("button", name=f"Keep {PHONE.profile.name}").click()
        page.get_by_role("button", name="Open kit").click()
        measure = page.locator("li").filter(has_text="Noise and full well")
        measure.get_by_role("button", name="Measure").click()
        flats = list(pictures.flats(PHONE, [100]))
        self.choose_files("Choose pictures", flats[:4])
        expect(page.get_by_text("4 pictures read")).to_be_visible()
        page.get_by_role("button", name="Close").click()
        measure.get_by_role("button", name="Continue").click()
        expect(page.get_by_text("4 pictures read")).to_be_visible()
        self.choose_files("Add pictures", flats[4:])
        expect(page.get_by_label("Result")).to_contain_text("A pixel holds")
        self.sound()
        page.get_by_role("button", name="Use this").click()
        expect(page.get_by_text("Measured so far (1)")).to_be_visible()
        expect(page.get_by_text(re.compile(r"\(measured, ±")).first).to_be_visible()
