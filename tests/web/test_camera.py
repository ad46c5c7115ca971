"""Units of the browser's camera as Oxlen's, and settings written into a photo without any."""

import io
import unittest

import numpy as np
from PIL import Image
from PIL.ExifTags import IFD, Base

from tests.pictures.making import jpeg
from tests.web.modules import called

UNITS, EXIF = "phone/camera/units.ts", "phone/camera/exifRecord.ts"
FAKE = {
    "exposureMode": ["continuous", "manual"],
    "exposureTime": {"min": 10, "max": 100, "step": 1},
    "focusMode": ["manual"],
    "focusDistance": {"min": 0.1, "max": 10},
    "whiteBalanceMode": ["continuous"],
    "colorTemperature": {"min": 2500, "max": 7000},
}


def one(function, *given, module=UNITS):
    return called(module, function, [list(given)])[0]


class Units(unittest.TestCase):
    def test_a_track_in_seconds_dioptres_and_kelvin(self):
        can = one("canOf", FAKE, True)
        # exposureTime counts 100 microseconds: 10 to 100 are 1 to 10 ms.
        self.assertAlmostEqual(can["shutter_s"]["low"], 0.001)
        self.assertAlmostEqual(can["shutter_s"]["high"], 0.01)
        self.assertTrue(can["shutter_s"]["can_set"])
        # Ten metres are 0.1 dioptre, ten centimetres ten.
        self.assertAlmostEqual(can["focus_dioptres"]["low"], 0.1)
        self.assertAlmostEqual(can["focus_dioptres"]["high"], 10)
        self.assertFalse(can["white_k"]["can_set"])  # told, but no manual mode
        self.assertIsNone(can["iso"])

    def test_settings_that_mean_nothing_are_unknown(self):
        found = one("settingsOf", {"exposureTime": 0, "iso": 100, "focusDistance": 0.5})
        self.assertEqual(
            found, {"shutter_s": None, "iso": 100, "white_k": None, "focus_dioptres": 2}
        )

    def test_what_is_wanted_is_asked_for_within_reach_one_by_one(self):
        can = one("canOf", FAKE, True)
        wanted = {"shutter_s": 0.04, "iso": 50, "white_k": 5000, "focus_dioptres": 0}
        asked = one("constraintsFor", wanted, can)
        self.assertEqual(
            asked,
            [
                {"exposureMode": "manual", "exposureTime": 100},
                {"focusMode": "manual", "focusDistance": 10},
            ],
        )
        back = one("autoConstraints", FAKE)
        self.assertEqual(back, [{"exposureMode": "continuous"}, {"whiteBalanceMode": "continuous"}])


class Exif(unittest.TestCase):
    def test_a_photo_without_exif_says_what_it_was_shot_with(self):
        for shutter_s, iso in ((1 / 250, 100), (0.8, 3200), (1 / 12000, 50)):
            shot = {
                "shutter_s": shutter_s,
                "iso": iso,
                "f_number": 1.8,
                "make": "Fennick",
                "model": "Wherry 3",
            }
            segment = bytes(one("segmentOf", shot, "2027:06:04 21:30:05", module=EXIF))
            plain = jpeg(np.full((40, 60, 3), 90, dtype=np.uint8))
            with Image.open(io.BytesIO(plain[:2] + segment + plain[2:])) as image:
                tags, inner = image.getexif(), image.getexif().get_ifd(IFD.Exif)
                image.load()
            with self.subTest(shutter_s=shutter_s):
                self.assertAlmostEqual(float(inner[Base.ExposureTime]) / shutter_s, 1, delta=0.001)
                self.assertAlmostEqual(float(inner[Base.FNumber]), 1.8, places=3)
                self.assertEqual(inner[Base.ISOSpeedRatings], iso)
                self.assertEqual(inner[Base.DateTimeOriginal], "2027:06:04 21:30:05")
                self.assertEqual((tags[Base.Make], tags[Base.Model]), ("Fennick", "Wherry 3"))
                self.assertIn("Oxlen live", tags[Base.Software])


if __name__ == "__main__":
    unittest.main()
