"""After the take: development, why the slip changed, and what all takes say."""

import io
import re

from PIL import Image
from playwright.sync_api import expect

from oxlen.store.library import open_library
from tests.browser.app_in_browser import InBrowser
from tests.shot_by_hand import shot_by_hand


class AfterTheTake(InBrowser):
    def sheet_with_takes(self):
        outings = self.page.request.get(f"{self.server.url}/api/outings").json()
        sheets = [item for outing in outings for item in outing["sheets"]]
        return next(sheet["id"] for sheet in sheets if sheet["title"] == "White hull in full sun")

    def open_take(self, number):
        takes = self.region("Takes").get_by_role("button", name=re.compile("^Take"))
        takes.nth(number).click()
        shown = self.page.get_by_role("dialog")
        shown.get_by_text("Develop").click()
        expect(shown.get_by_alt_text("Developed take", exact=True)).to_be_visible()
        return shown

    def test_a_take_is_developed_saved_and_its_steps_serve_another(self):
        self.visit(f"/sheets/{self.sheet_with_takes()}")
        shown = self.open_take(0)
        exposure = shown.get_by_label(re.compile("^Exposure"))
        exposure.fill("1.5")
        exposure.press("Enter")
        expect(shown.get_by_alt_text("Developed take", exact=True)).to_be_visible()
        sizes = []
        for label in ("Save JPEG", "Save 16-bit TIFF"):
            with self.page.expect_download() as download:
                shown.get_by_role("button", name=label).click()
            data = download.value.path().read_bytes()
            sizes.append(Image.open(io.BytesIO(data)).size)
        self.assertEqual(sizes[0], sizes[1])
        shown.get_by_role("button", name="Save steps").click()
        expect(self.page.get_by_text("Development saved with the take")).to_be_visible()
        self.page.keyboard.press("Escape")
        other = self.open_take(1)
        other.get_by_label("Steps of another take").select_option(index=1)
        expect(other.get_by_label(re.compile("^Exposure"))).to_have_value("1.5")

    def test_a_saved_slip_explains_what_an_edit_moved(self):
        page = self.page
        self.sheet(9.0, support="tripod")
        why = page.locator("details", has_text="Why did it change?")
        why.locator("summary").click()
        expect(why.get_by_text("This sheet has not been changed yet.")).to_be_visible()
        why.get_by_label("Slip name").fill("by the jetty")
        why.get_by_role("button", name="Save").click()
        saved = why.get_by_role("listitem").filter(has_text="by the jetty")
        expect(saved).to_contain_text("ISO")
        number = int(page.url.rsplit("/", 1)[1])
        url = f"{self.server.url}/api/sheets/{number}"
        kept = page.request.get(url).json()
        kept["body"]["readings"][0]["source"]["ev100"] = 7.0
        changed = {"body": kept["body"], "version": kept["version"], "label": "Light"}
        answer = page.request.put(url, data=changed)
        self.assertEqual(answer.status, 200, answer.text())
        page.reload()
        why.locator("summary").click()
        saved.get_by_role("button", name="What changed since").click()
        expect(why.get_by_text("since “by the jetty” was saved")).to_be_visible()
        expect(why.get_by_text(re.compile(r"2\.0\sstops"))).to_be_visible()

    def test_what_takes_say_is_taken_in_use_and_let_go(self):
        library = open_library(self.server.folder)
        shot_by_hand(library, self.sheet_with_takes(), 40, stops=3.0, off=0.4)
        self.visit("/takes/learned")
        meter = self.page.get_by_role("region", name=re.compile("meter", re.IGNORECASE)).first
        meter.get_by_role("button", name="Use this").click()
        expect(meter.get_by_text("New slips use it.")).to_be_visible()
        meter.get_by_role("button", name=re.compile("Use phone")).click()
        expect(meter.get_by_role("button", name="Use this")).to_be_visible()
