"""The slip as data: settings in dialling order, over one or several exposures."""

from __future__ import annotations

import dataclasses
from collections.abc import Mapping
from dataclasses import dataclass


@dataclass(frozen=True)
class Setting:
    """One line of the slip: what to set, to what, and the one reason that decided it.

    `because` is the id of the limit or rule behind the reason. `plus_minus` (in `plus_minus_unit`)
    says how sure the value is, and `why_plus_minus` why. `formula` names the registry entry that
    `inputs` reopen. `on_map` marks what the exposure map moves. `notes` are whole sentences that
    must be known besides; `figures` what the instrument of this line draws, units in the names.
    """

    field: str
    name: str
    value: float | str
    label: str
    unit: str
    reason: str
    because: str
    plus_minus: float | None = None
    plus_minus_unit: str = "stops"
    why_plus_minus: str = ""
    formula: str | None = None
    inputs: Mapping[str, float | str] = dataclasses.field(default_factory=dict)
    on_map: bool = False
    notes: tuple[str, ...] = ()
    figures: Mapping[str, float | None] = dataclasses.field(default_factory=dict)


@dataclass(frozen=True)
class Exposure:
    """What is shot at one setting of the phone: its settings, and how many frames of it.

    `ev100_set` counts the filter on the lens; `residual_stops` is positive where it is
    brighter than this exposure is meant to be.
    """

    settings: tuple[Setting, ...]
    ev100_set: float
    residual_stops: float
    frames: int = 1


@dataclass(frozen=True)
class Slip:
    """Everything to dial, exposure by exposure; a bracket has several, a stack one of many frames.

    `settings` are those of the main exposure, which the rest of a plan speaks of.
    """

    settings: tuple[Setting, ...]
    exposures: tuple[Exposure, ...]

    def __getitem__(self, field: str) -> Setting:
        """The line of a field; KeyError where the slip has none."""
        found = {setting.field: setting for setting in self.settings}
        return found[field]

    @property
    def order(self) -> tuple[str, ...]:
        """Names of the fields in dialling order."""
        return tuple(setting.field for setting in self.settings)
