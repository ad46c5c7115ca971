"""Gain, full well and read noise from pairs of flat frames and a covered pair at each ISO."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from oxlen.core.errors import BadInput
from oxlen.core.measures.measured import Figure, Measured, Plot, Series
from oxlen.core.sensor.noise_profile import base_well_e

COVERED_SHARE = 0.004
"""Frames whose mean is this near black, as a share of the range, were taken covered."""
BRIGHTEST_SHARE = 0.85
"""Nearer to white, clipping makes noise look smaller than it is."""
SAME_LEVEL = 0.06
LEAST_WELL_PER_UM2, MOST_WELL_PER_UM2 = 800.0, 20_000.0
"""Electrons per µm² that no phone's pixel has been seen to go below or above. [FONTAINE2015]"""
GAIN_SLACK = 1.08


@dataclass(frozen=True)
class FlatFrame:
    """One colour's photosites of a flat frame's middle, in DN, and the file's levels."""

    iso: float
    shutter_s: float
    black_dn: float
    white_dn: float
    patch: NDArray[np.float64]

    @property
    def share(self) -> float:
        """Its mean between black and white."""
        return (float(self.patch.mean()) - self.black_dn) / (self.white_dn - self.black_dn)


@dataclass(frozen=True)
class GainAt:
    """Figures of an ISO: DN an electron, electrons at white, read noise (e⁻), each with its ±.

    `pairs` hold mean and half the variance of the difference, in DN above black and DN².
    """

    iso: float
    gain_dn_per_e: float
    gain_plus_minus: float
    white_e: float
    read_noise_e: float
    read_plus_minus: float
    pairs: tuple[tuple[float, float], ...]


def flat_pairs(frames: Sequence[FlatFrame], *, base_iso: float, pixel_pitch_um: float) -> Measured:
    """Gain and read noise of each ISO by photon transfer: slope and covered noise. [EMVA1288]

    BadInput says what is missing: a covered pair and a light pair at each ISO.
    """
    found = [gain_at(iso, [frame for frame in frames if frame.iso == iso]) for iso in _isos(frames)]
    wells = [base_well_e(gain.white_e, gain.iso, base_iso) for gain in found]
    shares = [gain.gain_plus_minus / gain.gain_dn_per_e for gain in found]
    weights = np.array([1 / share**2 for share in shares])
    well = float(np.average(wells, weights=weights))
    spread = float(np.std(wells) / math.sqrt(len(wells))) if len(wells) > 1 else 0.0
    doubt = math.hypot(2 * well / math.sqrt(float(weights.sum())), 2 * spread)
    noise = tuple((gain.iso, gain.read_noise_e) for gain in found)
    noise_doubt = max(2 * gain.read_plus_minus for gain in found)
    lowest = found[0]
    return Measured(
        (
            Figure("full_well_e", well, doubt, unit="e⁻"),
            Figure("read_noise_e", noise, noise_doubt, unit="e⁻"),
        ),
        f"A pixel holds {well:,.0f} electrons at ISO {base_iso:g}; read noise is "
        f"{lowest.read_noise_e:.1f} electrons at ISO {lowest.iso:g}"
        + (f" and {found[-1].read_noise_e:.1f} at ISO {found[-1].iso:g}." if found[1:] else "."),
        plot=_plot(found),
        doubts=tuple(_doubts(found, well / pixel_pitch_um**2)),
    )


def _isos(frames: Sequence[FlatFrame]) -> list[float]:
    if not frames:
        raise BadInput("Add flat RAW frames.", "files")
    return sorted({frame.iso for frame in frames})


def gain_at(iso: float, frames: Sequence[FlatFrame]) -> GainAt:
    """Gain and read noise of one ISO from its frames, two by two. [EMVA1288]

    BadInput without a covered pair or a light pair.
    """
    covered = [frame for frame in frames if frame.share < COVERED_SHARE]
    light = sorted(
        (frame for frame in frames if COVERED_SHARE <= frame.share <= BRIGHTEST_SHARE),
        key=lambda pair: pair.share,
    )
    dark_pairs, light_pairs = list(_pairs(covered)), list(_pairs(light))
    if not dark_pairs:
        raise BadInput(f"ISO {iso:g} needs two frames with the lens covered.", "files")
    if not light_pairs:
        raise BadInput(f"ISO {iso:g} needs two equal frames of something evenly lit.", "files")
    read_dn2 = float(np.mean([variance for _, variance, _ in dark_pairs]))
    read_share = math.sqrt(2 / sum(count for _, _, count in dark_pairs))
    gains, weights = [], []
    for mean, variance, count in light_pairs:
        gains.append((variance - read_dn2) / mean)
        doubt = math.hypot(variance, read_dn2 * read_share / math.sqrt(2 / count))
        weights.append((mean / (doubt * math.sqrt(2 / count))) ** 2)
    gain = float(np.average(gains, weights=weights))
    if gain <= 0:
        raise BadInput(
            f"At ISO {iso:g} the lit frames are not noisier than the covered ones.", "files"
        )
    gain_doubt = 1 / math.sqrt(sum(weights))
    range_dn = frames[0].white_dn - frames[0].black_dn
    read_e = math.sqrt(max(read_dn2 - 1 / 12, 1e-9)) / gain
    return GainAt(
        iso,
        gain,
        gain_doubt,
        white_e=range_dn / gain,
        read_noise_e=read_e,
        read_plus_minus=read_e * math.hypot(read_share / 2, gain_doubt / gain),
        pairs=tuple((mean, variance) for mean, variance, _ in (*dark_pairs, *light_pairs)),
    )


def _pairs(frames: Sequence[FlatFrame]) -> Iterator[tuple[float, float, int]]:
    """Mean (DN above black), half the difference's variance (DN²), pixels, of alike neighbours."""
    waiting: FlatFrame | None = None
    for frame in frames:
        if waiting is None or not _alike(waiting, frame):
            waiting = frame
            continue
        difference = waiting.patch - frame.patch
        mean = float(waiting.patch.mean() + frame.patch.mean()) / 2 - frame.black_dn
        yield mean, float(difference.var()) / 2, difference.size
        waiting = None


def _alike(a: FlatFrame, b: FlatFrame) -> bool:
    if a.patch.shape != b.patch.shape or a.shutter_s != b.shutter_s:
        return False
    return abs(a.share - b.share) <= max(SAME_LEVEL * a.share, COVERED_SHARE)


def _doubts(found: Sequence[GainAt], well_per_um2: float) -> Iterator[str]:
    for low, high in pairwise(found):
        if low.gain_dn_per_e > GAIN_SLACK * high.gain_dn_per_e:
            yield (
                f"Gain falls from ISO {low.iso:g} to {high.iso:g}; it rises on every sensor. Were "
                "all frames shot in the same light, with ISO set by hand?"
            )
        if high.read_noise_e > 1.5 * low.read_noise_e:
            yield (
                f"Read noise rises from ISO {low.iso:g} to {high.iso:g}; was the lens covered "
                "tightly at both?"
            )
    if not LEAST_WELL_PER_UM2 <= well_per_um2 <= MOST_WELL_PER_UM2:
        yield (
            f"{well_per_um2:,.0f} electrons per µm² is not possible. Phones have "
            f"{LEAST_WELL_PER_UM2:,.0f} to {MOST_WELL_PER_UM2:,.0f}. Use plain RAW files, not "
            "merged or smoothed."
        )


def _plot(found: Sequence[GainAt]) -> Plot:
    series: list[Series] = []
    for gain in found:
        points = sorted(gain.pairs)
        series.append(
            Series(f"ISO {gain.iso:g}", tuple(m for m, _ in points), tuple(v for _, v in points))
        )
        most, floor = points[-1][0], points[0][1]
        ends = (0.0, most)
        series.append(
            Series("", ends, tuple(floor + gain.gain_dn_per_e * m for m in ends), is_line=True)
        )
    return Plot("mean, DN above black", "noise squared, DN²", tuple(series))
