"""Reading pictures of every kind: what they are, how they were exposed, the light in them."""

import io
import tempfile
import unittest
from pathlib import Path

import imagecodecs
import numpy as np
import pillow_heif
import tifffile
from PIL import Image

from oxlen.core.errors import PictureError
from oxlen.core.light.meter import Spot
from oxlen.core.light.tone import srgb_to_linear
from oxlen.pictures.opening import open_picture
from oxlen.pictures.reading import read_picture
from tests.pictures.making import (
    DNG_TAGS,
    EV100,
    corners,
    dng,
    exif,
    jpeg,
    mosaic,
    with_exif_directory,
)

CORNER_SPOTS = [
    Spot("tl", 0.25, 0.25, r=0.1),
    Spot("tr", 0.75, 0.25, r=0.1),
    Spot("bl", 0.25, 0.75, r=0.1),
    Spot("br", 0.75, 0.75, r=0.1),
]


def code_ev(code):
    """EV100 of a grey code value under the tests' settings."""
    return EV100 + float(np.log2(srgb_to_linear(code / 255) / 0.18))


class InFolder(unittest.TestCase):
    """A folder for the test's files."""

    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def file(self, data, name="picture"):
        path = self.folder / name
        path.write_bytes(data)
        return path

    def read(self, data, name="picture", **how):
        return read_picture(self.file(data, name), **how)


class Processed(InFolder):
    def test_spots_read_linear_light(self):
        reading = self.read(jpeg(corners()), spots=CORNER_SPOTS)
        got = [spot.ev100 for spot in reading.spots]
        want = [code_ev(code) for code in (40, 90, 140, 200)]
        np.testing.assert_allclose(got, want, atol=0.03)
        self.assertEqual(reading.confidence, "indicative")

    def test_the_strongest_channel_of_a_spot_is_how_much_sooner_it_clips(self):
        # sRGB (96, 144, 225): linear 0.1170, 0.2789, 0.7529, so Y is 0.2787 and blue 1.43 above.
        pixels = np.zeros((60, 80, 3), dtype=np.uint8)
        pixels[:] = (96, 144, 225)
        pixels[:, 40:] = 150
        spots = [Spot("blue", 0.25, 0.5, r=0.1), Spot("grey", 0.75, 0.5, r=0.1)]
        for data in (jpeg(pixels), self.saved(Image.fromarray(pixels), "PNG")):
            blue, grey = (spot.tone.channel_stops for spot in self.read(data, spots=spots).spots)
            self.assertAlmostEqual(blue, np.log2(0.7529 / 0.2787), delta=0.02)
            self.assertAlmostEqual(grey, 0, delta=0.01)

    def test_frame_mean_is_linear(self):
        pixels = np.zeros((40, 40, 3), dtype=np.uint8)
        pixels[:, 20:] = 255
        frame = self.read(jpeg(pixels)).frame
        self.assertAlmostEqual(frame.mean_stops, np.log2(0.5 / 0.18), places=1)
        self.assertAlmostEqual(frame.clipped_share, 0.5, places=2)
        self.assertAlmostEqual(frame.blocked_share, 0.5, places=2)

    def test_all_eight_orientations(self):
        for orientation in range(1, 9):
            image = Image.fromarray(corners())
            # Stored so that turning it by the tag gives the corners upright.
            back = {2: 0, 3: 3 - 0, 4: 1, 5: 5, 6: 2, 7: 6, 8: 4}
            if orientation == 3:
                image = image.transpose(Image.Transpose.ROTATE_180)
            elif orientation > 1:
                image = image.transpose(Image.Transpose(back[orientation]))
            data = jpeg(np.asarray(image), exif(t274=orientation))
            with self.subTest(orientation):
                reading = self.read(data, spots=CORNER_SPOTS)
                self.assertEqual((reading.file.width, reading.file.height), (80, 60))
                got = [spot.ev100 for spot in reading.spots]
                want = [code_ev(code) for code in (40, 90, 140, 200)]
                np.testing.assert_allclose(got, want, atol=0.03)

    def test_preview_is_upright(self):
        stored = Image.fromarray(corners()).transpose(Image.Transpose.ROTATE_90)
        path = self.file(jpeg(np.asarray(stored), exif(t274=6)))
        with open_picture(path, "p") as picture:
            preview = np.asarray(picture.preview())
        self.assertEqual(preview.shape, (60, 80, 3))
        np.testing.assert_allclose(
            preview[[10, 10, 50, 50], [10, 70, 10, 70], 0], [40, 90, 140, 200], atol=2
        )

    def test_grey_cmyk_and_palette(self):
        grey = np.full((30, 30), 118, dtype=np.uint8)
        rows = {
            "grey jpeg": jpeg(grey, mode="L"),
            "cmyk jpeg": jpeg(np.dstack([grey] * 3), mode="CMYK"),
            "palette png": self.saved(Image.fromarray(grey).convert("P"), "PNG"),
            "alpha png": self.saved(Image.fromarray(grey).convert("RGBA"), "PNG"),
            "16-bit grey png": self.saved(Image.fromarray(grey.astype(np.uint16) * 257), "PNG"),
        }
        for name, data in rows.items():
            with self.subTest(name):
                self.assertAlmostEqual(self.read(data).frame.mean_stops, 0.009, delta=0.03)

    def test_sixteen_bit_tiff_with_small_values_stays_dark(self):
        codes = np.full((20, 30, 3), 1000, dtype=np.uint16)
        buffer = io.BytesIO()
        tifffile.imwrite(buffer, codes, photometric="rgb")
        frame = self.read(buffer.getvalue()).frame
        want = np.log2(srgb_to_linear(1000 / 65535) / 0.18)
        self.assertAlmostEqual(frame.mean_stops, want, places=3)

    def test_sixteen_bit_colour_png_keeps_its_depth(self):
        codes = np.full((20, 30, 3), 1000, dtype=np.uint16)
        data = imagecodecs.png_encode(codes)
        frame = self.read(data).frame
        want = np.log2(srgb_to_linear(1000 / 65535) / 0.18)
        self.assertAlmostEqual(frame.mean_stops, want, places=3)
        with self.assertRaisesRegex(PictureError, "cut short"):
            self.read(data[: len(data) - 30], "cut.png")

    def test_tiff_however_it_is_packed(self):
        rows = {
            "lzw, predicted": {"compression": "lzw", "predictor": True},
            "deflate": {"compression": "zlib"},
            "packbits": {"compression": "packbits"},
            "tiles": {"tile": (32, 32)},
            "jpeg inside": {"compression": "jpeg"},
        }
        codes = np.full((70, 90, 3), 118, dtype=np.uint8)
        for name, packing in rows.items():
            buffer = io.BytesIO()
            tifffile.imwrite(buffer, codes, photometric="rgb", **packing)
            with self.subTest(name):
                got = self.read(buffer.getvalue()).frame.mean_stops
                self.assertAlmostEqual(got, 0.009, delta=0.02)

    def test_tiff_in_planes_and_white_is_zero(self):
        planes, inverse = io.BytesIO(), io.BytesIO()
        tifffile.imwrite(
            planes,
            np.full((3, 20, 30), 30330, np.uint16),
            photometric="rgb",
            planarconfig="separate",
        )
        tifffile.imwrite(inverse, np.full((20, 30), 137, np.uint8), photometric="miniswhite")
        for buffer in (planes, inverse):
            got = self.read(buffer.getvalue()).frame.mean_stops
            self.assertAlmostEqual(got, 0.009, delta=0.02)

    def test_tiff_orientation_is_turned_once(self):
        stored = np.asarray(Image.fromarray(corners()).transpose(Image.Transpose.ROTATE_90))
        buffer = io.BytesIO()
        tifffile.imwrite(buffer, stored, photometric="rgb", extratags=[(274, "H", 1, 6, True)])
        with open_picture(self.file(buffer.getvalue()), "t") as picture:
            self.assertEqual((picture.facts.width, picture.facts.height), (80, 60))
            self.assertEqual(np.asarray(picture.preview())[10, 10, 0], 40)

    def test_heif_turned_by_the_container_and_by_exif_is_turned_once(self):
        stored = Image.fromarray(corners(120, 160)).transpose(Image.Transpose.ROTATE_90)
        buffer = io.BytesIO()
        heif = pillow_heif.from_pillow(stored)
        heif.save(buffer, exif=exif(t274=6).tobytes(), quality=95)
        reading = self.read(buffer.getvalue(), spots=CORNER_SPOTS)
        self.assertEqual(reading.file.format, "HEIF")
        self.assertEqual((reading.file.width, reading.file.height), (160, 120))
        np.testing.assert_allclose(
            [spot.ev100 for spot in reading.spots],
            [code_ev(c) for c in (40, 90, 140, 200)],
            atol=0.1,
        )

    def test_first_picture_of_several_in_one_jpeg(self):
        first, second = Image.fromarray(corners()), Image.new("RGB", (20, 20), "white")
        buffer = io.BytesIO()
        first.save(buffer, "MPO", save_all=True, append_images=[second], exif=exif().tobytes())
        reading = self.read(buffer.getvalue())
        self.assertEqual((reading.file.format, reading.file.width), ("JPEG", 80))

    def test_large_pictures_are_sampled_evenly(self):
        stripes = np.zeros((1600, 900, 3), dtype=np.uint8)
        stripes[::2] = 118
        frame = self.read(jpeg(stripes)).frame
        self.assertAlmostEqual(frame.mean_stops, -1.0, delta=0.05)

    @staticmethod
    def saved(image, kind):
        buffer = io.BytesIO()
        image.save(buffer, kind)
        return buffer.getvalue()


class Raw(InFolder):
    def test_neutral_level_reads_as_worked_by_hand(self):
        # 718 DN over black of 4031 is 0.17812 of white; mid is at 0.18 with no baseline.
        reading = self.read(dng(), spots=[Spot("a", 0.5, 0.5, r=0.2)])
        want = EV100 + np.log2(718 / 4031 / 0.18)
        self.assertAlmostEqual(reading.spots[0].ev100, want, delta=0.003)
        self.assertAlmostEqual(reading.ev100_of(reading.frame.mean_stops), want, delta=0.003)
        self.assertEqual((reading.confidence, reading.file.format), ("measured", "DNG"))

    def test_a_raw_channel_that_clips_first_is_measured_before_any_lift(self):
        # Neutral is 0.5, 1, 0.6; with the red sites at green's level, red is a stop above it.
        data = mosaic()
        data[0::2, 0::2] = 64 + 1436
        spot = [Spot("a", 0.5, 0.5, r=0.2)]
        for baseline in (0, 700):
            lift = {"t50730": ("2i", 1, (baseline, 1000))}
            neutral = self.read(dng(**lift), spots=spot).spots[0].tone
            warm = self.read(dng(data, **lift), spots=spot).spots[0].tone
            self.assertAlmostEqual(neutral.channel_stops, 0, delta=0.005)
            luminance = 718 / 4031 * 2 ** (warm.stops_from_mid - neutral.stops_from_mid)
            self.assertAlmostEqual(warm.channel_stops, np.log2(1436 / 4031 / luminance), delta=0.01)

    def test_baseline_exposure_moves_mid(self):
        plain = self.read(dng()).frame.mean_stops
        lifted = self.read(dng(t50730=("2i", 1, (500, 1000)))).frame.mean_stops
        self.assertAlmostEqual(lifted - plain, 0.5, places=3)

    def test_colour_matrix_leaves_the_neutral_alone(self):
        matrix = (9000, -2000, -1000, -4000, 12000, 1500, -500, 2000, 6000)
        pairs = tuple(part for value in matrix for part in (value, 10000))
        tags = {"t50721": ("2i", 9, pairs), "t50778": ("H", 1, 21)}
        self.assertAlmostEqual(
            self.read(dng(**tags)).frame.mean_stops, self.read(dng()).frame.mean_stops, delta=0.002
        )

    def test_clipping_is_counted_on_the_mosaic(self):
        data = mosaic()
        data[:32] = 4095
        reading = self.read(dng(data), spots=[Spot("top", 0.5, 0.2, r=0.1)])
        self.assertAlmostEqual(reading.frame.clipped_share, 0.5, places=3)
        self.assertEqual(reading.spots[0].tone.state, "clipped")

    def test_orientation_of_a_raw_spot(self):
        data = mosaic()
        data[:, :48] = 64
        reading = self.read(
            dng(data, t274=("H", 1, 6)),
            spots=[Spot("top", 0.5, 0.2, r=0.1), Spot("low", 0.5, 0.8, r=0.1)],
        )
        self.assertEqual((reading.file.width, reading.file.height), (64, 96))
        self.assertEqual([s.tone.state for s in reading.spots], ["blocked", "ok"])

    def test_exposure_in_a_directory_of_its_own(self):
        data = with_exif_directory(
            lambda pointer: dng(t33434=None, t33437=None, t34855=None, t34664=pointer),
            {33434: (1, 250), 33437: (18, 10), 34855: 64, 37386: (566, 100)},
        )
        exposure = self.read(data).exposure
        self.assertEqual((exposure.iso, exposure.shutter_s, exposure.f_number), (64, 0.004, 1.8))
        self.assertEqual(exposure.focal_mm, 5.66)

    def test_raw_behind_a_preview(self):
        inner = (33421, 33422, 50714, 50717)
        tags = [(code, *value, True) for code, value in sorted(DNG_TAGS.items())]
        buffer = io.BytesIO()
        with tifffile.TiffWriter(buffer) as writer:
            writer.write(
                np.zeros((16, 24, 3), np.uint8),
                photometric="rgb",
                subfiletype=1,
                subifds=1,
                extratags=[tag for tag in tags if tag[0] not in inner],
                metadata=None,
            )
            writer.write(
                mosaic(),
                photometric="cfa",
                subfiletype=0,
                extratags=[tag for tag in tags if tag[0] in inner],
                metadata=None,
            )
        reading = self.read(buffer.getvalue())
        self.assertEqual((reading.file.width, reading.file.height), (96, 64))
        self.assertAlmostEqual(reading.frame.mean_stops, np.log2(718 / 4031 / 0.18), delta=0.003)

    def test_linear_raw_of_three_planes(self):
        tags = {**DNG_TAGS, 50714: ("H", 3, (64,) * 3), 50717: ("H", 3, (4095,) * 3)}
        planes = 64 + np.array([359, 718, 431])
        buffer = io.BytesIO()
        tifffile.imwrite(
            buffer,
            np.broadcast_to(planes, (40, 60, 3)).astype(np.uint16),
            photometric=34892,
            planarconfig="contig",
            extratags=[
                (code, *value, True)
                for code, value in sorted(tags.items())
                if code not in (33421, 33422)
            ],
            metadata=None,
            software=False,
        )
        frame = self.read(buffer.getvalue()).frame
        self.assertAlmostEqual(frame.mean_stops, np.log2(718 / 4031 / 0.18), delta=0.003)

    def test_raw_preview(self):
        with open_picture(self.file(dng(t274=("H", 1, 6))), "p") as picture:
            self.assertEqual(picture.preview().size, (32, 48))
