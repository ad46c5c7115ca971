"""How a phone is handled: its timers, what its camera forgets, the quickest way to open it."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Handling:
    """What the set-up of a phone depends on.

    `forgets` names the settings that do not survive a restart of its camera. `full_aspect` is the
    aspect ratio that uses the whole sensor. `upright_share` of its pictures are higher than wide.
    """

    full_aspect: str = "4:3"
    timers_s: tuple[float, ...] = (3.0, 10.0)
    volume_key: bool = True
    remote: bool = False
    changes_lens_close_up: bool = False
    faster_shooting: bool = False
    forgets: tuple[str, ...] = ()
    opens_by: str = ""
    battery_percent_per_min: float | None = None
    upright_share: float | None = None
