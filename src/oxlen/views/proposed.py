"""Sheets proposed for what is in the inbox, from the outings used last."""

from __future__ import annotations

import json
import sqlite3
import time
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import UTC, datetime
from math import inf
from threading import Lock

from oxlen.core.decisions.framework.limit import ISO, SHUTTER
from oxlen.core.decisions.plan import plan
from oxlen.core.errors import OxlenError
from oxlen.core.review.sheet_proposal import SheetFacts, SheetProposal, ShotFacts, proposals
from oxlen.formats.phone.profile import PhoneProfile
from oxlen.formats.picture_report import PictureReport
from oxlen.formats.sheet.file import SheetBody
from oxlen.formats.sheet.upgrades import read_sheet
from oxlen.metering.picture_cache import MeteredPictures
from oxlen.phones.briefed_sheet import briefed_sheet
from oxlen.store.outings import outings
from oxlen.store.sheets import Sheet, sheets_of

OUTINGS, SHEETS = 6, 60
"""Candidates are sheets of so many outings, the newest, and at most so many of those."""


def seconds_of(stamp: str | None) -> float | None:
    """ISO 8601 as seconds of any epoch; a time without its zone counts as UTC. None if unreadable.

    >>> seconds_of("1970-01-01T00:01:00")
    60.0
    """
    try:
        found = datetime.fromisoformat(stamp or "")
    except ValueError:
        return None
    return (found if found.tzinfo else found.replace(tzinfo=UTC)).timestamp()


@dataclass(frozen=True)
class Candidate:
    """A sheet something may belong to, with its title."""

    facts: SheetFacts
    title: str

    def of_sheet(self, sheet_id: int) -> Candidate:
        """The same of another sheet that asks the same."""
        return replace(self, facts=replace(self.facts, sheet_id=sheet_id))


_Key = tuple[str, str, str]
"""A sheet's body, when it was changed, and its phone: what it was decided by."""


class Candidates:
    """Sheets something may belong to, each decided once while it and its phone do not change."""

    def __init__(self, find_phone: Callable[[str], PhoneProfile], cache: MeteredPictures) -> None:
        self._find_phone, self._cache = find_phone, cache
        self._known: dict[_Key, tuple[Candidate, ...]] = {}
        self.filling = Lock()

    def of(
        self, connection: sqlite3.Connection, *, within_s: float = inf
    ) -> tuple[list[Candidate], bool]:
        """Sheets of the newest outings that can be read, and whether these are all.

        Those that are not decided yet when `within_s` is over are left out.
        """
        until_s = time.monotonic() + within_s
        found: list[Candidate] = []
        known: dict[_Key, tuple[Candidate, ...]] = {}
        phones: dict[str, str] = {}
        is_whole = True
        for kept in self._sheets(connection):
            key = (kept.body, kept.changed_at, self._phone(kept, phones))
            if key not in self._known and time.monotonic() > until_s:
                is_whole = False
                continue
            known[key] = self._known.get(key) or tuple(
                _candidate(kept, self._find_phone, self._cache)
            )
            # The same body may be of two sheets: each is a candidate of its own.
            found += [candidate.of_sheet(kept.id) for candidate in known[key]]
        if is_whole:
            self._known = known
        else:
            self._known |= known
        return found, is_whole

    def _sheets(self, connection: sqlite3.Connection) -> list[Sheet]:
        newest = outings(connection, most=OUTINGS)
        return [sheet for each in newest for sheet in sheets_of(connection, each.id)][:SHEETS]

    def _phone(self, kept: Sheet, phones: dict[str, str]) -> str:
        """What tells a sheet's phone from itself after a change."""
        phone_id = str(json.loads(kept.body).get("phone"))
        if phone_id not in phones:
            try:
                phones[phone_id] = self._find_phone(phone_id).model_dump_json()
            except OxlenError:
                phones[phone_id] = ""
        return phones[phone_id]


def proposed(report: PictureReport, among: Sequence[Candidate]) -> list[SheetProposal]:
    """Sheets a picture may belong to, the likeliest first."""
    shot = ShotFacts(
        report.settings.iso,
        report.settings.shutter_s,
        report.settings.focal35_mm,
        taken_s=seconds_of(report.taken_at),
        model=report.camera.model,
    )
    return proposals(shot, [candidate.facts for candidate in among])


def _candidate(
    kept: Sheet, find_phone: Callable[[str], PhoneProfile], cache: MeteredPictures
) -> Iterator[Candidate]:
    try:
        body = read_sheet(kept.body)
        facts = _facts(kept, body, profile=find_phone(body.phone), cache=cache)
    except OxlenError:  # one that cannot be decided imports nothing by itself
        return
    yield Candidate(facts, body.title)


def _facts(
    kept: Sheet, body: SheetBody, *, profile: PhoneProfile, cache: MeteredPictures
) -> SheetFacts:
    used = [seconds_of(kept.changed_at)]
    if body.picture is not None:
        used.append(seconds_of(cache.report(body.picture).taken_at))
    brief = briefed_sheet(body, profile, cache).brief
    decided = plan(brief) if brief.readings else None
    steps: list[tuple[float, float]] = []
    if decided is not None:
        for exposure in decided.dialled.exposures:
            values = {setting.field: setting.value for setting in exposure.settings}
            steps.append((float(values[ISO]), float(values[SHUTTER])))
    if body.steps_by_hand is not None:
        steps.append((body.steps_by_hand.iso, body.steps_by_hand.shutter_s))
    lens = brief.lens if decided is None else decided.brief.lens
    return SheetFacts(
        kept.id,
        tuple(steps),
        lens.focal35_mm,
        used_s=tuple(star for star in used if star is not None),
        model=profile.model,
    )
