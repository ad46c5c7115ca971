"""Photon transfer: gain and read noise from pairs of flat frames."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from oxlen.core.errors import BadInput


@dataclass(frozen=True)
class TransferFit:
    """Gain (DN per e⁻), intercept (DN²) and read noise; None where the fit gives no answer."""

    gain_dn_per_e: float
    intercept_dn2: float
    read_noise_dn: float | None
    read_noise_e: float | None


def photon_transfer(pairs: Sequence[Sequence[float]], black_dn: float) -> TransferFit:
    """Fit variance against mean over flat pairs: slope = gain, intercept = read noise². [EMVA1288]

    `pairs` holds [mean DN, variance of the difference DN²] at two or more levels. A negative
    intercept has no read noise to give: both read noises are None.

    >>> photon_transfer([[164, 218], [564, 1018]], 64).read_noise_e
    3.0
    """
    table = np.asarray(pairs, dtype=float)
    if table.ndim != 2 or table.shape[1] != 2 or len(np.unique(table[:, 0])) < 2:
        raise BadInput("Photon transfer needs frame pairs at two or more levels.", "pairs")
    mean, half_variance = table[:, 0] - black_dn, table[:, 1] / 2
    centred = mean - mean.mean()
    gain = float(centred @ (half_variance - half_variance.mean()) / (centred @ centred))
    intercept = float(half_variance.mean() - gain * mean.mean())
    if intercept < 0 or gain <= 0:
        return TransferFit(gain, intercept, None, read_noise_e=None)
    read_noise_dn = float(np.sqrt(intercept))
    return TransferFit(gain, intercept, read_noise_dn, read_noise_e=read_noise_dn / gain)
