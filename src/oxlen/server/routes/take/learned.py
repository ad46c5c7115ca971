"""What takes say together, and taking it in use."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query
from pydantic import BaseModel

from oxlen.core.errors import BadInput
from oxlen.core.labels import MINUS, shutter_label, signed
from oxlen.core.measures.measured import Plot
from oxlen.core.review.learned import (
    LEAST_HELD,
    LEAST_READ,
    TWO_SIGMA_SHARE,
    HoldLearned,
    MeterLearned,
    TakeLesson,
    accepted_snr,
    calibration,
    hold_learned,
    meter_learned,
    usual_mistakes,
)
from oxlen.formats.strict import Strict
from oxlen.server.context import Context, Shared
from oxlen.server.permits import FOR_KIT
from oxlen.store.kit.learned import Learned, LearnedName, forget_learned, learned_of, use_learned
from oxlen.store.takes import phones_of_findings
from oxlen.takes.lessons import lessons

router = APIRouter(prefix="/api", tags=["learned"], dependencies=[FOR_KIT])

USUAL_FOCAL_MM = 24.0
MISTAKES = {
    "dial": "settings different from the slip",
    "light": "light different from the reading",
    "raw": "more clipped than a JPEG keeps",
    "steady": "camera shake",
    "freeze": "subject moved",
    "focus": "out of focus",
    "bands": "flicker bands",
    "white": "colour cast",
    "frame": "cut by the frame's edge",
    "level": "not level",
}


class LearnedFigure(BaseModel):
    """A figure that takes give: in words, drawn, and whether it is in use.

    `value` None before there are enough; `present` is what the phone uses now.
    """

    name: LearnedName
    title: str
    words: str
    value: float | None
    plus_minus: float | None
    takes: int
    in_use: bool
    plot: Plot | None


class CountedMistake(BaseModel):
    """What had to be changed first, and how often."""

    words: str
    takes: int


class StatedChance(BaseModel):
    """Takes for which a chance within bounds was stated, and how many were kept."""

    low: float
    high: float
    takes: int
    kept: int


class LearnedView(BaseModel):
    """What the takes of one phone say; sentences, and the figures behind them."""

    phones: list[str]
    phone: str
    phone_name: str
    takes: int
    figures: list[LearnedFigure]
    noise: str
    mistakes: list[CountedMistake]
    calibration: str
    chances: list[StatedChance]


class TakenInUse(Strict):
    """A figure of a phone to be used from now on, or no longer."""

    phone: str
    name: LearnedName
    use: bool = True


@router.get("/learned")
def learned(
    context: Shared, phone: Annotated[str | None, Query(max_length=60)] = None
) -> LearnedView:
    """What takes say: the hand, the meter, noise, mistakes, and whether stated ± held."""
    with context.library.reader() as connection:
        phones = phones_of_findings(connection)
        chosen = phone or next(iter(phones), context.usual_phone_id())
        found = lessons(connection, chosen)
        used = {lesson.name for lesson in learned_of(connection, chosen)}
    reported = calibration(found)
    return LearnedView(
        phones=phones,
        phone=chosen,
        phone_name=context.find_phone(chosen).name,
        takes=len(found),
        figures=[_hold(found, used), _meter(found, used)],
        noise=_noise_words(found),
        mistakes=[
            CountedMistake(words=MISTAKES[what], takes=count)
            for what, count in usual_mistakes(found)
            if what in MISTAKES
        ],
        calibration=_calibration_words(reported.stated, reported.held),
        chances=[
            StatedChance(low=low, high=high, takes=takes, kept=kept)
            for low, high, takes, kept in reported.chances
        ],
    )


@router.post("/learned")
def take_in_use(use: TakenInUse, context: Shared) -> LearnedView:
    """Use a figure from now on, or the phone's own again. 422 while takes are too few."""
    context.find_phone(use.phone)
    with context.library.reader() as connection:
        found = lessons(connection, use.phone)
    figure = hold_learned(found) if use.name == "hold_stops" else meter_learned(found)
    with context.library.writer() as connection:
        forget_learned(connection, use.phone, use.name)
        if use.use:
            if figure is None:
                raise BadInput("There are too few takes yet.", "name")
            use_learned(connection, _row(context, use, figure))
    return learned(context, use.phone)


def _row(context: Context, use: TakenInUse, figure: HoldLearned | MeterLearned) -> Learned:
    return Learned(
        use.phone,
        use.name,
        figure.stops,
        plus_minus=figure.plus_minus,
        takes=figure.takes,
        learned_at=context.now(),
    )


def _hold(found: list[TakeLesson], used: set[LearnedName]) -> LearnedFigure:
    figure = hold_learned(found)
    by_hand = sum(lesson.support == "handheld" for lesson in found)
    words = (
        f"{by_hand} handheld takes so far. From {LEAST_HELD} takes, sharp and shaken, Oxlen "
        "learns your own limit."
    )
    if figure is not None:
        limit = shutter_label(2.0**figure.stops / USUAL_FOCAL_MM)
        words = (
            f"9 of 10 of your takes are sharp up to {limit} at {USUAL_FOCAL_MM:g} mm (± "
            f"{figure.plus_minus:.1f} stop, {figure.takes} takes)."
        )
    return _figure("hold_stops", "Handheld", words, figure=figure, used=used, takes=by_hand)


def _meter(found: list[TakeLesson], used: set[LearnedName]) -> LearnedFigure:
    figure = meter_learned(found)
    kept = sum(bool(lesson.kept and lesson.off) for lesson in found)
    words = f"{kept} kept takes so far. From {LEAST_READ} takes Oxlen shows the error of readings."
    if figure is not None:
        words = (
            f"Takes are {signed(figure.stops)} stop off the prediction (± "
            f"{figure.plus_minus:.1f}, {figure.takes} kept takes)."
        )
    title = "This phone's meter"
    return _figure("meter_offset_stops", title, words, figure=figure, used=used, takes=kept)


def _figure(
    name: LearnedName,
    title: str,
    words: str,
    *,
    figure: HoldLearned | MeterLearned | None,
    used: set[LearnedName],
    takes: int,
) -> LearnedFigure:
    return LearnedFigure(
        name=name,
        title=title,
        words=words,
        value=None if figure is None else figure.stops,
        plus_minus=None if figure is None else figure.plus_minus,
        takes=takes,
        in_use=name in used,
        plot=None if figure is None else figure.plot,
    )


def _noise_words(found: list[TakeLesson]) -> str:
    accepted = accepted_snr(found)
    if accepted is None:
        return "Keep more takes to see how much noise you accept."
    return f"Of {accepted[1]} kept takes, 9 of 10 have an SNR of {accepted[0]:.0f} or more."


def _calibration_words(stated: int, held: int) -> str:
    if stated == 0:
        return "No ± tested yet."
    share = f"{held / stated:.0%}"
    meant = f"{TWO_SIGMA_SHARE:.0%}"
    return f"{stated} predictions, {held} within their ±: {share} (expected {meant}).".replace(
        "-", MINUS
    )
