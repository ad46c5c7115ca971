"""Motion that is meant to show: how long its streaks must be, or how long until it vanishes."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import replace

from oxlen.core.decisions.exposure.ask import LOOKS
from oxlen.core.decisions.exposure.motion_ask import ShownMotion
from oxlen.core.decisions.exposure.shown_in_frames import (
    covered_by,
    frames_merge,
    shows_in_frames,
)
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.framework.limit import (
    NEVER_S,
    SHUTTER,
    Concern,
    EditedField,
    Limit,
    LimitKind,
)
from oxlen.core.decisions.framework.offer import Offer, Tier
from oxlen.core.decisions.sequence.ask import FRAMES, frames_averaged, is_median
from oxlen.core.decisions.solver.conflict import Conflict
from oxlen.core.decisions.solver.problem import ExposureProblem
from oxlen.core.decisions.solver.search import Search
from oxlen.core.frames.passing import frames_to_empty
from oxlen.core.labels import sentence_case, time_label, two_digits
from oxlen.core.lens.imaging import drawn_size_mm
from oxlen.core.motion.looks import (
    DISTANT_SHARE,
    RIPPLE_PERIODS,
    SHORTER_LOOKS,
    LookId,
    look_of,
    ripple_period_s,
    vanishing_shutter_s,
)
from oxlen.core.motion.subject import blur_rate_um_s

NO_TIME_S = 1e-6
"""A shutter where no time is left for one."""


LOOK_WORDS: Mapping[LookId, str] = {
    "texture": "as threads",
    "soft": "soft",
    "glass": "mirror-smooth",
    "trails": "as trails",
    "pan": "streaked",
    "vanish": "gone",
}
"""How a look is spoken of after what it is about."""


def look_name(motion: ShownMotion) -> str:
    """What a look is called as a limit."""
    return f"{motion.spoken} {LOOK_WORDS[motion.look]}"


def exposure_to_shutter_s(brief: Brief, elapsed_s: float) -> float:
    """Shutter (s) of each frame so that all span a time; `NO_TIME_S` where the gaps alone do."""
    count, gap_s = frames_averaged(brief), brief[FRAMES].gap_s
    return max((elapsed_s - (count - 1) * gap_s) / count, NO_TIME_S)


def _shown_between(problem: ExposureProblem) -> Iterable[Limit]:
    brief = problem.brief
    for index, motion in enumerate(brief[LOOKS]):
        if is_median(brief):
            if not shows_in_frames(brief, motion):
                yield _not_in_a_median(brief, motion, index)
            continue
        vanishes = motion.look == "vanish"
        yield _vanish(brief, motion, index) if vanishes else _streak(brief, motion, index)


def _streak(brief: Brief, motion: ShownMotion, index: int) -> Limit:
    mode, mover = brief.mode, motion.mover
    short_side = min(mode.width_px, mode.height_px)
    # Along the frame or not, a streak is counted by the way its image moves: never at a standstill.
    rate = float(blur_rate_um_s(mover, brief.lens.focal_mm))
    shortest, longest = (
        None if share is None or rate <= 0 else share * short_side * mode.pixel_pitch_um / rate
        for share in motion.shares
    )
    sooner = _ripples_pass_s(brief, motion)
    by_ripples = shortest is not None and sooner is not None and sooner < shortest
    shortest = sooner if by_ripples else shortest
    low, high = (
        None if span is None else exposure_to_shutter_s(brief, span) for span in (shortest, longest)
    )
    if not frames_merge(brief, motion):
        return _copies(brief, motion, index)
    return Limit(
        SHOW,
        SHUTTER,
        low,
        high=high,
        name=look_name(motion),
        low_words=""
        if low is None
        else f"showing {look_name(motion)} needs {time_label(low)}{_in_frames(brief)} or longer",
        high_words=""
        if high is None
        else f"showing {look_name(motion)} allows {time_label(high)}{_in_frames(brief)}",
        reason=_look_words(brief, motion, (shortest, longest), each=(low, high)),
        source="Ray, Applied Photographic Optics",
        index=index,
        computation="ripples_passed" if by_ripples else "shutter_for_streak",
        inputs=_ripples(motion) if by_ripples else _streaking(brief, motion),
    )


def _streaking(brief: Brief, motion: ShownMotion) -> dict[str, float | str]:
    """What the formula of a streak was given."""
    mode, mover = brief.mode, motion.mover
    return {
        "f": brief.lens.focal_mm,
        "v": float(mover.speed_m_s),
        "theta_deg": float(mover.angle_deg),
        "D": float(mover.distance_m),
        "p": mode.pixel_pitch_um,
        "H": min(mode.width_px, mode.height_px),
        "share": motion.shares[0] or motion.shares[1] or 1.0,
    }


def _ripples(motion: ShownMotion) -> dict[str, float | str]:
    """What the formula of ripples was given."""
    length_m = float(motion.in_force("width_m"))
    return {"periods": RIPPLE_PERIODS[motion.look], "length": length_m}


def _ripples_pass_s(brief: Brief, motion: ShownMotion) -> float | None:
    """Time (s) in which distant open water turns smooth by its ripples; None elsewhere."""
    periods = RIPPLE_PERIODS.get(motion.look)
    open_water = motion.usual is None or motion.usual.ripples
    if periods is None or not open_water or motion.share_min is not None:
        return None
    mode, length_m = brief.mode, float(motion.in_force("width_m"))
    size_mm = drawn_size_mm(brief.lens.focal_mm, length_m, float(motion.mover.distance_m))
    share = 1000 * size_mm / (mode.pixel_pitch_um * min(mode.width_px, mode.height_px))
    return periods * float(ripple_period_s(length_m)) if share <= DISTANT_SHARE else None


def _copies(brief: Brief, motion: ShownMotion, index: int) -> Limit:
    """Frames too far apart: no shutter makes a streak of them."""
    count, gap_s = frames_averaged(brief), brief[FRAMES].gap_s
    runs_m = two_digits(float(motion.mover.speed_m_s) * gap_s)
    length_m = two_digits(float(motion.in_force("width_m")))
    return Limit(
        SHOW,
        SHUTTER,
        NEVER_S,
        high=None,
        name=look_name(motion),
        reason=f"{count} frames show {count} copies of {motion.spoken}, not flow. It moves "
        f"{runs_m} m in each gap, more than half its {length_m} m",
        source="frames merge where a mover runs less than half its length between them",
        index=index,
    )


def _not_in_a_median(brief: Brief, motion: ShownMotion, index: int) -> Limit:
    """What a median of the brief's frames cannot give, whatever their shutter."""
    if motion.look == "vanish":
        covered = covered_by(brief, motion)
        reason = (
            f"{sentence_case(motion.spoken)} covers a place in {covered} of {brief[FRAMES].count} "
            f"frames: a median keeps it; take {frames_to_empty(covered)}, or wait longer between"
        )
    else:
        reason = (
            f"A median removes streaks. {look_name(motion)} needs one exposure, or averaged "
            "frames without gaps"
        )
    return Limit(
        SHOW,
        SHUTTER,
        NEVER_S,
        high=None,
        name=look_name(motion),
        reason=reason,
        source="a median keeps what a place shows in most frames",
        index=index,
    )


def _look_words(
    brief: Brief,
    motion: ShownMotion,
    spans: tuple[float | None, float | None],
    *,
    each: tuple[float | None, float | None],
) -> str:
    """How long the look takes, and what several frames of it must keep."""
    look, count = LOOK_WORDS[motion.look], frames_averaged(brief)
    gaps_s = (count - 1) * brief[FRAMES].gap_s
    if each[1] is not None and each[1] <= NO_TIME_S and spans[1] is not None:
        return (
            f"{count} frames have {two_digits(gaps_s)} s of gaps between them; {look} it takes "
            f"{two_digits(spans[1])} s in all at the most"
        )
    return f"{sentence_case(motion.spoken)} shows {look} {_span_words(*each)}{_in_frames(brief)}"


def _vanish(brief: Brief, motion: ShownMotion, index: int) -> Limit:
    speed, width_m = float(motion.mover.speed_m_s), float(motion.in_force("width_m"))
    if not frames_merge(brief, motion):
        return _copies(brief, motion, index)
    elapsed = float(vanishing_shutter_s(width_m, speed, motion.background_stops))
    low = exposure_to_shutter_s(brief, elapsed)
    return Limit(
        SHOW,
        SHUTTER,
        low,
        high=None,
        name=look_name(motion),
        low_words=f"{motion.spoken} disappears from {time_label(low)}{_in_frames(brief)}",
        reason=f"{sentence_case(motion.spoken)}, {width_m:g} m long at {speed:g} m/s, disappears "
        f"{_span_words(low, None)}{_in_frames(brief)}",
        source="mean over the exposure: w/(v·t)·|2^k − 1| under 0.02, k stops off its background",
        index=index,
    )


def _span_words(low: float | None, high: float | None) -> str:
    if high is not None and high <= NO_TIME_S:
        return "at no shutter: the gaps between frames are already longer"
    if low is not None and low <= NO_TIME_S:
        low = None
    if low is not None and high is not None:
        if low > high:
            return (
                f"at no shutter: the shortest streak needs {time_label(low)}, the longest "
                f"allows only {time_label(high)}"
            )
        return f"from {time_label(low)} to {time_label(high)}"
    if low is not None:
        return f"from {time_label(low)} on"
    return "at any shutter" if high is None else f"up to {time_label(high)}"


def _in_frames(brief: Brief) -> str:
    count = frames_averaged(brief)
    return "" if count == 1 else f" each, {count} frames averaged"


def _shorter_looks(search: Search, _: Conflict | None) -> Iterator[Offer]:
    """The next shorter look for motion that is meant to show."""
    shown = search.brief[LOOKS]
    for index, motion in enumerate(shown):
        shorter = SHORTER_LOOKS.get(motion.look)
        if shorter is None:
            continue
        look = look_of(shorter)
        changed = replace(motion, look=shorter, share_min=None, share_max=None)
        after = tuple(
            changed if at == index else shown_motion for at, shown_motion in enumerate(shown)
        )
        text = f"Show {motion.spoken} {LOOK_WORDS[shorter]} instead of {LOOK_WORDS[motion.look]}"
        brief = search.brief.asking(LOOKS, after)
        yield Offer(f"look-{shorter}", text, look.words, brief=brief, tier=Tier.OTHER_LOOK)


def _without(brief: Brief, index: int) -> Brief:
    return brief.asking(LOOKS, tuple(look for at, look in enumerate(brief[LOOKS]) if at != index))


SHOW = LimitKind(
    "show",
    Concern.SHOWING,
    _shown_between,
    edited_by=(
        EditedField(LOOKS, ("look",)),
        EditedField(LOOKS, ("speed_m_s",)),
        EditedField(LOOKS, ("distance_m",)),
        EditedField(LOOKS, ("direction_deg",)),
    ),
    dropped=_without,
    ways_out=_shorter_looks,
)
