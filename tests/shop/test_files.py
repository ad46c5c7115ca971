"""Lists of things, file names and sizes of what is handed over, and codes in frames."""

import io
import tempfile
import unittest
from pathlib import Path

import cv2
import numpy as np
from PIL import Image
from PIL.ExifTags import IFD, Base

from oxlen.cards.qr_code import qr_of
from oxlen.core.errors import BadInput
from oxlen.core.series.matching import Recipe
from oxlen.devices.standins.bench_series import Bench, series_jpeg
from oxlen.formats.things_list import read_things, size_cm
from oxlen.shop.codes import thing_of_code
from oxlen.shop.export import HandOver, SeriesPicture, folder_sink, hand_over
from oxlen.shop.uses import FULL, MENU, PRINT, SHOP, written_for
from tests.shop.held_codes import held

SAME = Recipe((1.0, 1.0, 1.0), turn_deg=0.0, zoom=1.0, centre=(0.5, 0.5), middle=(0.5, 0.5))


class Lists(unittest.TestCase):
    def test_names_alone_numbers_before_them_and_named_columns(self):
        rows = (
            ("Clear varnish\nTar\n", [("", "Clear varnish"), ("", "Tar")]),
            ("01, Clear varnish\n02, Tar", [("01", "Clear varnish"), ("02", "Tar")]),
            ("name;number\nTar;7b\n\nOil;8", [("7b", "Tar"), ("8", "Oil")]),
            ('number\tname\n1\t"Cleat, small"', [("1", "Cleat, small")]),
            ("\ufeffName,Size\nCleat,40 mm", [("", "Cleat")]),
        )
        for text, wanted in rows:
            with self.subTest(text):
                self.assertEqual([(t.number, t.name) for t in read_things(text)], wanted)

    def test_sizes_in_any_unit_are_centimetres(self):
        for text, wanted in (
            ("11 x 14 x 11 cm", (11, 14, 11)),
            ("40mm × 25mm", (4, 2.5)),
            ("0.3 x 0.2 m", (30, 20)),
            ("7,5", (7.5,)),
        ):
            np.testing.assert_allclose(size_cm(text), wanted, err_msg=text)

    def test_a_line_that_cannot_be_read_is_named(self):
        for text, words in (
            ("name,size\nTar,large", "Line 2: the size must be like"),
            ("name,number\nTar,1\n,2", "Line 3: the name is missing"),
            ("number,name\n1,Tar\n1,Oil", "Lines 2 and 3 have the same number, 1"),
            ("name,size\nTar,0 x 3 cm", "Line 2: the width cannot be used"),
            ("  \n", "The list is empty"),
        ):
            with self.subTest(text), self.assertRaisesRegex(BadInput, words):
                read_things(text)


class Uses(unittest.TestCase):
    codes = np.random.default_rng(2).integers(0, 255, (1500, 2000, 3)).astype(np.uint8)

    def test_each_use_has_its_size_and_stays_under_its_weight(self):
        smooth = cv2.GaussianBlur(self.codes, (0, 0), 2)
        for use, side, kind in ((SHOP, 1600, "JPEG"), (MENU, 1000, "JPEG"), (PRINT, 2000, "TIFF")):
            data = written_for(smooth, use)
            with Image.open(io.BytesIO(data)) as image:
                self.assertEqual((max(image.size), image.format), (side, kind))
                self.assertIn("icc_profile", image.info)
            if use.most_kb:
                self.assertLessEqual(len(data), 1000 * use.most_kb)
        # Noise cannot be that small: it is written no worse than the lowest quality.
        self.assertGreater(len(written_for(self.codes, MENU)), 1000 * MENU.most_kb)

    def test_views_of_a_thing_have_a_name_each(self):
        front, back = (
            SeriesPicture(Path("a.jpg"), "a.jpg", 1, recipe=SAME, name="Tar", view=view)
            for view in ("front", "back")
        )
        names = [HandOver("{number:02d}-{name}").file_name(each, FULL) for each in (front, back)]
        self.assertEqual(names, ["01-Tar-front.jpg", "01-Tar-back.jpg"])
        other = HandOver("{view}/{name}".replace("/", "_")).file_name(back, FULL)
        self.assertEqual(other, "back_Tar.jpg")

    def test_names_settings_and_files_that_cannot_be_read(self):
        with tempfile.TemporaryDirectory() as folder:
            path, out = Path(folder) / "a.jpg", Path(folder) / "out"
            path.write_bytes(series_jpeg(Bench(3).take(0), "2026-10-03T10:00:00"))
            (Path(folder) / "b.jpg").write_bytes(b"no picture")
            pictures = [
                SeriesPicture(path, "a.jpg", 1, recipe=SAME, number="7b", name="Deck/oil: =1"),
                SeriesPicture(path.with_name("b.jpg"), "b.jpg", 2, recipe=SAME, name="=Tar"),
            ]
            to = HandOver("{number:03d}_{name}", uses=(FULL,), keeps_settings=True)
            done = hand_over(pictures, to, folder_sink(out, []))
            with Image.open(out / "7b_Deckoil-=1.jpg") as image:
                shot = image.getexif().get_ifd(IFD.Exif)
                self.assertEqual(shot[Base.ISOSpeedRatings], 50)
                self.assertNotIn(Base.Make, image.getexif())
            listed = (out / "series.csv").read_text()
        self.assertEqual([bool(each.file) for each in done], [True, False])
        self.assertIn("b.jpg", done[1].why)
        self.assertIn("'=Tar", listed)
        for pattern in (
            *("{number", "{place}", "{name.__class__}", "{number:99999999d}", "{}", "{view}"),
            "{number!s:>400}",
        ):
            with self.subTest(pattern), self.assertRaises(BadInput):
                HandOver(pattern).file_name(pictures[0], FULL)


class Codes(unittest.TestCase):
    def test_codes_are_read_soft_leaning_and_noisy(self):
        for kind in ("qr", "data matrix"):
            draw = np.random.default_rng(8)
            read = 0
            for _ in range(40):
                frame, uid = held(kind, draw=draw)
                read += thing_of_code(frame) == uid
            self.assertGreaterEqual(read, 39, kind)

    def test_other_codes_and_plain_pictures_name_no_thing(self):
        dark = qr_of("https://example.org").is_dark
        other = np.kron(np.where(dark, 0, 255).astype(np.uint8), np.ones((8, 8), np.uint8))
        self.assertIsNone(thing_of_code(np.repeat(other[..., None], 3, axis=2)))
        self.assertIsNone(thing_of_code(Bench(1).take(1)))
