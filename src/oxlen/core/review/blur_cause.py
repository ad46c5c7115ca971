"""What blurred a take: the hand, the thing's own motion, or focus, judged against a sharper one.

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
    NOISE_FROM,
    RADIUS,
    RINGS,
    SECTORS,
    USED,
)

Floats = NDArray[np.float64]
Kind = Literal["none", "shake", "motion", "defocus"]
LENGTHS_PX = np.geomspace(0.5, 45.0, 56)
NOISE_LEVELS = (1.0, 3.0, 10.0)
"""Noise between the waves may be so many times that of the finest: pictures are smoothed there."""
SHARP_PX = 1.7
"""Below this nothing can be judged, and nothing is lost either."""
CLEAR = 12.0
"""A wave must be so far above the noise of the finest to be compared: what demosaicing makes of
noise is coarser than that."""
LONE_GAIN = 0.25
"""What blurred the subject alone must explain it better than no blur by so much; by less where much
of the rest is blurred alike."""
TELLS_WAY = 0.1
"""Blur that explains the subject better by less than this tells no direction: noise has one too."""
LEAST_WAVES = 24
FINE, LEAST_FINE = 0.12, 20
"""Without so many waves finer than this (cycles a pixel) a patch looks sharp whatever it is."""
SHARED = 0.93
"""Where so much of the rest is blurred alike, one cause blurred both."""
CLEARLY, BY = 0.8, 0.02
"""A smear must explain a patch so much better than a disc, in proportion and at all."""
HAND_SHARE = 0.5
"""Spread alike over all of the frame: the hand, where it was to be expected to do so much of it."""
CHORDS = 400
DIRECTED, ALL_DIRECTED, KNOCKED = 1.6, 1.4, 2.2
"""Blur so much longer one way than across it was drawn, not spread: of one patch, of many, of a
phone on a tripod."""


@dataclass(frozen=True)
class BlurFit:
    """How far patches are smeared (px, at an angle) or spread (px across), and which fits better.

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
        """Whether a smear explains it clearly better than a disc."""
        return self.smear_misfit < min(CLEARLY * self.disc_misfit, self.disc_misfit - BY)


@dataclass(frozen=True)
class BlurCause:
    """What blurred the subject, by how much (px), and along which way where it was drawn.

    `shared` is how much of what the rest tells says that it is blurred alike, 0 to 1.
    """

    kind: Kind
    px: float
    angle_deg: float | None
    shared: float


@dataclass(frozen=True)
class Misfits:
    """How badly each blur explains one patch: smears (lengths, angles), discs (lengths), and discs
    by the direction of the waves (sectors, lengths); `waves` were compared."""

    smears: Floats
    discs: Floats
    by_way: Floats
    waves: int


def misfits(own: Sequence[float], sharp: Sequence[float]) -> Misfits | None:
    """A patch against the same patch of a sharper picture; None where it shows no blur.

    Takes powers of detail as `detail_power` gives them.
    """
    compared = _compared(own, sharp)
    if compared is None:
        return None
    seen, detail, noise, weight = compared
    levels = [noise * level for level in NOISE_LEVELS]
    telling = weight > 0
    # Logarithms of half the width take half the time, and are exact enough for a sum of thousands.
    known, light = np.log(seen[telling]).astype(np.float32), detail[telling].astype(np.float32)
    weighed = weight[telling].astype(np.float32)
    fades = smear_fades()[:, :, telling].astype(np.float32) * light
    smears = np.min(
        [((known - np.log(fades + np.float32(level))) ** 2) @ weighed for level in levels], axis=0
    ).astype(float)
    each = [_off(seen, detail * disc_fades()[:, :, None] + level) * weight for level in levels]
    best = np.min([part.sum(axis=(1, 2)) for part in each], axis=0)
    by_way = np.min([part.sum(axis=1).T for part in each], axis=0)
    return Misfits(smears, best, by_way, waves=int((weight > 0).sum()))


def blur_fit(patches: Sequence[Misfits]) -> BlurFit | None:
    """The one blur that explains all patches best; None without any."""
    if not patches:
        return None
    waves = sum(patch.waves for patch in patches)
    smears = np.sum([patch.smears for patch in patches], axis=0)
    discs = np.sum([patch.discs for patch in patches], axis=0)
    ways = LENGTHS_PX[np.argmin(np.sum([patch.by_way for patch in patches], axis=0), axis=1)]
    length, way = np.unravel_index(int(np.argmin(smears)), smears.shape)
    spread = (np.roll(ways, 1) + ways + np.roll(ways, -1)) / 3  # one sector alone is chance
    return BlurFit(
        float(LENGTHS_PX[length]),
        float(np.degrees(ANGLES[way])),
        float(LENGTHS_PX[int(np.argmin(discs))]),
        smear_misfit=float(smears.min()) / waves,
        disc_misfit=float(discs.min()) / waves,
        directed=float(spread.max() / spread.min()),
    )


def _compared(
    own: Sequence[float], sharp: Sequence[float]
) -> tuple[Floats, Floats, float, Floats] | None:
    """What a patch shows, what it would show unblurred, its noise, and which waves tell."""
    seen = np.asarray(own).reshape(RINGS, SECTORS)
    other = np.asarray(sharp).reshape(RINGS, SECTORS)
    finest = RADIUS >= NOISE_FROM
    noise, its = float(np.median(seen[finest])), float(np.median(other[finest]))
    detail = np.maximum(other - its, 1e-12)[USED]
    telling = detail > CLEAR * max(noise, its)
    fine = telling[RADIUS[USED] >= FINE]
    if int(telling.sum()) < LEAST_WAVES or int(fine.sum()) < LEAST_FINE:
        return None
    weight = telling * np.sqrt(RADIUS[USED])[:, None]
    return np.maximum(seen[USED], 1e-15), detail, noise, np.asarray(weight)


def _off(seen: Floats, expected: Floats) -> Floats:
    return np.asarray((np.log(seen) - np.log(expected)) ** 2)


@lru_cache(maxsize=1)
def smear_fades() -> Floats:
    """How smears dim waves: (lengths, angles of the smear, rings used, sectors)."""
    along = np.cos(ANGLES[:, None] - ANGLES[None, :])
    phase = LENGTHS_PX[:, None, None, None] * RADIUS[USED][:, None] * along[None, :, None, :]
    return np.asarray(np.sinc(phase) ** 2)


@lru_cache(maxsize=1)
def disc_fades() -> Floats:
    """How discs of each length in `LENGTHS_PX` dim waves: (lengths, rings used). [GOODMAN2005]

    The sum over the disc's chords, each with the wave's height there: squared, as power is.
    """
    across = (np.arange(CHORDS) + 0.5) / CHORDS * 2 - 1
    chord = np.sqrt(1 - across**2)
    phase = np.pi * LENGTHS_PX[:, None, None] * RADIUS[USED][None, :, None] * across
    return np.asarray(((np.cos(phase) * chord).sum(axis=2) / chord.sum()) ** 2)


def blur_cause(
    subject: Misfits | None, rest: Sequence[Misfits], *, hand_px: float | None = 0.0
) -> BlurCause | None:
    """What blurred the subject, by its own blur and by whether the rest shares it.

    Blurred alone it moved, if drawn one way, or is out of focus; blurred with the rest it was the
    hand, if drawn, or the focus. A walk of the hand may spread light evenly too: `hand_px` is
    the blur to be expected of it, None for a firm phone, which was knocked only where the
    blur is plainly drawn. None where the subject shows nothing of its blur.
    """
    own = None if subject is None else blur_fit([subject])
    if subject is None or own is None:
        return None
    sharing, share = _sharing(own, rest)
    if own.px < SHARP_PX:
        return BlurCause("none", own.px, None, shared=0.0)
    if share >= SHARED:
        all_of_it = blur_fit([subject, *sharing]) or own
        if hand_px is None:
            is_drawn = all_of_it.is_smear and all_of_it.directed >= KNOCKED
        else:
            tells_way = _gain(subject, own) >= TELLS_WAY
            is_drawn = all_of_it.is_smear or (tells_way and all_of_it.directed >= ALL_DIRECTED)
        if is_drawn or (hand_px or 0.0) >= HAND_SHARE * own.px:
            return BlurCause("shake", all_of_it.smear_px, all_of_it.angle_deg, shared=share)
        return BlurCause("defocus", own.disc_px, None, shared=share)
    if _gain(subject, own) < LONE_GAIN * (1 - share):
        return BlurCause("none", own.px, None, shared=share)
    if own.is_smear or own.directed >= DIRECTED:
        return BlurCause("motion", own.smear_px, own.angle_deg, shared=share)
    return BlurCause("defocus", own.disc_px, None, shared=share)


def _gain(subject: Misfits, own: BlurFit) -> float:
    """How much better its blur explains the subject than none."""
    return float(subject.discs[0]) / subject.waves - min(own.smear_misfit, own.disc_misfit)


def _sharing(own: BlurFit, rest: Sequence[Misfits]) -> tuple[list[Misfits], float]:
    """Patches better explained by the subject's blur than by none, and their share of all telling.

    Each counts by how clearly it tells: a plain one fits either way.
    """
    length = int(np.argmin(np.abs(LENGTHS_PX - own.px)))
    way = int(np.argmin(np.abs(ANGLES - np.radians(own.angle_deg))))
    speak = []
    for other in rest:
        blurred = other.smears[length, way] if own.is_smear else other.discs[length]
        speak.append(float(other.discs[0] - blurred))
    reported = float(np.abs(speak).sum()) if speak else 0.0
    if reported == 0:
        return [], 0.0
    sharing = [misfit for misfit, by in zip(rest, speak, strict=True) if by > 0]
    return sharing, sum(by for by in speak if by > 0) / reported
