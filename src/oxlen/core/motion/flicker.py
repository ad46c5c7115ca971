"""Lamps that pulse: shutters that expose evenly, and the bands of those that do not."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from oxlen.core.errors import OutOfRange
from oxlen.core.units import Real, require_positive

LIMIT_SLACK = 1e-9
"""Own choice: what a division in binary may be off."""
MOST_STEPS = 100_000


def mains_pulse_hz(mains_hz: Real) -> Real:
    """Pulse rate of a mains lamp: twice the mains, for either half of the wave gives light.

    Takes a positive rate in Hz. [IEEE1789]

    >>> mains_pulse_hz(50.0)
    100.0
    """
    return 2 * require_positive("mains_hz", mains_hz, "Hz")


def even_shutters_s(pulse_hz: float, longest_s: float) -> NDArray[np.float64]:
    """All shutters (s) up to a longest that hold a whole number of pulses: n/f. Ascending.

    Empty when not even one pulse fits. OutOfRange for more than 100 000 of them. [IEEE1789]

    >>> even_shutters_s(100.0, 0.03).tolist()
    [0.01, 0.02, 0.03]
    """
    pulses = require_positive("pulse_hz", pulse_hz, "Hz") * require_positive("longest", longest_s)
    count = int(np.floor(pulses * (1 + LIMIT_SLACK)))
    if count > MOST_STEPS:
        raise OutOfRange("limit", longest_s, low=0, high=MOST_STEPS / pulse_hz, unit="s")
    steps: NDArray[Any] = np.arange(1, count + 1) / pulse_hz
    return steps


def rolling_bands(readout_s: Real, pulse_hz: Real) -> Real:
    """Number of bright and dark bands down the frame: readout time × pulse rate. [IEEE1789]

    A count; takes a positive time (s) and rate (Hz).

    >>> rolling_bands(0.02, 100.0)
    2.0
    """
    return require_positive("readout", readout_s, "s") * require_positive("pulse", pulse_hz, "Hz")


def residual_modulation(pulse_hz: Real, shutter_s: Real) -> Real:
    """Share of the lamp's modulation that a shutter leaves: |sin(πft)|/(πft). [IEEE1789]

    Takes a positive rate (Hz) and time (s); 0 to 1.

    >>> f"{residual_modulation(100.0, 0.0105):.3f} {residual_modulation(100.0, 0.5):.3f}"
    '0.047 0.000'
    """
    require_positive("pulse_hz", pulse_hz, "Hz")
    require_positive("shutter_s", shutter_s, "s")
    return np.abs(np.sinc(np.asarray(pulse_hz) * shutter_s))[()]
