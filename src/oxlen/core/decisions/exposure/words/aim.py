"""Why a picture is exposed as it is, in words."""

from __future__ import annotations

from collections.abc import Mapping

from oxlen.core.decisions.exposure.ask import (
    DRAWING,
    STRATEGY,
)
from oxlen.core.decisions.exposure.scene_ask import Drawing
from oxlen.core.decisions.framework.brief import (
    KEEP_BRIGHT,
    KEEP_DARK,
    NEUTRAL,
    SUBJECT,
    Brief,
    Role,
)
from oxlen.core.decisions.sequence.ask import is_bracketed
from oxlen.core.decisions.solver.aim import (
    SHAPE_FROM_STOPS,
    TELLING_STOPS,
    WORTH_SAYING_STOPS,
    Aim,
    guarded_reading,
    half_to_the_sky_stops,
    is_drawn,
    placed_together,
)
from oxlen.core.decisions.solver.kept import (
    kept_readings,
)
from oxlen.core.labels import ev_label, listed, sentence_case, signed, stops_label, time_label

SHOWN_FROM_STOPS = 0.05
"""What would be spoken of as 0.0 stop is not spoken of."""
ROLE_WORDS: Mapping[Role, str] = {
    SUBJECT: "The subject",
    KEEP_BRIGHT: "The brightest detail to hold",
    KEEP_DARK: "The darkest detail to hold",
    NEUTRAL: "The neutral patch",
}
ROLES_WORDS: Mapping[Role, str] = {
    SUBJECT: "The subjects",
    KEEP_BRIGHT: "The bright details to hold",
    KEEP_DARK: "The dark details to hold",
    NEUTRAL: "The neutral patches",
}


def aim_sentences(brief: Brief, aim: Aim) -> tuple[str, ...]:
    """What decides the exposure, what moved it, and how it differs from what a meter would ask."""
    if is_drawn(brief):
        return (_drawing_words(brief, aim),)
    placed, _ = placed_together(brief, aim.anchor)
    sentences = [f"{_anchor_words(brief, aim.anchor, aim.place_stops)} {ev_label(placed)}."]
    if brief[STRATEGY].exposure == "split" and aim.anchor in (SUBJECT, NEUTRAL):
        sentences.append(_between_words(brief, placed))
    lift = brief[STRATEGY].lift_stops
    if lift:
        sentences.append(f"Exposed {stops_label(lift)} darker, to lift in development.")
    if aim.moved_for:
        sentences.append(_moved_words(aim.placed_ev100 + lift, aim))
    if aim.raised_stops >= SHOWN_FROM_STOPS:
        sentences += _guard_words(brief, aim)
    if brief[STRATEGY].exposure == "silhouette":
        sentences += _shape_words(brief, aim.ev100)
    return (*sentences, *_against_mean(brief.scene_mean_ev100, aim.ev100))


def _drawing_words(brief: Brief, aim: Aim) -> str:
    time_s = (brief[DRAWING] or Drawing()).takes_s
    level = max(reading.ev100 for reading in brief.readings) - aim.ev100
    return f"The drawing needs {time_label(time_s)}. Its background is at {signed(level)}."


def _moved_words(placed_ev100: float, aim: Aim) -> str:
    moved = aim.shared_ev100 - placed_ev100
    side = "brighter" if moved < 0 else "darker"
    return f"Exposed {stops_label(moved)} {side} for {aim.moved_for}."


def _between_words(brief: Brief, ground_ev100: float) -> str:
    """How far foreground and sky are off, halfway between what they ask for."""
    if all(reading.role != KEEP_BRIGHT for reading in kept_readings(brief)):
        return "The sky is not measured, so the foreground decides."
    half = half_to_the_sky_stops(brief, ground_ev100)
    if abs(half) < SHOWN_FROM_STOPS:
        return "The sky needs the same."
    sides = ("darker", "brighter") if half > 0 else ("brighter", "darker")
    return (
        f"The sky needs {ev_label(ground_ev100 + 2 * half)}. Halfway, the foreground is "
        f"{stops_label(half)} {sides[0]} and the sky as much {sides[1]}."
    )


def _guard_words(brief: Brief, aim: Aim) -> list[str]:
    """What the highlight guard took off, and which colour it rests on."""
    counted, guard = aim.counted_guard_ev100, aim.guard_ev100
    by_share = counted is not None and guard is not None and counted > guard
    words = ["That is as bright as the highlights allow."]
    if brief[STRATEGY].exposure != "highlights":
        share = f"at most {brief[STRATEGY].white_share:.0%} of the frame clips"
        kept = share if by_share else "the brightest detail keeps its texture"
        words = [
            f"Highlight protection makes it {stops_label(aim.raised_stops)} darker so that "
            f"{kept}: {ev_label(aim.ev100)}."
        ]
    if by_share:
        return words
    first = guarded_reading(brief)
    if first is not None and first.channel_stops >= TELLING_STOPS:
        words.append(
            f"Its strongest colour is {stops_label(first.channel_stops)} brighter and clips first."
        )
    return words


def _anchor_words(brief: Brief, anchor: Role, place: float) -> str:
    """What decides the exposure, by its name or names, and where it is put."""
    names = [reading.name for reading in brief.readings if reading.role == anchor]
    if len(names) > 1 and not is_bracketed(brief):
        who = sentence_case(listed(names)) if all(names) else ROLES_WORDS[anchor]
        return f"{who} together need"
    return f"{sentence_case(names[0]) or ROLE_WORDS[anchor]} {_place_words(place)} is"


def _shape_words(brief: Brief, wanted: float) -> list[str]:
    """Whether the subject is a silhouette."""
    subjects = [reading.ev100 for reading in brief.readings if reading.role == SUBJECT]
    if not subjects:
        return []
    falls = max(subjects) - wanted
    if falls <= SHAPE_FROM_STOPS:
        return [f"The subject is at {signed(falls)}: a silhouette without detail."]
    return [
        f"The subject is only at {signed(falls)}. A silhouette needs {signed(SHAPE_FROM_STOPS)}: "
        "put it against something brighter."
    ]


def _place_words(place_stops: float) -> str:
    if abs(place_stops) < 0.05:
        return "at mid"
    return f"at {signed(place_stops)}"


def _against_mean(mean_ev100: float | None, wanted: float) -> list[str]:
    """Say in words how the aim differs from what a meter over the whole frame would ask."""
    if mean_ev100 is None or abs(wanted - mean_ev100) < WORTH_SAYING_STOPS:
        return []
    darker = wanted > mean_ev100
    size = stops_label(wanted - mean_ev100)
    if darker:
        return [f"The meter shows {size} under-exposed. That is intended."]
    return [f"The meter shows {size} over-exposed. That is intended."]
