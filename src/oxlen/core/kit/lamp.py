"""A lamp of the kit: its colour, how true its colours are, what can be done with it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from oxlen.core.ask import Checked, Quantity, Text

GOOD_CRI = 90.0
"""Under this colours are off whatever is dialled. [CIE13.3]"""

LampKelvin = Annotated[float, Quantity(1000, 25_000, "K", label="Colour")]
Duv = Annotated[float, Quantity(-0.05, 0.05, "", label="Duv, + greenish")]
"""Own choice: beyond ±0.05 a light has no colour temperature. [OHNO2013]"""
Cri = Annotated[float, Quantity(0, 100, "Ra", label="CRI", usual=90)]


@dataclass(frozen=True)
class Lamp(Checked):
    """A lamp as its owner knows it: colour temperature, Duv, CRI, how far it dims, its pulsing.

    `duv` None where nobody measured it. `dims_to` is the least share of its full power, 1 where it
    cannot be dimmed; `pulse_hz` None where it does not pulse; `lumens` None where nobody knows.
    """

    name: Annotated[str, Text(60, "Name")]
    cct_k: LampKelvin
    duv: Duv | None = None
    cri: Cri | None = None
    dims_to: Annotated[float, Quantity(0.001, 1, "× full", label="Dims to")] = 1.0
    pulse_hz: Annotated[float, Quantity(1, 100_000, "Hz", label="Pulses", usual=100)] | None = None
    lumens: Annotated[float, Quantity(0.1, 1e7, "lm", label="Lumens", usual=800)] | None = None
