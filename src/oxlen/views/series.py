"""What the sheets of a series share: parts of the leading sheet, locked over the others."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from pydantic import BaseModel

from oxlen.core import decisions
from oxlen.core.decisions.exposure.ask import EXPOSURE_PART
from oxlen.core.errors import UnreadableSheet
from oxlen.formats.plan.plan import SlipFile
from oxlen.formats.sheet.file import SheetBody, StepsByHand
from oxlen.formats.sheet.upgrades import read_sheet
from oxlen.store.series import Series
from oxlen.views.answer import Answer, SlipLine

OF_EXPOSURE = ("phone", "steps_by_hand")
"""Locked with the exposure besides its asks: the steps are the phone's own."""


@dataclass(frozen=True)
class PlaceInSeries:
    """A sheet's place in a series: the series, its leading sheet's title, and which sheet it is."""

    series: Series
    lead_title: str
    sheet_id: int

    @property
    def leads(self) -> bool:
        """Whether the sheet leads the series."""
        return self.sheet_id == self.series.lead_id


class SeriesOfSheet(BaseModel):
    """The series a sheet belongs to: who leads it, how many sheets it has, what it locks.

    `changed` names locked parts in which this sheet is not as the series; on the leading sheet what
    the others do not have yet.
    """

    id: int
    title: str
    lead_id: int
    lead_title: str
    count: int
    locked: list[str]
    changed: list[str]


def pattern_of(lead: SheetBody, slip: SlipFile) -> SheetBody:
    """The leading sheet as others follow it: with the slip's own steps.

    Light that is read differently then changes nothing.
    """
    steps = lead.steps_by_hand or StepsByHand(iso=slip.iso, shutter_s=slip.shutter_s)
    return lead.model_copy(update={"steps_by_hand": steps})


def with_locked(body: SheetBody, pattern: SheetBody, parts: Sequence[str]) -> SheetBody:
    """A sheet with the locked parts of a pattern; all else stays its own."""
    fields = [field for part in parts for field in _fields(part)]
    return body.model_copy(update={field: getattr(pattern, field) for field in fields})


def held_parts(body: SheetBody, known: Series) -> list[str]:
    """Locked parts that a sheet has as its series; none where that cannot be read any more."""
    pattern = read_pattern(known)
    if pattern is None:
        return []
    changed = changed_parts(body, pattern, known.locked)
    return [part for part in known.locked if part not in changed]


def read_pattern(known: Series) -> SheetBody | None:
    """The leading sheet as it was locked; None if damaged, as its sheets open without it."""
    try:
        return read_sheet(known.pattern)
    except UnreadableSheet:
        return None


def changed_parts(body: SheetBody, pattern: SheetBody, parts: Sequence[str]) -> list[str]:
    """Locked parts in which a sheet is not as the pattern."""
    return [
        part
        for part in parts
        if any(getattr(body, field) != getattr(pattern, field) for field in _fields(part))
    ]


def locked_lines(lines: Sequence[SlipLine], parts: Sequence[str], title: str) -> list[SlipLine]:
    """Lines of a slip with the series named as the reason of what it locks."""
    locked = {line for part in parts for line in _lines(part)}
    reason = f"Locked by “{title}”"
    return [
        line.model_copy(update={"reason": reason, "reason_by_hand": reason})
        if line.field in locked
        else line
        for line in lines
    ]


def series_of(place: PlaceInSeries, body: SheetBody, found: Answer) -> SeriesOfSheet:
    """What a series is to one of its sheets."""
    known = place.series
    return SeriesOfSheet(
        id=known.id,
        title=known.title,
        lead_id=known.lead_id,
        lead_title=place.lead_title,
        count=len(known.sheet_ids),
        locked=part_names(known.locked),
        changed=part_names(_changed(place, body, found)),
    )


def locked_answer(place: PlaceInSeries, body: SheetBody, found: Answer) -> Answer:
    """An answer whose lines name the series where that decides them."""
    if place.leads:
        return found
    held = held_parts(body, place.series)
    return found.model_copy(update={"lines": locked_lines(found.lines, held, place.series.title)})


def _changed(place: PlaceInSeries, body: SheetBody, found: Answer) -> list[str]:
    pattern = read_pattern(place.series)
    slip = found.plan.slip if found.plan is not None else None
    now = pattern_of(body, slip) if place.leads and slip is not None else body
    return [] if pattern is None else changed_parts(now, pattern, place.series.locked)


def part_names(parts: Sequence[str]) -> list[str]:
    """The names of parts."""
    names: Mapping[str, str] = {part.id: part.name for part in decisions.series_parts()}
    return [names.get(part, part) for part in parts]


def _fields(part: str) -> list[str]:
    fields = [
        ask.name
        for decision in decisions.DECISIONS
        if decision.series_part is not None and decision.series_part.id == part
        for ask in decision.locked
    ]
    return [*fields, *OF_EXPOSURE] if part == EXPOSURE_PART.id else fields


def _lines(part: str) -> list[str]:
    return [
        dial.field
        for decision in decisions.DECISIONS
        if decision.series_part is not None and decision.series_part.id == part
        for dial in decision.dials
    ]
