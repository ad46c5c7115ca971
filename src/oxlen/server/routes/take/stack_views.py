"""What is asked of sets of frames over HTTP, and how they are shown."""

from __future__ import annotations

import json
import sqlite3
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from oxlen.core.decisions.exposure.ask import LAND
from oxlen.core.frames.combine import COMBINE_WORDS, MOVERS_WORDS, OUTCOME_WORDS, Combine
from oxlen.core.frames.gain import noise_gain_stops
from oxlen.core.labels import listed, sentence_case, stops_label, time_label, two_digits
from oxlen.formats.sheet.upgrades import read_sheet
from oxlen.formats.strict import Id, Strict, Title
from oxlen.formats.take.stack import StackFile
from oxlen.server.context import Context
from oxlen.stacking.ask import STREAMED, Align
from oxlen.stacking.in_library import StackProgress, preview_path, progress_of
from oxlen.store.sheets import sheet, sheets_of
from oxlen.store.stacks import KeptStack, frames_of_stack
from oxlen.store.takes import Take, takes_of

Share = Annotated[float, Field(ge=0, le=1)]
FrameName = Annotated[str, Field(max_length=255)]


class NewStack(Strict):
    """A set to be begun: its name, and the sheet it belongs to if any."""

    name: Title
    sheet_id: Id | None = None


class StackAsked(Strict):
    """How a set is stacked, and the kind of file its result is."""

    combine: Combine = "mean"
    align: Align = "none"
    ending: Literal["tif", "jpg", "dng"] = "tif"
    mixed: bool = False
    horizon: Annotated[tuple[tuple[Share, Share], ...], Field(max_length=60)] = ()
    dark: FrameName | None = None
    close_gaps: bool = False
    land: Annotated[tuple[FrameName, ...], Field(max_length=50)] = ()
    land_lift_stops: Annotated[float, Field(ge=-6, le=6)] = 0.0


class TakesOfSet(Strict):
    """Takes of the set's sheet that are its frames; the RAW file where `raw` says so."""

    takes: Annotated[list[Id], Field(min_length=1, max_length=500)]
    raw: bool = False


class BenchFrames(Strict):
    """How many frames the bench phone shoots of the sheet's scene, so many seconds apart."""

    frames: Annotated[int, Field(ge=2, le=60)] = 20
    gap_s: Annotated[float, Field(ge=0, le=3600)] | None = None
    seed: Annotated[int, Field(ge=0, le=2**31)] = 0


class RuleView(BaseModel):
    """A rule with this set's frames: what becomes of movers, noise, and what it takes on disk."""

    combine: Combine
    name: str
    outcome: str
    movers: str
    noise: str
    noise_gain_stops: float
    disk_gb: float


class StackView(BaseModel):
    """A set: how it is stacked, how far it is, and the result."""

    id: int
    sheet_id: int | None
    name: str
    combine: Combine
    align: Align
    ending: str
    mixed: bool
    horizon: list[tuple[float, float]]
    dark: str | None
    close_gaps: bool
    land: list[str]
    land_lift_stops: float
    land_takes: list[int]
    state: Literal["gathering", "working", "stopped", "failed", "done"]
    problem: str
    frames: int
    names: list[str]
    size_mb: float
    has_preview: bool
    progress: StackProgress | None
    result: StackFile | None
    result_picture: str | None
    rules: list[RuleView]
    told: list[str]
    is_raw: bool
    has_scene: bool


SKY_SHARE = 0.1
"""Where so much below the line seems to be sky, it is reported."""
PLAIN = (
    "id",
    "sheet_id",
    "name",
    "ending",
    "mixed",
    "problem",
    "frames",
    "dark",
    "close_gaps",
    "land_lift_stops",
)
"""What is shown of a set as it is kept."""


def stack_view(context: Context, stack: KeptStack) -> StackView:
    """A stack as it is now."""
    library, stack = context.library, context.stack_jobs.settled(stack)
    reported = progress_of(library, stack.id) if stack.state == "working" else None
    with library.reader() as connection:
        frames = frames_of_stack(connection, stack.id)
        of_foreground = land_takes(connection, stack.sheet_id)
        body = (
            None if stack.sheet_id is None else read_sheet(sheet(connection, stack.sheet_id).body)
        )
    scene = body is not None and body.scene is not None
    known = [frame.facts for frame in frames if frame.facts is not None]
    first = known[0] if known else None
    pixels = 0 if first is None else first.width_px * first.height_px
    return StackView(
        **{field: getattr(stack, field) for field in PLAIN},
        horizon=json.loads(stack.horizon),
        land=json.loads(stack.land),
        land_takes=[take.id for take in of_foreground],
        combine=stack.combine,  # type: ignore[arg-type]
        align=stack.align,  # type: ignore[arg-type]
        state=stack.state,  # type: ignore[arg-type]
        names=[frame.name for frame in frames],
        size_mb=sum(facts.byte_count for facts in known) / 1e6,
        has_preview=preview_path(library, stack.id).is_file(),
        progress=None if reported is None else reported,
        result=None if stack.result is None else StackFile.model_validate_json(stack.result),
        result_picture=stack.result_sha256,
        rules=[_rule(how, stack, pixels=pixels) for how in COMBINE_WORDS],
        told=[] if stack.result is None else _notes(stack, stack.result),
        is_raw=first is not None and first.is_raw,
        has_scene=scene,
    )


def land_takes(connection: sqlite3.Connection, sheet_id: int | None) -> list[Take]:
    """Takes of the foreground by itself, from other sheets of the set's outing."""
    if sheet_id is None:
        return []
    own = sheet(connection, sheet_id)
    beside = [kept for kept in sheets_of(connection, own.outing_id) if kept.id != sheet_id]
    return [
        take
        for point in beside
        if read_sheet(point.body).asked()[LAND.name] is not None
        for take in takes_of(connection, point.id)
    ]


def _notes(kept: KeptStack, result: str) -> list[str]:
    """What came of a set, in sentences."""
    found = StackFile.model_validate_json(result)
    how = COMBINE_WORDS[kept.combine]  # type: ignore[index]
    light = f", the light of {time_label(found.light_s)}" if found.light_s else ""
    took = f", shot within {time_label(found.time_s)}" if found.time_s > found.light_s else ""
    lines = [f"{found.frames} frames, {how}{light}{took}."]
    if found.noise_gain_stops > 0:
        lower = stops_label(found.noise_gain_stops)
        lines.append(f"Noise {lower} lower than in one frame.")
    # LensFilter makes water smooth; of stars it would make lines.
    if found.virtual_nd_stops > 0 and kept.align != "stars":
        lines.append(f"One frame would have needed a {found.virtual_nd_stops:.1f}-stop ND.")
    land = json.loads(kept.land)
    if land:
        lines.append(f"The foreground is from {listed(land)}.")
    if found.land_moved_px > 0:
        moved = two_digits(found.land_moved_px)
        lines.append(
            f"The phone moved {moved} px between foreground and sky. The foreground was realigned."
        )
    if found.land_sky_share > SKY_SHARE:
        lines.append(
            f"{100 * found.land_sky_share:.0f} % of the area just below the line is as bright as "
            "the sky. Draw the line lower there unless it is water."
        )
    return lines


def _rule(how: Combine, kept: KeptStack, *, pixels: int) -> RuleView:
    sample_bytes = 1 if kept.align == "none" else 2
    spooled = 0 if how in STREAMED else kept.frames * pixels * 3 * sample_bytes
    return RuleView(
        combine=how,
        name=sentence_case(COMBINE_WORDS[how]),
        outcome=OUTCOME_WORDS[how],
        movers=MOVERS_WORDS[how],
        noise=_noise_words(noise_gain_stops(how, kept.frames)),
        noise_gain_stops=noise_gain_stops(how, kept.frames),
        disk_gb=spooled / 1e9,
    )


def _noise_words(gained_stops: float) -> str:
    if gained_stops <= 0:
        return "Noise as in one frame"
    return f"Noise {stops_label(gained_stops)} lower"
