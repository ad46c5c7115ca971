"""A take compared with its plan, as `oxlen check-take` prints it and the API hands it on."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, Field

from oxlen.core.review.lamp_bands import LampBands
from oxlen.core.review.skyline import Skyline
from oxlen.core.review.take_seen import SettingsOff


class CheckedSpotFile(BaseModel):
    """A spot as the take shows it, in stops from mid, at its place in the take."""

    name: str
    role: str
    x: float
    y: float
    wanted_stops: float
    planned_stops: float = Field(description="tone planned by the slip")
    seen_stops: float
    off_stops: float = Field(description="positive = brighter than wanted")
    unexplained_stops: float = Field(description="part not explained by settings or plan")
    lost: bool
    words: str


class BlurFile(BaseModel):
    """What blurred the subject; `angle_deg` from the right downwards where it was drawn."""

    kind: Literal["none", "shake", "motion", "defocus"]
    px: float
    angle_deg: float | None


class NextFile(BaseModel):
    """What to do next: the slip to dial, the one change, and why."""

    iso: float | None
    shutter_s: float | None
    white_k: float | None
    slip: str
    one_change: str
    why: str
    light_stops: float


class TakeCheckFile(BaseModel):
    """All that was found in a take; null where it could not be found, `notes` say why."""

    state: Literal["keep", "change", "not judged"] = Field(
        description="not judged: nothing is said; notes say why"
    )
    settings_off: SettingsOff
    spots: list[CheckedSpotFile]
    clipped_share: float | None
    blocked_share: float | None
    snr: float | None
    planned_snr: float | None
    blur: BlurFile | None
    level_deg: float | None
    converging_deg: float | None = Field(description="positive = plumb lines meet above")
    cast_mired: float | None
    bands: LampBands | None
    sky: Skyline | None
    planned_sky: Skyline | None
    cut_off: list[str] = Field(description="spots cut by the frame's edge")
    white_at: list[tuple[float, float]] = Field(description="clipped areas")
    light: Literal["as_planned", "light_changed", "read_wrongly", "unknown"]
    verdict: list[str]
    next: NextFile
    notes: list[str]
