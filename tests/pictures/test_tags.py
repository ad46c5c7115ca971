"""Tag values of every wrong kind; orientations; lengths of raw containers."""

import struct
import tempfile
import unittest
from pathlib import Path

import numpy as np
from PIL import Image
from PIL.TiffImagePlugin import IFDRational

from oxlen.core.errors import PixelsUnreadable
from oxlen.core.light.meter import Spot
from oxlen.pictures.exposure_tags import exposure_from_tags, number, text
from oxlen.pictures.other_raw import check_other_extents
from oxlen.pictures.upright import stored_spot, upright, upright_size


class Values(unittest.TestCase):
    def test_numbers(self):
        rows = [
            ((1, 100), 0.01),
            ((1, 0), None),
            ((0, 0), None),
            ((0xFFFFFFFF, 1), None),
            (IFDRational(9, 4), 2.25),
            (IFDRational(1, 0), None),
            ((400, 400, 400), 400.0),
            ((), None),
            ("400", None),
            (b"400", None),
            (True, None),
            (float("nan"), None),
            (float("inf"), None),
            (None, None),
            ([(3, 4)], 0.75),
        ]
        for value, want in rows:
            with self.subTest(str(value)):
                self.assertEqual(number(value), want)

    def test_text(self):
        rows = [
            ("Wherry 3\0junk", "Wherry 3"),
            (b"Wherry\xff 3", "Wherry\ufffd 3"),
            ("  \0", None),
            (17, None),
            ("a\x07b", "ab"),
            ("x" * 500, "x" * 80),
        ]
        for value, want in rows:
            self.assertEqual(text(value), want)

    def test_absurd_values_are_none(self):
        tags = {33434: (10**9, 1), 33437: (9999, 1), 34855: -3, 274: 99, 37386: (0, 1), 36867: 7}
        exposure = exposure_from_tags(tags)
        self.assertEqual(exposure.missing, ("ISO", "shutter", "f-number"))
        self.assertEqual(
            (exposure.orientation, exposure.focal_mm, exposure.taken_at), (1, None, None)
        )
        self.assertFalse(exposure.says_anything)

    def test_time_with_its_offset(self):
        tags = {36867: "2026:10:03 08:12:00", 36881: "+01:00", 41987: 1}
        exposure = exposure_from_tags(tags)
        self.assertEqual(exposure.taken_at, "2026-10-03T08:12:00+01:00")
        self.assertEqual(exposure.white_balance, "set manually")


class Orientation(unittest.TestCase):
    def test_spots_follow_the_pixels_through_every_turn(self):
        stored = np.arange(6 * 8, dtype=np.uint8).reshape(6, 8)
        for orientation in range(1, 9):
            turned = np.asarray(upright(Image.fromarray(stored), orientation))
            height, width = turned.shape
            self.assertEqual(upright_size(8, 6, orientation), (width, height))
            for row, column in ((0, 0), (1, 3), (height - 1, width - 2)):
                spot = Spot("a", (column + 0.5) / width, (row + 0.5) / height)
                at = stored_spot(spot, orientation)
                with self.subTest(orientation, row=row, column=column):
                    found = stored[int(at.y * 6), int(at.x * 8)]
                    self.assertEqual(found, turned[row, column])


class Containers(unittest.TestCase):
    def check(self, data):
        with tempfile.NamedTemporaryFile() as file:
            file.write(data)
            file.flush()
            check_other_extents(Path(file.name), "take.raw")

    def test_boxes_must_end_with_the_file(self):
        def box(kind, body):
            return struct.pack(">I", 8 + len(body)) + kind + body

        start = box(b"ftyp", b"crx " + b"\0" * 8)
        whole = start + box(b"moov", b"\0" * 40) + box(b"mdat", b"\1" * 99)
        self.check(whole)
        self.check(start + struct.pack(">I4sQ", 1, b"mdat", 26) + b"x" * 10)
        for bad in (whole[:-1], whole + b"\0\0", whole[:30], whole + b"\0\0\0\3mdat"):
            with self.subTest(len(bad)), self.assertRaisesRegex(PixelsUnreadable, "take.raw.*cut"):
                self.check(bad)

    def test_mosaic_named_in_the_header(self):
        def head(offset, length):
            start = b"KETTLE  CCD-RAW".ljust(100, b"\0")
            return (start + struct.pack(">II", offset, length)).ljust(300)

        self.check(head(200, 100))
        with self.assertRaises(PixelsUnreadable):
            self.check(head(200, 101))
