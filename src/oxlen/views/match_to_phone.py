"""A kept sheet compared with its phone as it is now: a lens it names may be gone."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass

from oxlen.core.decisions.lens.ask import ANY_LENS, LENS, MODE
from oxlen.core.errors import UnreadableSheet
from oxlen.formats.phone.profile import PhoneProfile
from oxlen.formats.sheet.file import AutoNumbers, ReadingBody, SheetBody
from oxlen.formats.sheet.upgrades import read_sheet
from oxlen.store.sheets import Sheet


@dataclass(frozen=True)
class MatchedToPhone:
    """A sheet that its phone can answer, and what had to be changed for it; None for nothing."""

    body: SheetBody
    note: str | None


def match_to_phone(body: SheetBody, profile: PhoneProfile) -> MatchedToPhone:
    """The sheet on its phone as it is now: what names a lens or mode that is gone is deleted."""
    gone = sorted(_lenses_named(body) - {lens.id for lens in profile.lenses})
    asked = body.asked()
    lens = asked[LENS.name]
    first = profile.lenses[0].id
    may_be = [
        profile_lens
        for profile_lens in profile.lenses
        if (lens or first) in (profile_lens.id, ANY_LENS)
    ]
    modes = {mode.id for profile_lens in may_be for mode in profile_lens.modes}
    mode_gone = asked[MODE.name] if asked[MODE.name] not in {None, *modes} else None
    if not gone and mode_gone is None:
        return MatchedToPhone(body, None)
    change: dict[str, object] = {MODE.name: None}
    if lens in gone:
        change[LENS.name] = ANY_LENS
    if gone:
        change["readings"] = [_without(reading, gone) for reading in body.readings]
    what = " and ".join([f"lens “{name}”" for name in gone] or [f"mode “{mode_gone}”"])
    note = f"{profile.name} no longer has {what}. The sheet uses what it has."
    return MatchedToPhone(body.model_copy(update=change), note)


def losing_their_lens(
    sheets: Iterable[Sheet], before: PhoneProfile, after: PhoneProfile
) -> Iterator[str]:
    """Titles of the sheets of a phone that name a lens which a change takes away."""
    gone = {lens.id for lens in before.lenses} - {lens.id for lens in after.lenses}
    for sheet in sheets if gone else ():
        try:
            body = read_sheet(sheet.body)
        except UnreadableSheet:
            continue
        if body.phone == before.id and _lenses_named(body) & gone:
            yield body.title


def _lenses_named(body: SheetBody) -> set[str]:
    sources = [reading.source for reading in body.readings]
    named = {
        source.lens
        for source in sources
        if isinstance(source, AutoNumbers) and source.lens is not None
    }
    lens = body.asked()[LENS.name]
    return named if lens in (None, ANY_LENS) else named | {lens}


def _without(reading: ReadingBody, gone: list[str]) -> ReadingBody:
    source = reading.source
    if not isinstance(source, AutoNumbers) or source.lens not in gone:
        return reading
    return reading.model_copy(update={"source": source.model_copy(update={"lens": None})})
