"""At the spot with one thumb: from an opened sheet to what is wanted, counted."""

import re
import unittest
from math import log2

import numpy as np
from playwright.sync_api import expect

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


class InTheField(WithPhone):
    def setUp(self):
        super().setUp()
        self.taps = 0
        self.url = self.paired(is_secure=False)

    def tearDown(self):
        self.assertTrue(0 < self.taps <= MOST_TAPS, self.taps)

    def open(self, **body):
        self.sheet(9.0, **body)
        self.phone.goto(f"{self.url}/sheets/{self.sheet_now()['id']}")
        expect(self.phone.get_by_label("Sheet title")).to_be_visible()

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


if __name__ == "__main__":
    unittest.main()
