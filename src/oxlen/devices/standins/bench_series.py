"""A simulated shop series: tins on a bench before a backdrop, with mistakes that are known."""

from __future__ import annotations

import io
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray
from PIL import Image
from PIL.ExifTags import IFD, Base
from PIL.TiffImagePlugin import IFDRational

from oxlen.core.colour.white_point import dial_linear_srgb
from oxlen.core.light.tone import linear_to_srgb

Floats = NDArray[np.float32]
FRAME_PX = (800, 600)
NEUTRAL_K = 6504.0
GREY_PATCH = (0.12, 0.86, 0.025)
"""Where the grey card is: x, y and radius as shares."""
NOISE = 0.004


@dataclass(frozen=True)
class Mistake:
    """What is wrong with a take: stops brighter, mired warmer, and the rest as it is judged.

    `shift` is in shares of the frame's width, `gloss` the radius of a clipped reflection in shares
    of the tin, `blur_px` the sigma of a blur.
    """

    stops: float = 0.0
    mired: float = 0.0
    tilt_deg: float = 0.0
    scale: float = 1.0
    shift: float = 0.0
    blur_px: float = 0.0
    gloss: float = 0.0


@dataclass(frozen=True)
class Bench:
    """One set-up, drawn by a seed: backdrop, table, light from one side, the tins' shape."""

    seed: int

    def take(
        self, number: int, mistake: Mistake | None = None, *, is_fitting: bool = False
    ) -> NDArray[np.uint8]:
        """The take of a thing as sRGB codes (h, w, 3); `number` draws its label and its noise.

        A tin, or a bronze fitting on the same bench.
        """
        wrong = mistake or Mistake()
        light = self._scene(number, gloss=wrong.gloss, is_fitting=is_fitting)
        light = _moved(light, wrong)
        if wrong.blur_px:
            light = np.asarray(cv2.GaussianBlur(light, (0, 0), wrong.blur_px), dtype=np.float32)
        kelvin = 1e6 / (1e6 / NEUTRAL_K - wrong.mired)
        gains = 1.0 / dial_linear_srgb(kelvin)
        light = light * np.asarray(gains / gains[1], dtype=np.float32) * np.float32(2**wrong.stops)
        draw = np.random.default_rng((self.seed, number, 1))
        noisy = light + draw.normal(0, NOISE, light.shape) * np.sqrt(np.clip(light, 0.02, None))
        return np.asarray(np.rint(255 * linear_to_srgb(np.clip(noisy, 0, 1))), dtype=np.uint8)

    def _scene(self, number: int, *, gloss: float, is_fitting: bool) -> Floats:
        draw = np.random.default_rng(self.seed)
        width, height = FRAME_PX
        x, y = np.meshgrid(np.linspace(0, 1, width), np.linspace(0, 1, height))
        wall, table = draw.uniform(0.45, 0.7), draw.uniform(0.35, 0.6)
        edge = draw.uniform(0.6, 0.72)
        side = draw.choice((-1.0, 1.0)) * draw.uniform(0.05, 0.25)
        base = np.where(y < edge, wall, table) * (1 + side * (x - 0.5)) * (1 - 0.15 * (y - 0.5))
        tint = np.array([1.0, draw.uniform(0.97, 1.0), draw.uniform(0.9, 1.0)])
        light = (base[..., None] * tint).astype(np.float32)
        soft = np.asarray(cv2.GaussianBlur(light, (0, 0), 2.0), dtype=np.float32)
        tin = _Tin.drawn(draw, number, self.seed)
        _card(soft)
        return _fitting_on(soft, tin, number) if is_fitting else tin.on(soft, gloss=gloss)


@dataclass(frozen=True)
class _Tin:
    """A tin: half width and height in pixels, its middle, its paint, label and handle."""

    half: tuple[float, float]
    middle: tuple[float, float]
    paint: NDArray[np.float64]
    label: NDArray[np.float64]
    letters: int

    @staticmethod
    def drawn(draw: np.random.Generator, number: int, seed: int) -> _Tin:
        """The tin of a number: the shape is the series', paint and label are its own."""
        width, height = FRAME_PX
        tall = draw.uniform(0.16, 0.22) * width
        own = np.random.default_rng((seed, number))
        paint = np.array([own.uniform(0.05, 0.5), own.uniform(0.03, 0.2), own.uniform(0.03, 0.3)])
        label = np.array([0.62, 0.58, own.uniform(0.3, 0.5)])
        stray = own.normal(0, 0.002, 2)
        middle = ((0.5 + stray[0]) * width, 0.56 * height + stray[1] * width)
        return _Tin(
            half=(tall * 0.7, tall),
            middle=middle,
            paint=paint,
            label=label,
            letters=int(own.integers(2, 6)),
        )

    def on(self, light: Floats, *, gloss: float) -> Floats:
        """The tin put on the bench, four times as fine where its edge runs."""
        (w, h), (x, y) = self.half, self.middle
        shadow = np.zeros(light.shape[:2], np.float32)
        centre = (round(x + 0.25 * w), round(y + h))
        cv2.ellipse(shadow, centre, (round(1.1 * w), round(0.12 * h)), 0, 0, 360, 0.5, -1)
        light *= 1 - cv2.GaussianBlur(shadow, (0, 0), 12)[..., None]
        corners = np.array([[x - w, y - h], [x + w, y - h], [x + w, y + h], [x - w, y + h]])
        _filled(light, corners, self.paint)
        _filled(light, (corners - (x, y)) * (1, 0.55) + (x, y + 0.1 * h), self.label)
        _filled(light, (corners - (x, y)) * (1.04, 0.05) + (x, y - 0.97 * h), [0.4, 0.4, 0.4])
        for line in range(self.letters):
            at = (x, y + h * (0.1 + 0.16 * (line - self.letters / 2)))
            size = (0.3 + 0.11 * ((line * 7 + self.letters) % 5), 0.03)
            _filled(light, (corners - (x, y)) * size + at, [0.03, 0.03, 0.04])
        shine = np.zeros(light.shape[:2], np.float32)
        cv2.line(
            shine,
            (round(x - 0.6 * w), round(y - 0.8 * h)),
            (round(x - 0.6 * w), round(y + h)),
            1,
            5,
        )
        light += 0.15 * cv2.GaussianBlur(shine, (0, 0), 4)[..., None]
        if gloss:
            spot = (round(x + 0.5 * w), round(y - 0.5 * h))
            cv2.circle(light, spot, max(2, round(gloss * w)), (3.0, 3.0, 3.0), -1, cv2.LINE_AA)
        return light


def _fitting_on(light: Floats, where: _Tin, number: int) -> Floats:
    """A bronze cleat where a tin would be: a base, two horns, a highlight along them."""
    (w, h), (x, y) = where.half, where.middle
    own, bronze = np.random.default_rng((number, 7)), np.array([0.30, 0.17, 0.06])
    horn, rise = own.uniform(1.2, 1.6), own.uniform(0.25, 0.4)
    foot = y + h
    shadow = np.zeros(light.shape[:2], np.float32)
    cv2.ellipse(
        shadow, (round(x), round(foot)), (round(1.2 * w), round(0.1 * h)), 0, 0, 360, 0.5, -1
    )
    light *= 1 - cv2.GaussianBlur(shadow, (0, 0), 10)[..., None]
    base = [(-0.9, 0), (0.9, 0), (0.7, -0.22), (-0.7, -0.22)]
    stem = [(-0.3, -0.2), (0.3, -0.2), (0.22, -0.62), (-0.22, -0.62)]
    horns = [(-horn, -0.75 - rise / 2), (horn, -0.75 - rise / 2), (0.5, -0.55), (-0.5, -0.55)]
    for outline in (base, stem, horns):
        _filled(light, np.array([(x + a * w, foot + b * h) for a, b in outline]), bronze)
    shine = [(-0.9, -0.78), (0.9, -0.78), (0.6, -0.74), (-0.6, -0.74)]
    _filled(light, np.array([(x + a * w, foot + b * h) for a, b in shine]), bronze * 2.4)
    return light


def series_jpeg(codes: NDArray[np.uint8], taken_at: str, *, quality: int = 92) -> bytes:
    """A take as a phone writes it: a JPEG with time, 1/60 s and ISO 50. `taken_at` is ISO 8601."""
    exif = Image.Exif()
    shot = exif.get_ifd(IFD.Exif)
    shot[Base.DateTimeOriginal] = taken_at[:19].replace("-", ":").replace("T", " ")
    shot[Base.ExposureTime], shot[Base.FNumber] = IFDRational(1, 60), IFDRational(18, 10)
    shot[Base.ISOSpeedRatings], shot[Base.FocalLength] = 50, IFDRational(68, 10)
    made = io.BytesIO()
    Image.fromarray(codes).save(made, "JPEG", quality=quality, exif=exif)
    return made.getvalue()


def _filled(light: Floats, corners: NDArray[np.float64], colour: object) -> None:
    """Fill a polygon with soft edges, at sixteenths of a pixel."""
    shape = np.zeros(light.shape[:2], np.uint8)
    cv2.fillPoly(shape, [np.rint(corners * 16).astype(np.int32)], 255, cv2.LINE_AA, 4)
    share = (shape.astype(np.float32) / 255)[..., None]
    light *= 1 - share
    light += share * np.asarray(colour, dtype=np.float32)


def _card(light: Floats) -> None:
    x, y, r = GREY_PATCH
    height, width = light.shape[:2]
    reach = 1.4 * r * height
    corner = (round(x * width - reach), round(y * height - reach))
    other = (round(x * width + reach), round(y * height + reach))
    cv2.rectangle(light, corner, other, (0.19, 0.18, 0.17), -1)


def _moved(light: Floats, wrong: Mistake) -> Floats:
    """The view of a camera that was turned, moved or came closer."""
    height, width = light.shape[:2]
    matrix = cv2.getRotationMatrix2D((width / 2, height / 2), -wrong.tilt_deg, wrong.scale)
    matrix[0, 2] += wrong.shift * width
    return np.asarray(
        cv2.warpAffine(
            light, matrix, (width, height), flags=cv2.INTER_CUBIC, borderMode=cv2.BORDER_REPLICATE
        ),
        dtype=np.float32,
    )
