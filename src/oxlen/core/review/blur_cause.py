"""What blurred a take: the hand, the thing's own motion, or focus, told against a sharper one.

Detail of the same places is compared wave by wave: a smear dims waves along its way and spares
those across it, a disc of defocus dims all alike.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from oxlen.core.measures.blur_spectrum import (
    ANGLES,
    LENGTHS_PX,
    NOISE_FROM,
    RADIUS,
    RINGS,
    SECTORS,
    USED,
    smear_fades,
)

Floats = NDArray[np.float64]
Kind = Literal["none", "shake", "motion", "defocus"]
SHARP_PX = 1.3
"""Below this nothing can be told, and nothing is lost either."""
CLEAR = 2.0
"""A wave must stand so far over the noise to be compared."""
LEAST_WAVES = 24
ALIKE_SHARE = 0.6
"""Where the rest is blurred by this share of the subject's blur, one cause blurred both."""
CHORDS = 400
DIRECTED = 1.6
"""Blur so much longer one way than across it was drawn, not spread."""


@dataclass(frozen=True)
class BlurFit:
    """How far a patch is smeared (px, at an angle) or spread (px across), and which fits better.

    `directed` is how much longer the blur is along its way than across it; `angle_deg` runs from
    the right downwards, 0 to 180.
    """

    smear_px: float
    angle_deg: float
    disc_px: float
    smear_misfit: float
    disc_misfit: float
    directed: float

    @property
    def px(self) -> float:
        """Its extent by the shape that fits better."""
        return self.smear_px if self.is_smear else self.disc_px

    @property
    def is_smear(self) -> bool:
        """Whether a smear explains it better than a disc."""
        return self.smear_misfit < self.disc_misfit


@dataclass(frozen=True)
class BlurCause:
    """What blurred the subject, by how much (px), and along which way where it was drawn."""

    kind: Kind
    px: float
    angle_deg: float | None
    rest_px: float | None


def blur_fit(own: Sequence[Sequence[float]], sharp: Sequence[Sequence[float]]) -> BlurFit | None:
    """Blur of patches against the same patches of a sharper picture; None where nothing shows it.

    Takes powers of detail as `detail_power` gives them, patch by patch: one blur for all of them.
    """
    smears = np.zeros((len(LENGTHS_PX), SECTORS))
    discs = np.zeros(len(LENGTHS_PX))
    by_way = np.zeros((SECTORS, len(LENGTHS_PX)))
    waves = 0.0
    for one, other in zip(own, sharp, strict=True):
        compared = _compared(one, other)
        if compared is None:
            continue
        seen, detail, noise, weight = compared
        waves += float((weight > 0).sum())
        smear_misfit = _misfit(seen, detail[None, None] * smear_fades() + noise, weight)
        smears += smear_misfit.sum(axis=(2, 3))
        disc = _misfit(seen, detail[None] * disc_fades()[:, :, None] + noise, weight)
        discs += disc.sum(axis=(1, 2))
        by_way += disc.sum(axis=1).T
    if waves < LEAST_WAVES:
        return None
    length, way = np.unravel_index(int(np.argmin(smears)), smears.shape)
    best = int(np.argmin(discs))
    ways = LENGTHS_PX[np.argmin(by_way, axis=1)]
    spread = _smoothed(ways)
    return BlurFit(
        float(LENGTHS_PX[length]),
        float(np.degrees(ANGLES[way])),
        float(LENGTHS_PX[best]),
        smear_misfit=float(smears.min()) / waves,
        disc_misfit=float(discs[best]) / waves,
        directed=float(spread.max() / max(spread.min(), LENGTHS_PX[0])),
    )


def _compared(
    own: Sequence[float], sharp: Sequence[float]
) -> tuple[Floats, Floats, float, Floats] | None:
    """What a patch shows, what it would show unblurred, its noise, and which waves tell."""
    seen = np.asarray(own).reshape(RINGS, SECTORS)
    other = np.asarray(sharp).reshape(RINGS, SECTORS)
    finest = RADIUS >= NOISE_FROM
    noise = float(np.median(seen[finest]))
    detail = np.maximum(other - float(np.median(other[finest])), 1e-12)[USED]
    telling = detail > CLEAR * max(noise, float(np.median(other[finest])))
    if int(telling.sum()) < LEAST_WAVES:
        return None
    weight = telling * np.sqrt(RADIUS[USED])[:, None]
    return np.maximum(seen[USED], 1e-15), detail, noise, np.asarray(weight)


def _misfit(seen: Floats, expected: Floats, weight: Floats) -> Floats:
    return np.asarray((np.log(seen) - np.log(expected)) ** 2 * weight)


def _smoothed(ways: Floats) -> Floats:
    """Lengths by direction over three neighbours: one sector alone is chance."""
    return np.asarray((np.roll(ways, 1) + ways + np.roll(ways, -1)) / 3)


@lru_cache(maxsize=1)
def disc_fades() -> Floats:
    """How discs of each length in `LENGTHS_PX` dim waves: (lengths, rings used). [GOODMAN2005]

    The sum over the disc's chords, each with the wave's height there: squared, as power is.
    """
    across = (np.arange(CHORDS) + 0.5) / CHORDS * 2 - 1
    chord = np.sqrt(1 - across**2)
    phase = np.pi * LENGTHS_PX[:, None, None] * RADIUS[USED][None, :, None] * across
    return np.asarray(((np.cos(phase) * chord).sum(axis=2) / chord.sum()) ** 2)


def blur_cause(subject: BlurFit | None, rest: BlurFit | None) -> BlurCause | None:
    """What blurred the subject, by its own blur and that of what stands still around it.

    Blurred alone it moved, if drawn one way, or lies out of focus; blurred with all the rest it was
    the hand, if drawn, or the focus. None where the subject shows nothing of its blur.
    """
    if subject is None:
        return None
    around = None if rest is None else rest.px
    if subject.px < SHARP_PX:
        return BlurCause("none", subject.px, None, around)
    drawn = subject.is_smear or subject.directed >= DIRECTED
    angle = subject.angle_deg if drawn else None
    if rest is not None and rest.px >= max(SHARP_PX, ALIKE_SHARE * subject.px):
        is_hand = rest.is_smear or rest.directed >= DIRECTED
        if is_hand:
            return BlurCause("shake", rest.smear_px, rest.angle_deg, rest.px)
        return BlurCause("defocus", subject.disc_px, None, rest.px)
    if drawn:
        return BlurCause("motion", subject.smear_px, angle, around)
    return BlurCause("defocus", subject.disc_px, None, around)
