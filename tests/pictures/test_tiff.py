"""TIFF in its stranger shapes: inks, palettes, bits; and pixels that are not where it says."""

import io
import struct

import numpy as np
import tifffile

from oxlen.core.errors import PixelsUnreadable
from oxlen.core.light.meter import Spot
from oxlen.core.light.tone import srgb_to_linear
from oxlen.pictures.opening import open_picture
from tests.pictures.making import corners
from tests.pictures.test_reading import InFolder

MID = 0.009  # code 118 is this many stops over mid


def tiff(array, **how):
    """A TIFF of an array."""
    buffer = io.BytesIO()
    tifffile.imwrite(buffer, array, metadata=None, **how)
    return buffer.getvalue()


class Shapes(InFolder):
    def test_inks_of_8_and_16_bits(self):
        # Black ink alone: 118 of 255 left of white.
        for kind, top in ((np.uint8, 255), (np.uint16, 65535)):
            inks = np.zeros((20, 30, 4), kind)
            inks[..., 3] = round(top * (1 - 118 / 255))
            frame = self.read(tiff(inks, photometric="separated")).frame
            with self.subTest(kind.__name__):
                self.assertAlmostEqual(frame.mean_stops, MID, delta=0.02)

    def test_a_palette_is_looked_up(self):
        indices = np.zeros((20, 30), np.uint8)
        indices[:, 15:] = 3
        colours = np.zeros((3, 256), np.uint16)
        colours[:, 3] = 118 * 257
        frame = self.read(tiff(indices, photometric="palette", colormap=colours)).frame
        self.assertAlmostEqual(frame.mean_stops, MID - 1, delta=0.02)
        self.assertAlmostEqual(frame.blocked_share, 0.5, places=3)

    def test_bare_bits_are_black_and_white(self):
        bits = np.zeros((16, 32), bool)
        bits[:, 8:] = True
        frame = self.read(tiff(bits, photometric="minisblack")).frame
        self.assertAlmostEqual(frame.mean_stops, np.log2(0.75 / 0.18), delta=0.01)
        self.assertAlmostEqual(frame.clipped_share, 0.75, places=3)

    def test_more_channels_than_colours_are_left_out(self):
        for channels, extra in ((4, ["unassalpha"]), (5, ["unspecified"] * 2)):
            pixels = np.full((20, 30, channels), 118, np.uint8)
            pixels[..., 3:] = 7
            frame = self.read(tiff(pixels, photometric="rgb", extrasamples=extra)).frame
            with self.subTest(channels):
                self.assertAlmostEqual(frame.mean_stops, MID, delta=0.01)

    def test_the_picture_is_the_largest_not_the_first(self):
        buffer = io.BytesIO()
        with tifffile.TiffWriter(buffer) as file:
            file.write(np.full((10, 16, 3), 255, np.uint8), photometric="rgb", subfiletype=1)
            file.write(np.full((60, 80, 3), 118, np.uint8), photometric="rgb")
        reading = self.read(buffer.getvalue())
        self.assertEqual((reading.file.width, reading.file.height), (80, 60))
        self.assertAlmostEqual(reading.frame.mean_stops, MID, delta=0.01)

    def test_sixteen_bits_are_previewed_in_eight(self):
        codes = corners().astype(np.uint16) * 257
        path = self.file(tiff(codes, photometric="rgb"))
        with open_picture(path, "t.tif") as picture:
            preview = np.asarray(picture.preview())
        self.assertEqual(preview.dtype, np.uint8)
        np.testing.assert_array_equal(preview[[10, 50], [10, 70], 0], [40, 200])

    def test_big_ones_and_both_byte_orders(self):
        codes = np.full((20, 30, 3), 9000, np.uint16)
        want = np.log2(srgb_to_linear(9000 / 65535) / 0.18)
        for how in ({"bigtiff": True}, {"byteorder": ">"}, {"byteorder": "<"}):
            with self.subTest(**how):
                frame = self.read(tiff(codes, photometric="rgb", **how)).frame
                self.assertAlmostEqual(frame.mean_stops, want, places=3)


class Lies(InFolder):
    def assert_unmetered(self, data, words):
        with self.assertRaisesRegex(PixelsUnreadable, words):
            self.read(data, "lie.tif", spots=[Spot("a", 0.5, 0.5, r=0.1)])

    def test_real_numbers_are_not_codes(self):
        for kind in (np.float32, np.uint32):
            with self.subTest(kind.__name__):
                pixels = np.ones((20, 30, 3), kind)
                self.assert_unmetered(tiff(pixels, photometric="rgb"), "8 and 16 bits")

    def changed(self, code, values):
        """A TIFF of one strip with the value of a tag replaced in place."""
        data = bytearray(tiff(corners(), photometric="rgb", rowsperstrip=60))
        with tifffile.TiffFile(io.BytesIO(data)) as file:
            tag = file.pages[0].tags[code]
            kind = {3: "<H", 4: "<I"}[int(tag.dtype)]
            struct.pack_into(kind, data, tag.valueoffset, values)
        return bytes(data)

    def test_strips_past_the_end_or_too_short_are_seen(self):
        strip_offsets, strip_bytes = 273, 279
        self.assert_unmetered(self.changed(strip_offsets, 10**7), "cut short")
        self.assert_unmetered(self.changed(strip_bytes, 10**6), "cut short")
        self.assert_unmetered(self.changed(strip_bytes, 900), "cut short")

    def test_a_packing_it_cannot_open_is_said(self):
        self.assert_unmetered(self.changed(259, 32771), "cannot unpack")

    def test_a_cut_one_keeps_its_facts(self):
        whole = tiff(corners(600, 800), photometric="rgb", rowsperstrip=20)
        self.assert_unmetered(whole[: len(whole) // 2], "cut short")
        path = self.file(whole[: len(whole) // 2])
        with open_picture(path, "cut.tif") as picture:
            self.assertEqual((picture.facts.width, picture.facts.height), (800, 600))
