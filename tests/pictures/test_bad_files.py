"""Files that are cut, absurd or hostile: a sentence that names file and cause, and no guesswork."""

import io
import re
import struct
import tracemalloc
import zlib

import numpy as np
from PIL import Image
from PIL.TiffImagePlugin import IFDRational

from oxlen.core.errors import PictureError
from oxlen.pictures.container import check_size
from oxlen.pictures.reading import read_picture
from tests.pictures.making import corners, dng, exif, jpeg, tiff_directory
from tests.pictures.test_reading import InFolder


def huge_png(width, height):
    """A tiny PNG that claims a size."""

    def chunk(kind, data):
        check = struct.pack(">I", zlib.crc32(kind + data))
        return struct.pack(">I", len(data)) + kind + data + check

    header = struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0)
    pixels = chunk(b"IDAT", zlib.compress(b"\0" * 99))
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", header) + pixels + chunk(b"IEND", b"")


class Refused(InFolder):
    def test_the_sentence_names_file_and_cause(self):
        plain = jpeg(corners(), Image.Exif())
        rows = {
            "empty": (b"", "empty"),
            "text": (b"just words, and more of them", "not a picture"),
            "cut": (plain[: len(plain) // 2], "cut short or damaged"),
            "head only": (b"\xff\xd8\xff\xe0", "damaged"),
            "billions": (huge_png(60000, 60000), "3600 million"),
            "no pixels": (huge_png(0, 5), "damaged|no pixels"),
            "looping": (tiff_directory([(256, 4, 1, 9)], next_offset=8), "cut|missing|no pixels"),
            "endless directory": (b"II*\0\x08\0\0\0\xff\xff" + b"\0" * 64, "damaged directory"),
            "2^32 entries": (
                b"II+\0\x08\0\0\0\x10\0\0\0\0\0\0\0" + struct.pack("<Q", 2**32) + b"\0" * 80,
                "damaged directory",
            ),
            "2^32 values": (tiff_directory([(273, 4, 2**32 - 1, 8)]), "no pixels|broken|missing"),
            "heif shell": (b"\0\0\0\x18ftypheic\0\0\0\0mif1heic" + b"\0" * 40, "damaged"),
            "raw shell": (b"\0\0\0\x18ftypcrx \0\0\0\0crx isom" + b"\0" * 40, "cannot open"),
        }
        for name, (data, cause) in rows.items():
            with (
                self.subTest(name),
                self.assertRaisesRegex(PictureError, f"{re.escape(name)}.*({cause})"),
            ):
                self.read(data, name)

    def test_over_200_megabytes(self):
        path = self.folder / "large.jpg"
        with path.open("wb") as file:
            file.truncate(200_000_001)
        with self.assertRaisesRegex(PictureError, "large.jpg: the file has 200 MB"):
            check_size(path, path.name)

    def test_a_claim_of_many_pixels_costs_no_memory(self):
        tracemalloc.start()
        with self.assertRaises(PictureError):
            self.read(huge_png(2**31 - 1, 2**31 - 1))
        self.assertLess(tracemalloc.get_traced_memory()[1], 4_000_000)
        tracemalloc.stop()


class PixelsGone(InFolder):
    """Pixels are cut or missing, but the settings can still be read."""

    def assert_settings_without_frame(self, data, words):
        reading = self.read(data, "cut.file")
        self.assertIsNone(reading.frame)
        self.assertEqual(reading.confidence, "none")
        self.assertEqual(reading.settings.iso, 100)
        self.assertRegex(" ".join(reading.notes), f"cut.file.*{words}.*settings were read")

    def test_cut_jpeg(self):
        data = jpeg(corners(400, 600))
        self.assert_settings_without_frame(data[: len(data) * 2 // 3], "cut short")

    def test_jpeg_cut_before_its_first_pixel(self):
        data = jpeg(corners())
        start = data.index(b"Exif\0\0")
        end_of_tags = start + int.from_bytes(data[start - 2 : start]) - 2
        self.assert_settings_without_frame(data[: end_of_tags + 10], "only its tags")

    def test_cut_raw_is_never_metered(self):
        data = dng()
        for share in (0.35, 0.6, 0.99):
            with self.subTest(share):
                self.assert_settings_without_frame(data[: int(len(data) * share)], "cut|cut short")

    def test_raw_whose_offset_or_count_lies(self):
        data = bytearray(dng())
        where = data.index(struct.pack("<HHI", 273, 4, 1)) + 8
        for value, words in ((10**6, "cut short"), (0, "cut short|missing")):
            struct.pack_into("<I", data, where, value)
            with self.subTest(offset=value):
                self.assert_settings_without_frame(bytes(data), words)

    def test_raw_that_stores_less_than_it_claims(self):
        data = bytearray(dng())
        where = data.index(struct.pack("<HHI", 279, 4, 1)) + 8
        struct.pack_into("<I", data, where, 64)
        self.assert_settings_without_frame(bytes(data), "cut short")

    def test_raw_packed_in_an_unknown_way(self):
        data = bytearray(dng())
        where = data.index(struct.pack("<HHI", 259, 3, 1)) + 8
        struct.pack_into("<H", data, where, 52546)
        self.assert_settings_without_frame(bytes(data), "cannot open|damaged|kind")


class AbsurdTags(InFolder):
    def test_values_without_sense_are_left_out(self):
        rows = [
            ("zero shutter", exif(shutter=(0, 1)), "shutter_s"),
            ("x/0 shutter", exif(shutter=(1, 0)), "shutter_s"),
            ("f/0", exif(f_number=(0, 1)), "f_number"),
            ("text ISO", exif(iso=None, t34855="four hundred"), "iso"),
            ("ISO 0", exif(iso=0), "iso"),
        ]
        for name, block, field in rows:
            with self.subTest(name):
                reading = self.read(jpeg(corners(), block))
                self.assertIsNone(getattr(reading.exposure, field))
                self.assertIsNone(reading.settings)
                self.assertIsNotNone(reading.frame)
                self.assertRegex(" ".join(reading.notes), "Enter the exposure")

    def test_iso_only_in_maker_notes_is_asked_for(self):
        block = exif(iso=None, t37500=b"ISO=400")
        self.assertEqual(self.read(jpeg(corners(), block)).exposure.missing, ("ISO",))

    def test_iso_too_large_for_its_tag(self):
        block = exif(iso=65535, t34867=102400)
        self.assertEqual(self.read(jpeg(corners(), block)).exposure.iso, 102400)

    def test_shutter_and_aperture_from_apex(self):
        block = exif(shutter=None, f_number=None, t37377=IFDRational(7), t37378=IFDRational(2))
        exposure = self.read(jpeg(corners(), block)).exposure
        self.assertAlmostEqual(exposure.shutter_s, 1 / 128)
        self.assertAlmostEqual(exposure.f_number, 2.0)

    def test_placeholder_brightness_is_not_believed(self):
        # The settings expose for EV 8.34; a brightness value of 0 would mean EV 5.
        rows = [(IFDRational(0), None), (IFDRational(33, 10), 8.3), (IFDRational(-40), None)]
        for value, want in rows:
            with self.subTest(value):
                got = self.read(jpeg(corners(), exif(t37379=value))).exposure.brightness_ev100
                self.assertEqual(got if got is None else round(got, 6), want)

    def test_a_damaged_block_does_not_stop_the_picture(self):
        data = jpeg(corners())
        start = data.index(b"Exif\0\0") + 6
        broken = data[:start] + b"II*\0\xff\xff\xff\x7f" + data[start + 8 :]
        self.assertIsNotNone(self.read(broken).frame)

    def test_place_and_owner_never_leave_the_file(self):
        from oxlen.pictures.report import reading_report

        block = exif(t42032="A. Volunteer", t42033="SN-12345")
        block.get_ifd(0x8825)[2] = (51.0, 20.0, 3.0)
        report = repr(reading_report(self.read(jpeg(corners(), block))))
        for secret in ("Volunteer", "12345", "51.0"):
            self.assertNotIn(secret, report)


class LargeFiles(InFolder):
    def test_200_megapixels_open_at_half_size(self):
        image = Image.new("L", (16320, 12240), 118)
        buffer = io.BytesIO()
        image.save(buffer, "JPEG", quality=60, exif=exif().tobytes())
        reading = self.read(buffer.getvalue())
        self.assertEqual((reading.file.width, reading.file.height), (16320, 12240))
        self.assertAlmostEqual(reading.frame.mean_stops, 0.009, delta=0.02)

    def test_every_cut_of_a_file_gives_a_sentence_or_a_reading(self):
        generator = np.random.default_rng(7)
        for data in (jpeg(corners()), dng()):
            for _ in range(60):
                broken = bytearray(data[: generator.integers(1, len(data))])
                for _ in range(3):
                    broken[generator.integers(0, len(broken))] = generator.integers(0, 256)
                path = self.file(bytes(broken))
                try:
                    read_picture(path)
                except PictureError as error:
                    self.assertIn("picture", error.message)
