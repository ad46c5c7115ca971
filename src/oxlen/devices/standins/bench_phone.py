"""A stand-in phone: photographs scene light as a processed JPEG or a DNG, with true EXIF.

Simple on purpose: shot and read noise, clipping and the sRGB curve, and nothing that would part
pixel values from the exposure the file states.
"""

from __future__ import annotations

import io
from dataclasses import dataclass
from fractions import Fraction

import numpy as np
import tifffile
from numpy.typing import NDArray
from PIL import Image
from PIL.TiffImagePlugin import IFDRational

from oxlen.core.constants import MID_LINEAR
from oxlen.core.kit.phone import Lens, Mode
from oxlen.core.light.exposure import Settings, luminance_cd_m2
from oxlen.core.light.tone import linear_to_srgb, luminance_share
from oxlen.core.sensor.noise import mid_signal_e
from oxlen.formats.phone_profile import PhoneProfile

JPEG_QUALITY = 93
BLACK_DN, WHITE_DN = 256, 4095 * 4
EXIF_IFD = 0x8769
# XYZ to camera of the stand-in's sensor: sRGB's own matrix (IEC 61966-2-1) with gains that make
# its green the strongest channel, as on real sensors.
XYZ_TO_SRGB = np.array(
    [[3.2406, -1.5372, -0.4986], [-0.9689, 1.8758, 0.0415], [0.0557, -0.2040, 1.0570]]
)
CHANNEL_GAIN = np.array([0.52, 1.0, 0.64])
AUTO_LONGEST_S = 1 / 15


@dataclass(frozen=True)
class BenchPhone:
    """A phone of the kit held over a scene with one of its lenses."""

    profile: PhoneProfile
    lens: Lens
    mode: Mode
    seed: int = 0

    def auto_settings(self, scene: NDArray[np.float32]) -> Settings:
        """What its auto mode picks: the frame's mean at mid, ISO up only past 1/15 s."""
        mean = float(luminance_share(scene).mean(dtype=float))
        wanted = np.log2(mean / float(luminance_cd_m2(0.0)))
        ladder = self.mode.auto
        best = min(
            (
                (max(0.0, np.log2(t / AUTO_LONGEST_S)) * 4 + abs(settings.ev100 - wanted), iso, t)
                for t in ladder.shutter_s
                for iso in ladder.iso
                if abs((settings := Settings(iso, t, self.lens.f_number)).ev100 - wanted) < 0.25
            ),
            key=lambda found: (found[1] if found[2] <= AUTO_LONGEST_S else 1e9, found[0]),
            default=(0.0, ladder.iso[-1], ladder.shutter_s[-1]),
        )
        return Settings(best[1], best[2], self.lens.f_number)

    def jpeg(self, scene: NDArray[np.float32], settings: Settings, taken_at: str) -> bytes:
        """A processed JPEG of scene light (cd/m², linear sRGB), shape (h, w, 3)."""
        linear = np.clip(self._exposed(scene, settings) * MID_LINEAR, 0, 1)
        codes = np.rint(np.asarray(linear_to_srgb(linear)) * 255).astype(np.uint8)
        exif = self._exif(scene, settings, taken_at)
        buffer = io.BytesIO()
        Image.fromarray(codes).save(buffer, "JPEG", quality=JPEG_QUALITY, exif=exif, subsampling=1)
        return buffer.getvalue()

    def dng(self, scene: NDArray[np.float32], settings: Settings, taken_at: str) -> bytes:
        """A DNG of scene light: the noisy mosaic before anything is done to it."""
        camera = self._exposed(scene, settings) * CHANNEL_GAIN
        mosaic = np.empty(camera.shape[:2], dtype=np.float32)
        for row, column, channel in ((0, 0, 0), (0, 1, 1), (1, 0, 1), (1, 1, 2)):
            mosaic[row::2, column::2] = camera[row::2, column::2, channel]
        mid_share = 2.0**-self.mode.sensor.headroom_raw_stops
        levels = BLACK_DN + mosaic * mid_share * (WHITE_DN - BLACK_DN)
        data = np.clip(np.rint(levels), 0, WHITE_DN).astype(np.uint16)
        tags = self._dng_tags(settings, taken_at, mid_share)
        buffer = io.BytesIO()
        tifffile.imwrite(
            buffer,
            data,
            photometric="cfa",
            extratags=tags,
            metadata=None,
            software=False,
            rowsperstrip=data.shape[0],
        )
        return buffer.getvalue()

    def _exposed(self, scene: NDArray[np.float32], settings: Settings) -> NDArray[np.float32]:
        """Scene light as multiples of mid, with shot and read noise."""
        relative = scene / float(luminance_cd_m2(settings.ev100))
        mid = float(mid_signal_e(self.mode.sensor, settings.iso))
        read = float(self.mode.read_noise_at(settings.iso))
        deviation = np.sqrt(np.maximum(relative, 0) * mid + read**2) / mid
        generator = np.random.default_rng(self.seed)
        noise = generator.standard_normal(relative.shape, dtype=np.float32)
        return np.asarray(relative + deviation * noise, dtype=np.float32)

    def _exif(self, scene: NDArray[np.float32], settings: Settings, taken_at: str) -> Image.Exif:
        exif = Image.Exif()
        exif[271], exif[272], exif[274] = self.profile.make, self.profile.model, 1
        mean = float(luminance_share(scene).mean(dtype=float))
        brightness = float(np.log2(mean / float(luminance_cd_m2(0.0)))) - 5
        block = exif.get_ifd(EXIF_IFD)
        block[33434] = _rational(settings.shutter_s)
        block[33437] = _rational(settings.f_number)
        block[34855] = round(settings.iso)
        block[36867] = taken_at
        block[37379] = IFDRational(round(brightness * 100), 100)
        block[37386] = _rational(self.lens.focal_mm)
        block[41987] = 0
        block[41989] = round(self.lens.focal35_mm)
        block[42036] = f"{self.profile.name} {self.lens.name}"
        return exif

    def _dng_tags(
        self, settings: Settings, taken_at: str, mid_share: float
    ) -> list[tuple[int, str, int, object, bool]]:
        baseline = float(np.log2(MID_LINEAR / mid_share))
        matrix = np.diag(CHANNEL_GAIN) @ XYZ_TO_SRGB
        return [
            (271, "s", 0, self.profile.make, True),
            (272, "s", 0, self.profile.model, True),
            (274, "H", 1, 1, True),
            (33421, "H", 2, (2, 2), True),
            (33422, "B", 4, (0, 1, 1, 2), True),
            (33434, "2I", 1, _pair(settings.shutter_s), True),
            (33437, "2I", 1, _pair(settings.f_number), True),
            (34855, "H", 1, round(settings.iso), True),
            (36867, "s", 0, taken_at, True),
            (37386, "2I", 1, _pair(self.lens.focal_mm), True),
            (41989, "H", 1, round(self.lens.focal35_mm), True),
            (42036, "s", 0, f"{self.profile.name} {self.lens.name}", True),
            (50706, "B", 4, (1, 4, 0, 0), True),
            (50707, "B", 4, (1, 1, 0, 0), True),
            (50708, "s", 0, self.profile.name, True),
            (50714, "H", 1, BLACK_DN, True),
            (50717, "H", 1, WHITE_DN, True),
            (50721, "2i", 9, _pairs(matrix.ravel()), True),
            (50728, "2I", 3, _pairs(CHANNEL_GAIN), True),
            (50730, "2i", 1, (round(baseline * 1000), 1000), True),
            (50778, "H", 1, 21, True),
        ]


def _rational(value: float) -> IFDRational:
    return IFDRational(*_pair(value))


def _pair(value: float) -> tuple[int, int]:
    fraction = Fraction(value).limit_denominator(20000)
    return fraction.numerator, fraction.denominator


def _pairs(values: NDArray[np.float64]) -> tuple[int, ...]:
    return tuple(part for value in values for part in (round(float(value) * 10000), 10000))
