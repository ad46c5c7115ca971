"""Files with a few bytes changed near their beginning: words or a reading, never a fall."""

import io
from unittest import mock

import numpy as np
import pillow_heif
import tifffile
from PIL import Image

from oxlen.core.errors import OxlenError, PictureError, PixelsUnreadable
from oxlen.pictures.opening import open_picture
from oxlen.pictures.reading import read_picture
from tests.pictures.making import corners, dng, jpeg
from tests.pictures.test_reading import InFolder

WOUNDS = 120
REACH_BYTES = 700


def whole_files():
    """A small sound file of each container."""
    small = np.asarray(Image.fromarray(corners()).resize((24, 18)))
    tiff, packed, png, heif = (io.BytesIO() for _ in range(4))
    tifffile.imwrite(tiff, small, photometric="rgb", metadata=None)
    tifffile.imwrite(packed, small, photometric="rgb", compression="zlib", metadata=None)
    Image.fromarray(small).save(png, "PNG")
    pillow_heif.from_pillow(Image.fromarray(corners(64, 64))).save(heif, quality=60)
    made = {"tiff": tiff, "packed tiff": packed, "png": png, "heif": heif}
    return {
        "jpeg": jpeg(corners()),
        "dng": dng(),
        **{name: buffer.getvalue() for name, buffer in made.items()},
    }


class Wounds(InFolder):
    def tried(self, data):
        """What became of a file: read, taken without pixels, or refused in words."""
        path = self.file(data, "wounded")
        try:
            with open_picture(path, "wounded") as picture:
                picture.preview()
            reading = read_picture(path, "wounded")
        except PixelsUnreadable as error:
            self.assertIn("wounded", str(error))
            return "no pixels"
        except OxlenError as error:
            self.assertIsInstance(error, PictureError)
            self.assertIn("wounded", str(error))
            return "refused"
        self.assertGreater(reading.file.width, 0)
        return "read"

    def test_every_wound_ends_in_words_or_a_reading(self):
        for name, whole in whole_files().items():
            draw = np.random.default_rng(5)
            ends = {"read": 0, "no pixels": 0, "refused": 0}
            for _ in range(WOUNDS):
                wounded = bytearray(whole)
                for _ in range(int(draw.integers(1, 5))):
                    at = int(draw.integers(0, min(len(whole), REACH_BYTES)))
                    wounded[at] = int(draw.integers(256))
                with self.subTest(name):
                    ends[self.tried(bytes(wounded))] += 1
            self.assertEqual(sum(ends.values()), WOUNDS, name)
            self.assertEqual(self.tried(whole), "read", name)

    def test_a_mid_that_cannot_be_is_not_believed(self):
        for thousandths in (-40_000, 300_000):
            data = dng(t50730=("2i", 1, (thousandths, 1000)))
            reading = read_picture(self.file(data), "far.dng")
            with self.subTest(thousandths):
                self.assertIsNone(reading.frame)
                self.assertRegex(" ".join(reading.notes), "is not valid")
                self.assertIsNotNone(reading.settings)

    def test_wounded_raw_files_that_are_no_tiff_end_in_words_too(self):
        draw, whole = np.random.default_rng(7), dng()
        with mock.patch("oxlen.pictures.opening.container_of", return_value="RAW"):
            for _ in range(2 * WOUNDS):
                wounded = bytearray(whole)
                for _ in range(int(draw.integers(1, 5))):
                    wounded[int(draw.integers(0, REACH_BYTES))] = int(draw.integers(256))
                self.tried(bytes(wounded))

    def test_what_a_raw_file_needs_is_known_before_it_is_unpacked(self):
        unpacked = mock.PropertyMock(side_effect=AssertionError("unpacked"))
        with (
            mock.patch("oxlen.pictures.opening.container_of", return_value="RAW"),
            mock.patch("oxlen.pictures.memory.MOST_PIXEL_BYTES", 1000),
            mock.patch("oxlen.pictures.raw.RawPicture.decoder_tags", unpacked),
            open_picture(self.file(dng()), "large.raw") as picture,
            self.assertRaisesRegex(PixelsUnreadable, "of memory"),
        ):
            picture.preview()
