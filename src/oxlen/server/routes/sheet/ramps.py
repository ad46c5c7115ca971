"""How fast light changes, from takes of the same view."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter
from pydantic import BaseModel, Field

from oxlen.core.decisions.sequence.ramp import rate_stops_min
from oxlen.core.errors import BadInput
from oxlen.core.labels import signed, two_digits
from oxlen.formats.picture_report import PictureReport
from oxlen.formats.strict import Id, Strict
from oxlen.server.context import RowId, Shared
from oxlen.server.permits import FOR_PHONES
from oxlen.store.sheets import sheet
from oxlen.store.takes import takes_of
from oxlen.views.proposed import seconds_of

router = APIRouter(prefix="/api", tags=["light that changes"], dependencies=[FOR_PHONES])


class RampAsked(Strict):
    """Takes of the same view, at their times."""

    takes: Annotated[list[Id], Field(min_length=2, max_length=60)]


class RampMeasured(BaseModel):
    """How fast light changes, in words and in stops a minute (positive = more)."""

    words: str
    stops_min: float


@router.post("/sheets/{sheet_id}/ramp")
def measure_ramp(sheet_id: RowId, asked: RampAsked, context: Shared) -> RampMeasured:
    """Measure how fast light changes from the frames’ mean light and their times."""
    with context.library.reader() as connection:
        sheet(connection, sheet_id)
        there = {take.id: take.sha256 for take in takes_of(connection, sheet_id)}
    if any(take not in there for take in asked.takes):
        raise BadInput("Only takes of this sheet can be measured.", "takes")
    found = [_reading(context.pictures.report(there[take])) for take in asked.takes]
    rate = rate_stops_min([ev for ev in found if ev is not None])
    apart = max(at for at, _ in _known(found)) - min(at for at, _ in _known(found))
    words = (
        f"{signed(rate, 2)} stops a minute, from {len(_known(found))} takes over "
        f"{two_digits(apart / 60)} min"
    )
    return RampMeasured(words=words, stops_min=rate)


def _known(found: list[tuple[float, float] | None]) -> list[tuple[float, float]]:
    return [ev for ev in found if ev is not None]


def _reading(report: PictureReport) -> tuple[float, float] | None:
    """When a picture was taken and the mean light of its frame; None where either is not known."""
    at = seconds_of(report.taken_at)
    if at is None or report.frame is None or report.frame.mean_ev100 is None:
        return None
    return at, report.frame.mean_ev100
