"""A take of a series against the reference: what a buyer would see, and why."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Literal

import cv2
import numpy as np
from numpy.typing import NDArray

from oxlen.core.colour.adaptation import xy_of
from oxlen.core.colour.difference import delta_e_2000, lab_of_linear
from oxlen.core.colour.temperature import mired, temperature_of
from oxlen.core.colour.white_point import SRGB_TO_XYZ
from oxlen.core.light.tone import luminance_share
from oxlen.core.series.look import GreyPatch, SeriesLook
from oxlen.core.series.placing import Placed, placed, seen_as

Reason = Literal[
    "exposure", "colour", "scale", "shift", "tilt", "sharpness", "clipped", "background"
]
Verdict = Literal["matches", "off", "not judged"]

EXPOSURE_STOPS, COLOUR_DELTA_E, TILT_DEG, SCALE_SHARE = 0.14, 1.9, 0.93, 0.028
"""Own choice: what a buyer sees side by side (0.15 stop, CIEDE2000 2, 1°, 3 %), a little less for
what the measurement leaves open."""
SHIFT_SHARE, SHARPNESS, CLIPPED_SHARE, BACKGROUND_STOPS = 0.04, 0.7, 0.01, 0.2
"""Own choice: of the frame's width; of the reference's sharpness; of the thing; from one side of
the background to the other."""
LEAST_BACKGROUND = 200
"""Own choice: pixels of background that both must show, or light is not compared."""
BACKGROUND_SAMPLE = 20_000
"""Own choice: pixels spread over the background that its colour is taken from."""
PATCH_LOST_STOPS = 0.2
"""Own choice: a patch that differs so much more than its background is no longer under its spot."""
AGREED_STOPS = 0.06
"""Own choice: what one code of 255 is at mid-grey, in stops, and half of it."""
SPECK_CIELAB, LEAST_SPECK_PX, MOST_SPECK_SHARE = 7.0, 4, 0.003
"""Own choice: how far dirt is from the background around it, and how small and large it is."""


@dataclass(frozen=True)
class SeriesDifference:
    """How a take differs from the reference; None where it could not be measured.

    Stops and mired are positive where the take is brighter and warmer, `tint` (Duv) where it is
    greener. `delta_e` is CIEDE2000 of the background or the grey patch, `gains` the take's linear
    R, G, B over the reference's. `same_shape` is False for a thing of another kind: its scale, by
    area, is no mistake.
    """

    exposure_stops: float | None
    delta_e: float | None
    mired: float | None
    tint: float | None
    scale: float | None
    shift: float | None
    shift_xy: tuple[float, float] | None
    tilt_deg: float | None
    sharpness: float | None
    clipped_share: float
    background_stops: float | None
    specks: int
    colour_delta_e: float | None
    gains: tuple[float, float, float]
    reasons: tuple[Reason, ...]
    same_shape: bool = True

    @property
    def verdict(self) -> Verdict:
        """Whether it matches; not judged where neither light nor place could be compared."""
        if self.reasons:
            return "off"
        return "not judged" if self.exposure_stops is None or self.scale is None else "matches"


def series_difference(take: SeriesLook, reference: SeriesLook) -> SeriesDifference:
    """Compare a take with the reference; both are of the same size."""
    where = placed(take, reference)
    seen = _seen_best(take, reference, where)
    light = _light(seen, reference)
    shares = _background(seen, reference)
    found = SeriesDifference(
        exposure_stops=light.stops,
        delta_e=light.delta_e,
        mired=light.mired,
        tint=light.tint,
        scale=None if where is None else where.scale,
        shift=None if where is None else float(np.hypot(*_in_widths(where, take))),
        shift_xy=None if where is None else where.shift,
        tilt_deg=None if where is None else where.tilt_deg,
        sharpness=_sharpness(take, reference),
        clipped_share=take.clipped_share,
        background_stops=shares[0],
        specks=shares[1],
        colour_delta_e=light.colour_delta_e,
        gains=light.gains,
        reasons=(),
        same_shape=where is None or where.same_shape,
    )
    return _with_reasons(found, more_clipped=take.clipped_share - reference.clipped_share)


def _seen_best(take: SeriesLook, reference: SeriesLook, where: Placed | None) -> SeriesLook:
    """The take as it is, or moved as its thing is, whichever has the reference's background.

    A bumped phone moves both; a thing put elsewhere moves alone.
    """
    if where is None:
        return take
    moved = seen_as(take, reference, where)
    return min((take, moved), key=lambda view: _unlike(view, reference))


def _unlike(take: SeriesLook, reference: SeriesLook) -> float:
    both = _shared(take, reference)
    if both.sum() < LEAST_BACKGROUND:
        return float("inf")
    off = np.log2(
        np.clip(take.lightness[both], 0.01, None) / np.clip(reference.lightness[both], 0.01, None)
    )
    return float(np.mean(np.abs(off - np.median(off))))


def _shared(take: SeriesLook, reference: SeriesLook) -> NDArray[np.bool_]:
    """Background that both show, not clipped in either."""
    return take.background & reference.background & ~take.lost & ~reference.lost


def _with_reasons(found: SeriesDifference, *, more_clipped: float) -> SeriesDifference:
    return SeriesDifference(**{**vars(found), "reasons": tuple(_reasons(found, more_clipped))})


def _reasons(found: SeriesDifference, more_clipped: float) -> Iterator[Reason]:
    def over(value: float | None, limit: float) -> bool:
        return value is not None and abs(value) >= limit

    if over(found.exposure_stops, EXPOSURE_STOPS):
        yield "exposure"
    if over(found.colour_delta_e, COLOUR_DELTA_E):
        yield "colour"
    if found.same_shape and over(np.log(found.scale or 1.0), float(np.log1p(SCALE_SHARE))):
        yield "scale"
    if over(found.shift, SHIFT_SHARE):
        yield "shift"
    if over(found.tilt_deg, TILT_DEG):
        yield "tilt"
    if found.sharpness is not None and found.sharpness <= SHARPNESS:
        yield "sharpness"
    if more_clipped >= CLIPPED_SHARE:
        yield "clipped"
    if over(found.background_stops, BACKGROUND_STOPS) or found.specks:
        yield "background"


@dataclass(frozen=True)
class _Light:
    stops: float | None = None
    delta_e: float | None = None
    mired: float | None = None
    tint: float | None = None
    colour_delta_e: float | None = None
    gains: tuple[float, float, float] = (1.0, 1.0, 1.0)


def _light(take: SeriesLook, reference: SeriesLook) -> _Light:
    """By the grey patch where both have one, else by the background that both show.

    Where the two agree the background decides: its many pixels are finer than the patch's codes.
    """
    pairs = []
    patches = take.grey, reference.grey
    if patches[0] is not None and patches[1] is not None and not _lost(*patches):
        pairs.append((patches[0].colour, patches[1].colour))
    both = _shared(take, reference)
    if both.sum() >= LEAST_BACKGROUND:
        pairs.append(_background_colours(take, reference, both))
    if len(pairs) == 2 and abs(_brighter(*pairs[0]) - _brighter(*pairs[1])) > PATCH_LOST_STOPS:
        # The card or the phone was moved: something else is under the patch's place now.
        del pairs[0]
    if not pairs:
        return _Light()
    colour, wanted = pairs[-1] if _agree(pairs) else pairs[0]
    gains = _gains(colour, wanted)
    stops = _brighter(colour, wanted)
    warmth, tint = _cast(gains)
    level = 2.0**stops
    return _Light(
        stops=stops,
        delta_e=max(delta_e_2000(lab_of_linear(a), lab_of_linear(b)) for a, b in pairs),
        mired=warmth,
        tint=tint,
        colour_delta_e=delta_e_2000(lab_of_linear(colour / level), lab_of_linear(wanted)),
        gains=(float(gains[0]), float(gains[1]), float(gains[2])),
    )


def _gains(colour: NDArray[np.float64], wanted: NDArray[np.float64]) -> NDArray[np.float64]:
    return np.asarray(np.clip(colour, 1e-5, None) / np.clip(wanted, 1e-5, None))


def _agree(pairs: Sequence[tuple[NDArray[np.float64], NDArray[np.float64]]]) -> bool:
    """Whether patch and background tell the same in every channel, but for whole codes."""
    stops = np.log2([_gains(*pair) for pair in pairs])
    return bool(np.ptp(stops, axis=0).max() <= AGREED_STOPS)


def _brighter(colour: NDArray[np.float64], wanted: NDArray[np.float64]) -> float:
    shares = [max(float(luminance_share(each)), 1e-5) for each in (colour, wanted)]
    return float(np.log2(shares[0] / shares[1]))


def _lost(*patches: GreyPatch | None) -> bool:
    return any(patch is not None and patch.clipped_share >= 0.5 for patch in patches)


def _background_colours(
    take: SeriesLook, reference: SeriesLook, both: NDArray[np.bool_]
) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """The reference's median background, and the same as the take shows it pixel by pixel."""
    places = np.flatnonzero(both)[:: max(1, int(both.sum()) // BACKGROUND_SAMPLE)]
    here, there = (look.linear.reshape(-1, 3)[places] for look in (take, reference))
    ratio = np.clip(here, 1e-4, None) / np.clip(there, 1e-4, None)
    wanted = np.median(there, axis=0).astype(float)
    return wanted * np.median(ratio, axis=0).astype(float), wanted


def _cast(gains: NDArray[np.float64]) -> tuple[float, float]:
    """What gains make of a neutral: mired warmer, and Duv greener."""
    neutral, seen = SRGB_TO_XYZ @ np.ones(3), SRGB_TO_XYZ @ (gains / gains[1])
    white, found = temperature_of(*xy_of(neutral)), temperature_of(*xy_of(seen))
    return float(mired(found.cct_k) - mired(white.cct_k)), found.duv - white.duv


def _background(take: SeriesLook, reference: SeriesLook) -> tuple[float | None, int]:
    """How unlike the reference the background falls off (stops), and specks that are new."""
    both = _shared(take, reference)
    if both.sum() < LEAST_BACKGROUND:
        return None, 0
    ratio = np.log2(
        np.clip(luminance_share(take.linear), 1e-4, None)
        / np.clip(luminance_share(reference.linear), 1e-4, None)
    ).astype(np.float32)
    smooth = np.asarray(cv2.medianBlur(np.where(both, ratio, np.median(ratio[both])), 5))
    low, high = np.percentile(smooth[both], (5, 95))
    return float(high - low), _specks(take, reference)


def _specks(take: SeriesLook, reference: SeriesLook) -> int:
    """Small spots of the background that the reference has not."""
    here, there = _strangeness(take), _strangeness(reference)
    # Edges that both show stay a little different where they run a pixel beside each other.
    known = cv2.dilate(there, np.ones((9, 9), np.uint8)) + SPECK_CIELAB / 2
    new = (here > SPECK_CIELAB) & (here > known) & _shared(take, reference)
    count, _, stats, _ = cv2.connectedComponentsWithStats(new.astype(np.uint8))
    most = MOST_SPECK_SHARE * new.size
    sizes = stats[1:count]
    compact = [
        row
        for row in sizes
        if LEAST_SPECK_PX <= row[cv2.CC_STAT_AREA] <= most and max(row[2:4]) <= 4 * min(row[2:4])
    ]
    return len(compact)


def _strangeness(look: SeriesLook) -> NDArray[np.float32]:
    """How far each pixel's lightness is from the background around it; 0 off the background."""
    lightness = look.lightness * np.float32(100)
    # The thing and what a turned frame does not show are no background to compare with.
    hidden = cv2.dilate(look.lost.astype(np.uint8), np.ones((9, 9), np.uint8)) > 0
    shown = (look.background & ~hidden).astype(np.float32)
    around = cv2.blur(lightness * shown, (21, 21)) / np.maximum(cv2.blur(shown, (21, 21)), 0.01)
    own = cv2.blur(lightness, (3, 3))
    return np.asarray(np.abs(own - around) * shown, dtype=np.float32)


def _in_widths(where: Placed, take: SeriesLook) -> tuple[float, float]:
    height, width = take.lost.shape
    return where.shift[0], where.shift[1] * height / width


BLUR_OF_PIXELS = 0.5
"""Own choice: no edge is sharper than a pixel's own half."""


def _sharpness(take: SeriesLook, reference: SeriesLook) -> float | None:
    """The reference's blur over the take's: 1 is as sharp, 0.5 twice as soft."""
    if take.blur_px is None or reference.blur_px is None:
        return None
    return float(
        np.hypot(reference.blur_px, BLUR_OF_PIXELS) / np.hypot(take.blur_px, BLUR_OF_PIXELS)
    )
