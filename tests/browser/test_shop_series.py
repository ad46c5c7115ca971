"""A shop series in the browser: from a list of twelve things to the zip that is handed over."""

import csv
import io
import re
import zipfile

import numpy as np
from PIL import Image
from playwright.sync_api import expect

from oxlen.core.series.comparing import series_difference
from oxlen.core.series.look import series_look
from oxlen.demo.yard_shop import THINGS
from oxlen.devices.standins.bench_series import Bench, Mistake, series_jpeg
from tests.browser.app_in_browser import InBrowser

TINS = THINGS.replace("Bronze cleat", "Wax")
WRONG = {
    3: Mistake(stops=-0.4),
    6: Mistake(tilt_deg=2.0),
    8: Mistake(mired=30),
    11: Mistake(blur_px=3),
}


def files():
    bench = Bench(33)
    return [
        {
            "name": f"tin-{number}.jpg",
            "mimeType": "image/jpeg",
            "buffer": series_jpeg(bench.take(number, wrong), f"2026-10-03T10:{number:02d}:00"),
        }
        for number in range(1, 13)
        for wrong in [WRONG.get(number)]
    ]


class ShopSeries(InBrowser):
    def test_from_a_csv_of_twelve_things_to_a_zip(self):
        page, actions = self.page, 0

        def press(role, name):
            nonlocal actions
            page.get_by_role(role, name=name, exact=True).click()
            actions += 1

        self.visit("/")
        sheet = self.sheet_of("Varnish tins for the shop")
        self.visit(f"/sheets/{sheet}")
        press("button", "Series")
        press("link", "Shop series")
        page.get_by_label("Import CSV").set_input_files(
            [{"name": "tins.csv", "mimeType": "text/csv", "buffer": TINS.encode()}]
        )
        expect(page.get_by_role("list", name="Things").get_by_role("listitem")).to_have_count(12)
        press("tab", "Shoot")
        expect(self.region("Next")).to_contain_text("Clear varnish")
        page.get_by_label("Add takes", exact=True).set_input_files(files())
        expect(page.get_by_text("Everything is shot.")).to_be_visible(timeout=60_000)
        press("tab", "Check")
        press("button", "Check series")
        expect(page.get_by_text("8 good, 3 to match, 1 to reshoot")).to_be_visible(timeout=60_000)
        worst = page.get_by_role("row").nth(1)
        expect(worst).to_contain_text(re.compile("11 .*Reshoot"))
        press("tab", "Hand over")
        press("button", "Make zip")
        with page.expect_download() as loading:
            press("link", "Download zip")
        actions += 4  # two buttons that open a picker, two choices in it
        self.assertLessEqual(actions, 14)
        self.handed_over(loading.value.path().read_bytes())

    def handed_over(self, made):
        with zipfile.ZipFile(io.BytesIO(made)) as archive:
            names = archive.namelist()
            rows = list(csv.DictReader(io.StringIO(archive.read("series.csv").decode())))
            looks = [series_look(self.codes(archive.read(name))) for name in names[:12]]
        self.assertEqual(names[2], "03-Spar-varnish.jpg")
        self.assertEqual([row["reasons"] for row in rows][2], "exposure")
        for number in (3, 6, 8):
            left = series_difference(looks[number - 1], looks[0])
            self.assertEqual(left.reasons, (), f"{number}: {left}")

    @staticmethod
    def codes(data):
        with Image.open(io.BytesIO(data)) as image:
            return np.asarray(image.convert("RGB"))

    def sheet_of(self, title):
        sheets = [sheet for outing in self.api("/outings") for sheet in outing["sheets"]]
        return next(sheet["id"] for sheet in sheets if sheet["title"] == title)

    def api(self, path):
        return self.page.request.get(f"{self.server.url}/api{path}").json()

    def test_the_yards_mistakes_are_found_and_one_is_shot_again(self):
        page = self.page
        page.goto(f"{self.server.url}/")
        page.get_by_role("link", name=re.compile("Tins and fittings")).first.click()
        page.get_by_role("button", name="Series", exact=True).click()
        page.get_by_role("link", name="Shop series").click()
        page.get_by_role("tab", name="Check").click()
        page.get_by_role("button", name="Check series").click()
        expect(page.get_by_text("9 good, 3 to match")).to_be_visible(timeout=60_000)
        chosen = self.region("Chosen picture")
        for name, words in (
            ("04 Tar varnish", "2.3° tilted"),
            ("07 Red lead primer", "mired warmer"),
            ("09 Mast tallow", "0.5 stop darker"),
        ):
            page.get_by_role("button", name=name).click()
            expect(chosen).to_contain_text(words)
        expect(self.region("Drift")).to_contain_text("1 picture is off by itself.")
        chosen.get_by_role("radio", name="Matched").click()
        expect(page.get_by_alt_text("09 Mast tallow, matched")).to_have_js_property(
            "complete", True
        )
        chosen.get_by_role("button", name="Shoot again").click()
        expect(self.region("Next")).to_contain_text("Mast tallow")
        again = series_jpeg(Bench(21).take(9), "2026-10-03T16:20:00")
        page.get_by_label("Add takes", exact=True).set_input_files(
            [{"name": "again.jpg", "mimeType": "image/jpeg", "buffer": again}]
        )
        expect(page.get_by_text("Everything is shot.")).to_be_visible()
        page.get_by_role("tab", name="Check").click()
        page.get_by_role("button", name="Check series").click()
        expect(page.get_by_text("10 good, 2 to match")).to_be_visible(timeout=60_000)

    def test_the_set_up_follows_what_is_asked(self):
        page = self.page
        page.goto(f"{self.server.url}/")
        page.get_by_role("link", name=re.compile("Tins and fittings")).first.click()
        page.get_by_role("button", name="Series", exact=True).click()
        page.get_by_role("link", name="Shop series").click()
        page.get_by_role("tab", name="Set up").click()
        plan = self.region("Plan")
        expect(plan).to_contain_text("2 lamps at 0.9 m")
        page.get_by_label("Uneven at most, stops").fill("0.1")
        expect(plan).to_contain_text("2 lamps at 1.7 m")
        page.get_by_role("radio", name="Window").click()
        expect(plan).to_contain_text(re.compile("Set the outing’s place|window light stays"))
