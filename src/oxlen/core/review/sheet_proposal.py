"""For which sheet a picture was shot: by its time, lens and settings."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass

from oxlen.core.labels import listed

SAME_STOPS, NEAR_STOPS = 0.2, 1.2
SAME_FOCAL = 0.08
"""Focal lengths further apart than this share are of other lenses."""
SOON_S, SAME_DAY_S = 45 * 60.0, 14 * 3600.0
LEAST_SCORE = 2.0
"""Less than this is a guess nobody would make."""
SETTINGS, NEAR_SETTINGS, SOON, SAME_DAY, LENS, OTHER_LENS, PHONE = (
    3.0,
    1.0,
    2.5,
    1.0,
    1.0,
    -2.0,
    0.5,
)


@dataclass(frozen=True)
class ShotFacts:
    """What a file says of a shot; `taken_s` counts seconds from any epoch, None = not given."""

    iso: float | None = None
    shutter_s: float | None = None
    focal35_mm: float | None = None
    taken_s: float | None = None
    model: str | None = None


@dataclass(frozen=True)
class SheetFacts:
    """A sheet as a shot may belong to it: its slips, its lens, and when it was worked on.

    `steps` are the pairs of ISO and shutter (s) that may be dialled for it.
    """

    sheet_id: int
    steps: tuple[tuple[float, float], ...] = ()
    focal35_mm: float | None = None
    used_s: tuple[float, ...] = ()
    model: str | None = None


@dataclass(frozen=True)
class SheetProposal:
    """A sheet a shot may belong to, how much speaks for it, and why."""

    sheet_id: int
    score: float
    why: str


def proposals(shot: ShotFacts, sheets: Iterable[SheetFacts]) -> list[SheetProposal]:
    """Sheets a shot may belong to, the likeliest first; none where nothing speaks for any."""
    found = (_proposal(shot, sheet) for sheet in sheets)
    likely = [proposal for proposal in found if proposal.score >= LEAST_SCORE]
    return sorted(likely, key=lambda candidate: -candidate.score)


def _proposal(shot: ShotFacts, sheet: SheetFacts) -> SheetProposal:
    stated = [reason for reason in (_by_settings(shot, sheet), _by_time(shot, sheet)) if reason[0]]
    stated += [reason for reason in (_by_lens(shot, sheet), _by_phone(shot, sheet)) if reason[0]]
    words = listed([words for score, words in stated if score > 0])
    return SheetProposal(sheet.sheet_id, sum(score for score, _ in stated), words)


def _by_settings(shot: ShotFacts, sheet: SheetFacts) -> tuple[float, str]:
    if shot.iso is None or shot.shutter_s is None or not sheet.steps:
        return 0.0, ""
    off = min(
        max(abs(math.log2(shot.iso / iso)), abs(math.log2(shot.shutter_s / shutter_s)))
        for iso, shutter_s in sheet.steps
    )
    if off <= SAME_STOPS:
        return SETTINGS, "same settings as its slip"
    return (NEAR_SETTINGS, "settings near its slip") if off <= NEAR_STOPS else (0.0, "")


def _by_time(shot: ShotFacts, sheet: SheetFacts) -> tuple[float, str]:
    if shot.taken_s is None or not sheet.used_s:
        return 0.0, ""
    apart_s = min(abs(shot.taken_s - used_s) for used_s in sheet.used_s)
    if apart_s <= SOON_S:
        minutes = max(1, round(apart_s / 60))
        return SOON * (
            1 - 0.5 * apart_s / SOON_S
        ), f"{minutes} min from its picture or its last use"
    return (SAME_DAY, "same day") if apart_s <= SAME_DAY_S else (0.0, "")


def _by_lens(shot: ShotFacts, sheet: SheetFacts) -> tuple[float, str]:
    if shot.focal35_mm is None or sheet.focal35_mm is None:
        return 0.0, ""
    off = abs(shot.focal35_mm / sheet.focal35_mm - 1)
    return (LENS, "same lens") if off <= SAME_FOCAL else (OTHER_LENS, "")


def _by_phone(shot: ShotFacts, sheet: SheetFacts) -> tuple[float, str]:
    if shot.model is None or sheet.model is None or shot.model != sheet.model:
        return 0.0, ""
    return PHONE, "same phone"
