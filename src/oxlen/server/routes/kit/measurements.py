"""Guided measurements of a phone: begun, given pictures, taken up again, kept or left."""

from __future__ import annotations

from typing import Any

from fastapi import APIRouter, Request
from starlette.concurrency import run_in_threadpool

from oxlen.core.errors import BadInput
from oxlen.formats.strict import Slug
from oxlen.phones.measuring.catalogue import MEASUREMENTS, measurement
from oxlen.phones.measuring.measured_figures import with_measured
from oxlen.phones.measuring.measurement import Measurement, subject_of
from oxlen.server.context import Context, RowId, Shared
from oxlen.server.own_phone import keep_own
from oxlen.server.permits import FOR_KIT, FOR_PHONES
from oxlen.server.routes.kit.measurement_views import (
    AddedPicture,
    BeginMeasurement,
    GivenNumbers,
    MeasurementKind,
    MeasurementView,
)
from oxlen.server.routes.pictures import STREAM, FileName, plain_name, stream_to
from oxlen.server.waiting import while_asked_for
from oxlen.store.kit.measurements import (
    MOST_PICTURES,
    Ending,
    KeptMeasurement,
    NewMeasurement,
    add_sample,
    begin_measurement,
    count_samples,
    drop_sample,
    end_measurement,
    measurement_of,
    measurements_of,
    samples_of,
    say_given,
)
from oxlen.takes.importing import file_sha256
from oxlen.views.measuring import FoundFigure, MeasuringView, measuring_view, outcome_data
from oxlen.workers.worker_tasks import measured_sample

router = APIRouter(prefix="/api", tags=["measurements"], dependencies=[FOR_PHONES])


@router.get("/measurement-kinds")
def measurement_kinds() -> list[MeasurementKind]:
    """The measurements there are, those that take least time first."""
    return [_kind(known) for known in MEASUREMENTS]


def _kind(known: Measurement) -> MeasurementKind:
    return MeasurementKind(
        id=known.id,
        name=known.name,
        minutes=known.minutes,
        why=known.why,
        steps=list(known.steps),
        sharpens=list(known.sharpens),
        takes_pictures=known.sample is not None,
        of_computed=known.of_computed,
        questions=list(known.questions),
    )


@router.get("/kit/phones/{phone_id}/measurements", dependencies=[FOR_KIT])
def phone_measurements(phone_id: Slug, context: Shared) -> list[MeasurementView]:
    """A phone's measurements, the newest first: open ones, and how others ended."""
    context.find_phone(phone_id)
    with context.library.reader() as connection:
        kept = measurements_of(connection, phone_id)
    return [_ended(kept_measurement) for kept_measurement in kept]


@router.post("/kit/phones/{phone_id}/measurements", status_code=201, dependencies=[FOR_KIT])
def begin(phone_id: Slug, asked: BeginMeasurement, context: Shared) -> MeasurementView:
    """Begin a measurement, or take up one of the same kind that is still open."""
    measurement(asked.kind)
    subject_of(context.find_phone(phone_id), asked.lens, asked.mode)
    new = NewMeasurement(phone_id, asked.kind, asked.lens, mode=asked.mode)
    with context.library.writer() as connection:
        number = begin_measurement(connection, new, context.now())
    return measurement_view(context, number)


@router.get("/measurements/{number}", dependencies=[FOR_KIT])
def one_measurement(number: RowId, context: Shared) -> MeasurementView:
    """A measurement as it is now."""
    return measurement_view(context, number)


@router.put("/measurements/{number}/given", dependencies=[FOR_KIT])
def say(number: RowId, asked: GivenNumbers, context: Shared) -> MeasurementView:
    """Answer what is asked beside the pictures."""
    with context.library.writer() as connection:
        still_open(measurement_of(connection, number))
        say_given(connection, number, dict(asked.given))
    return measurement_view(context, number)


@router.post(
    "/measurements/{number}/pictures", status_code=201, openapi_extra=STREAM, dependencies=[FOR_KIT]
)
async def add_picture(
    number: RowId, request: Request, context: Shared, *, name: FileName
) -> AddedPicture:
    """Read a picture for a measurement; the body is the file, of which a few numbers are kept."""
    plain = plain_name(name)
    with context.library.reader() as connection:
        kept = still_open(measurement_of(connection, number))
        if count_samples(connection, number) >= MOST_PICTURES:
            raise BadInput(f"A measurement has at most {MOST_PICTURES} pictures.", "files")
    with context.library.incoming() as incoming:
        await stream_to(incoming, request, plain)
        job = context.pool.begin("intake", measured_sample, incoming, plain, kept.kind)
        sample = await while_asked_for(request, job)
        sha256 = await run_in_threadpool(file_sha256, incoming)
    return await run_in_threadpool(_added, context, number, (sha256, plain, sample))


def _added(context: Context, number: int, read: tuple[str, str, dict[str, Any]]) -> AddedPicture:
    sha256, name, sample = read
    with context.library.writer() as connection:
        still_open(measurement_of(connection, number))
        is_new = add_sample(connection, number, sha256, name=name, sample=sample)
        count = count_samples(connection, number)
    return AddedPicture(is_new=is_new, count=count)


@router.delete("/measurements/{number}/pictures/{picture_id}", dependencies=[FOR_KIT])
def leave_out(number: RowId, picture_id: RowId, context: Shared) -> MeasurementView:
    """Leave a picture out of a measurement."""
    with context.library.writer() as connection:
        drop_sample(connection, number, picture_id)
    return measurement_view(context, number)


@router.post("/measurements/{number}/use", dependencies=[FOR_KIT])
def use(number: RowId, context: Shared) -> MeasurementView:
    """Use what was measured: the phone's figures change, a shipped phone as a copy of one's own."""
    kept, found = _worked(context, number)
    if found.result is None:
        raise BadInput(found.missing or "No result yet.", "files")
    now = context.now()
    subject = subject_of(context.plain_phone(kept.phone_id), kept.lens, kept.mode)
    changed = with_measured(subject, found.result.figures, date=now[:10])
    with context.library.writer() as connection:
        still_open(measurement_of(connection, number))
        phone = keep_own(connection, changed, now)
        ending = Ending("kept", phone.id, outcome_data(found))
        end_measurement(connection, number, ending, now=now)
    return measurement_view(context, number)


@router.post("/measurements/{number}/leave", dependencies=[FOR_KIT])
def leave(number: RowId, context: Shared) -> MeasurementView:
    """Keep the old figures; the measurement stays in the history, its pictures' numbers go."""
    kept, found = _worked(context, number)
    with context.library.writer() as connection:
        still_open(measurement_of(connection, number))
        ending = Ending("left", kept.phone_id, outcome_data(found))
        end_measurement(connection, number, ending, now=context.now())
    return measurement_view(context, number)


def still_open(kept: KeptMeasurement) -> KeptMeasurement:
    """The measurement, if it has not ended; BadInput otherwise."""
    if kept.state != "open":
        raise BadInput("This measurement has ended. Start a new one.", "state")
    return kept


def _worked(context: Context, number: int) -> tuple[KeptMeasurement, MeasuringView]:
    with context.library.reader() as connection:
        kept = still_open(measurement_of(connection, number))
        samples = samples_of(connection, number)
    return kept, measuring_view(kept, samples, context.plain_phone(kept.phone_id))


def measurement_view(context: Context, number: int) -> MeasurementView:
    """A measurement as it is now: worked anew while it is open."""
    with context.library.reader() as connection:
        kept = measurement_of(connection, number)
        samples = samples_of(connection, number)
    if kept.state != "open":
        return _ended(kept)
    found = measuring_view(kept, samples, context.plain_phone(kept.phone_id))
    view = _ended(kept)
    result = found.result
    return view.model_copy(
        update={
            "pictures": list(found.pictures),
            "missing": found.missing,
            "words": None if result is None else result.words,
            "doubts": [] if result is None else list(result.doubts),
            "figures": [_figure(figure) for figure in found.figures],
            "plot": None if result is None else result.plot,
        }
    )


def _figure(figure: FoundFigure) -> FoundFigure:
    return figure


def _ended(kept: KeptMeasurement) -> MeasurementView:
    """A measurement by what is kept of it alone."""
    outcome = kept.outcome or {"words": None, "figures": []}
    return MeasurementView(
        id=kept.id,
        phone=kept.phone_id,
        kind=kept.kind,
        lens=kept.lens,
        mode=kept.mode,
        state=kept.state,
        given=kept.given,
        begun_at=kept.begun_at,
        ended_at=kept.ended_at,
        pictures=[],
        missing=None,
        words=outcome["words"],
        doubts=[],
        figures=[FoundFigure(**figure) for figure in outcome["figures"]],
        plot=None,
    )
