"""What is known of a picture, as `oxlen meter` prints it and the API hands it on."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel


class FileFacts(BaseModel):
    """The file itself."""

    name: str
    format: str
    width: int | None
    height: int | None
    orientation: int
    kind: Literal["raw", "processed"]


class CameraFacts(BaseModel):
    """Who took it, as the file says, and the software it ran on."""

    make: str | None
    model: str | None
    lens: str | None
    software: str | None = None


class SettingsFacts(BaseModel):
    """What it was taken with; None where the file does not say, or cannot be believed."""

    iso: float | None
    shutter_s: float | None
    f_number: float | None
    focal_mm: float | None
    focal35_mm: float | None
    ev100: float | None


class FrameFacts(BaseModel):
    """Tones of the whole frame, in EV100 where the exposure is known and in stops from mid."""

    mean_ev100: float | None
    p01_ev100: float | None
    p50_ev100: float | None
    p99_ev100: float | None
    clipped_share: float
    blocked_share: float
    mean_stops: float
    p01_stops: float
    p50_stops: float
    p99_stops: float


class SpotFacts(BaseModel):
    """A spot that was asked for."""

    name: str
    x: float
    y: float
    r: float
    ev100: float | None
    luminance_cd_m2: float | None
    stops_from_mid: float | None
    spread_stops: list[float] | None
    clipped_share: float | None
    state: str | None
    channel_stops: float | None


class PictureReport(BaseModel):
    """A picture's reading."""

    file: FileFacts
    camera: CameraFacts
    settings: SettingsFacts
    taken_at: str | None
    white_balance: str | None
    brightness_ev100: float | None
    frame: FrameFacts | None
    spots: list[SpotFacts] = []
    confidence: str
    missing: list[str]
    notes: list[str]
