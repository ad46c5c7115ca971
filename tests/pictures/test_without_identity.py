"""Copies without place, names and serial numbers: all else, and every pixel, as it was."""

import io
import unittest

import numpy as np
import pillow_heif
import tifffile
from PIL import Image
from PIL.ExifTags import GPS, IFD, Base

from oxlen.pictures.opening import open_picture
from oxlen.pictures.without_identity import without_identity
from tests.pictures.making import corners, dng, jpeg
from tests.pictures.test_reading import InFolder

SECRETS = (b"SERIAL-4711", b"Someone Somewhere", b"maker's secret", b"51.7012")
XMP = b'<x:xmpmeta xmlns:x="adobe:ns:meta/">51.7012 Someone Somewhere</x:xmpmeta>'


def block():
    """EXIF that tells all."""
    exif = Image.Exif()
    exif[Base.Artist] = "Someone Somewhere"
    exif[Base.Make] = "Wherry"
    details = exif.get_ifd(IFD.Exif)
    details[Base.ISOSpeedRatings] = 100
    details[Base.ExposureTime] = 0.01
    details[Base.BodySerialNumber] = "SERIAL-4711"
    details[Base.MakerNote] = b"maker's secret SERIAL-4711"
    exif.get_ifd(IFD.GPSInfo).update(
        {GPS.GPSLatitudeRef: "N", GPS.GPSLatitude: (51.0, 42.0, 4.5), GPS.GPSDateStamp: "51.7012"}
    )
    return exif


class Cleaned(InFolder):
    def made(self):
        small = Image.fromarray(corners())
        png, heif, tiff = io.BytesIO(), io.BytesIO(), io.BytesIO()
        small.save(png, "PNG", exif=block())
        image = pillow_heif.from_pillow(Image.fromarray(corners(64, 64)))
        image.info["exif"], image.info["xmp"] = block().tobytes(), XMP
        image.save(heif, quality=90)
        secret = [(315, "s", 0, "Someone Somewhere", True), (700, "B", len(XMP), XMP, True)]
        tifffile.imwrite(tiff, corners(), photometric="rgb", metadata=None, extratags=secret)
        photo = io.BytesIO()
        small.save(photo, "JPEG", exif=block(), xmp=XMP, comment=b"Someone Somewhere")
        serial = {"t50735": ("s", 0, "SERIAL-4711"), "t315": ("s", 0, "Someone Somewhere")}
        return {
            "jpeg": photo.getvalue() + b"a film with 51.7012 behind the picture",
            "png": png.getvalue(),
            "heif": heif.getvalue(),
            "tiff": tiff.getvalue(),
            "dng": dng(**serial),
        }

    def test_nothing_that_tells_who_and_where_is_left_and_all_else_is(self):
        for name, data in self.made().items():
            with self.subTest(name):
                self.assertTrue(any(secret in data for secret in SECRETS))
                clean = without_identity(data)
                for secret in SECRETS:
                    self.assertNotIn(secret, clean)
                self.assertEqual(without_identity(clean), clean)
                before, after = (self.seen(file) for file in (data, clean))
                self.assertEqual(before[0], after[0])
                np.testing.assert_array_equal(before[1], after[1])

    def seen(self, data):
        """Settings and pixels of a file."""
        with open_picture(self.file(data), "it") as picture:
            settings = picture.exposure.settings
            reported = None if settings is None else (settings.iso, settings.shutter_s)
            return (reported, picture.exposure.make), picture.luminance()

    def test_places_are_gone_for_programs_that_look_for_them(self):
        for name, data in self.made().items():
            if name in ("jpeg", "png", "heif"):
                with self.subTest(name), Image.open(io.BytesIO(without_identity(data))) as image:
                    exif = image.getexif()
                    self.assertEqual(dict(exif.get_ifd(IFD.GPSInfo)), {})
                    self.assertEqual(exif[Base.Make], "Wherry")
                    self.assertEqual(exif.get_ifd(IFD.Exif)[Base.ISOSpeedRatings], 100)

    def test_what_cannot_be_cleaned_is_said_and_never_guessed(self):
        for data in (
            b"",
            b"\xff\xd8\xff",
            b"II*\0\xff\xff\xff\x7f",
            b"none",
            jpeg(corners())[:400],
        ):
            with self.subTest(data[:8]):
                self.assertIsNone(without_identity(data))
        draw = np.random.default_rng(3)
        for data in self.made().values():
            for _ in range(60):
                wounded = bytearray(data)
                for _ in range(3):
                    wounded[int(draw.integers(len(wounded)))] = int(draw.integers(256))
                clean = without_identity(bytes(wounded))  # never a fall
                self.assertTrue(clean is None or len(clean) <= len(wounded))


if __name__ == "__main__":
    unittest.main()
