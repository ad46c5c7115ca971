"""At the spot with one thumb: from an opened sheet to what is wanted, counted."""

import re
import unittest
from math import log2

import numpy as np
from playwright.sync_api import expect

from oxlen.network.serving import Wanted
from tests.browser.phone.with_phone import WithPhone
from tests.pictures.making import exif, jpeg

MOST_TAPS = 4
"""From an opened sheet; the shutter of the camera is one."""
F_NUMBER = 1.8


def picture(level, shutter=(1, 50), f_number=(18, 10)):
    codes = np.full((300, 400, 3), level, dtype=np.uint8)
    return jpeg(codes, exif(iso=100, shutter=shutter, f_number=f_number))


def seconds(text):
    """A shutter as it is shown, in seconds."""
    number = text.removesuffix(" s")
    return 1 / float(number[2:]) if number.startswith("1/") else float(number)


def set_ev100(iso, shutter_s):
    """What settings expose for: log2(N²/t) − log2(S/100). [ISO2721]"""
    return log2(F_NUMBER**2 / shutter_s) - log2(iso / 100)


class Counted(WithPhone):
    """A walk whose taps are counted."""

    def setUp(self):
        super().setUp()
        self.taps = 0

    def tearDown(self):
        self.assertTrue(0 < self.taps <= MOST_TAPS, self.taps)

    def tap(self, part):
        part.tap()
        self.taps += 1

    def open_slip(self):
        self.tap(self.phone.get_by_role("button", name=re.compile("^Lens ")))
        return self.phone.get_by_role("dialog")

    def fact(self, name):
        return self.phone.locator(f".fixed [data-fact={name}]").inner_text()

    def slip_ev100(self):
        return set_ev100(float(self.fact("iso")), seconds(self.fact("shutter_s")))


class InTheField(Counted):
    def setUp(self):
        super().setUp()
        self.url = self.paired(is_secure=False)

    def open(self, **body):
        self.sheet(9.0, **body)
        self.phone.goto(f"{self.url}/sheets/{self.sheet_now()['id']}")
        expect(self.phone.get_by_label("Sheet title")).to_be_visible()

    def test_the_light_is_read_again_by_one_picture(self):
        self.open(readings=[])
        self.take("wall.jpg", picture(118))
        self.taps += 1
        expect(self.phone.locator(".fixed [data-fact=shutter_s]")).to_be_visible()
        # Mid-grey at f/1.8, 1/50 s and ISO 100 is EV 7.3, to a third of a stop of the dials.
        self.assertAlmostEqual(self.slip_ev100(), log2(F_NUMBER**2 * 50), delta=0.34)

    def test_a_cloud_comes(self):
        self.open()
        before = self.slip_ev100()
        self.assertAlmostEqual(before, 9.0, delta=0.34)
        slip = self.open_slip()
        self.tap(slip.get_by_role("region", name="Light now").get_by_role("button").first)
        self.phone.get_by_role("button", name="Close").tap()
        expect(self.phone.get_by_text(re.compile("^Saved"))).to_be_visible()
        self.assertAlmostEqual(abs(self.slip_ev100() - before), 0.5, delta=0.34)

    def test_the_slip_for_other_light_is_in_the_table(self):
        self.open()
        slip = self.open_slip()
        self.tap(slip.get_by_text("If the light changes"))
        row = slip.get_by_role("table").last.get_by_role("row", name=re.compile("2 stops less"))
        expect(row).to_be_visible()
        shutter, iso = re.search(r"(1/\d+|[\d.]+) s, ISO (\d+)", row.inner_text()).groups()
        self.assertAlmostEqual(set_ev100(float(iso), seconds(shutter + " s")), 7.0, delta=0.34)

    def test_the_checklist_and_its_large_numbers(self):
        self.open()
        shutter = self.fact("shutter_s")
        self.tap(self.phone.get_by_role("link", name="Checklist"))
        self.tap(self.phone.get_by_role("button", name="Large numbers"))
        large = self.phone.get_by_role("region", name="Large numbers")
        expect(large.get_by_text(shutter, exact=True)).to_be_visible()

    def test_a_card_to_carry(self):
        self.open()
        shutter = self.fact("shutter_s")
        slip = self.open_slip()
        self.tap(slip.get_by_role("button", name="Field card"))
        link = self.phone.get_by_role("link", name="Field card")
        card = self.phone.request.get(self.url + link.get_attribute("href"))
        self.taps += 1
        self.assertIn("Made for this", card.text())
        self.assertIn(shutter, card.text())

    def test_the_screen_goes_dark_for_the_night(self):
        self.open()
        self.tap(self.phone.get_by_role("button", name="Theme: Day"))
        self.tap(self.phone.get_by_role("menuitemradio", name=re.compile("^Night")))
        brightest = self.phone.evaluate(
            "getComputedStyle(document.body).backgroundColor.match(/\\d+/g).map(Number)"
        )
        self.assertLess(max(brightest[:3]), 40)

    def test_what_was_shot_is_judged_beside_the_plan(self):
        self.open(readings=[])
        self.take("wall.jpg", picture(118))
        expect(self.phone.get_by_alt_text("Picture of Made for this")).to_be_visible()
        self.tap(self.phone.get_by_role("tab", name="Picture"))
        self.add_take("later.jpg", picture(61))
        self.taps += 1
        shot = self.phone.get_by_role("button", name=re.compile("^Take"))
        expect(shot).to_have_count(1)
        wanted = f"Dial the slip: ISO {self.fact('iso')}, {self.fact('shutter_s')}."
        self.tap(shot)
        dialog = self.phone.get_by_role("dialog", name="Take: 1/50 s, ISO 100")
        verdict = dialog.get_by_role("region", name="Compared with the plan")
        expect(verdict.get_by_role("paragraph").first).to_have_text(wanted)

    def test_text_twice_as_large_on_a_narrow_phone(self):
        self.open()
        shutter = self.fact("shutter_s")
        self.phone.set_viewport_size({"width": 320, "height": 640})
        self.phone.evaluate("document.documentElement.style.fontSize = '200%'")
        slip = self.open_slip()
        line = slip.locator("[data-fact=shutter_s]").first
        line.scroll_into_view_if_needed()
        self.assert_whole(line)
        self.phone.get_by_role("button", name="Close").tap()
        self.tap(self.phone.get_by_role("link", name="Checklist"))
        self.tap(self.phone.get_by_role("button", name="Large numbers"))
        large = self.phone.get_by_role("region", name="Large numbers")
        self.assert_whole(large.get_by_text(shutter, exact=True))

    def assert_whole(self, shown):
        """Nothing of it is beyond the screen."""
        box, width = shown.bounding_box(), self.phone.viewport_size["width"]
        self.assertGreaterEqual(box["x"], 0)
        self.assertLessEqual(box["x"] + box["width"], width)


class OfflineAndBack(Counted):
    def test_a_reading_without_a_network_is_in_the_slip_once_it_is_back(self):
        self.phone_on_sheet(readings=[])
        self.take("wall.jpg", picture(118))
        expect(self.phone.locator(".fixed [data-fact=shutter_s]")).to_be_visible()
        before = self.fact("shutter_s")
        self.phone.context.set_offline(True)
        # The sun is out: mid-grey is two stops brighter than at 1/50 s.
        self.take("sunlit.jpg", picture(118, (1, 200)))
        self.taps += 1
        waits = self.phone.get_by_text(re.compile("^A reading waits on this phone"))
        expect(waits).to_be_visible()
        self.assertAlmostEqual(self.slip_ev100(), log2(F_NUMBER**2 * 50), delta=0.34)
        self.phone.context.set_offline(False)
        expect(self.phone.get_by_text("1 reading sent to the computer.")).to_be_visible()
        expect(waits).to_have_count(0)
        expect(self.phone.locator(".fixed [data-fact=shutter_s]")).not_to_have_text(before)
        self.assertAlmostEqual(self.slip_ev100(), log2(F_NUMBER**2 * 200), delta=0.34)


class Pairing(Counted):
    def test_a_phone_is_paired_by_its_camera_and_has_the_slip(self):
        self.sheet(9.0)
        served = self.network.serving.start(Wanted(5, is_secure=True, port=0))
        words = "-".join(self.network.desk.offer(self.network.seconds()).words)
        self.visit("/phone")
        self.phone.goto(f"{served.urls[0]}/pair#{words}")
        self.allow()
        self.taps += 2  # the code seen by the camera, and the yes on the computer
        self.tap(self.phone.get_by_role("link", name=re.compile("Made for this")).first)
        slip = self.open_slip()
        iso = slip.locator("[data-fact=iso]").first.inner_text()
        shutter = slip.locator("[data-fact=shutter_s]").first.inner_text()
        self.assertAlmostEqual(set_ev100(float(iso), seconds(shutter)), 9.0, delta=0.34)


if __name__ == "__main__":
    unittest.main()
