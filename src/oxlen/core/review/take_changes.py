"""What to change after a take, that which spoils most first, each with its reason."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from oxlen.core.decisions.framework.brief import SUBJECT
from oxlen.core.labels import amount_label, listed, sentence_case, shutter_label, time_label
from oxlen.core.review.blur_cause import BlurCause
from oxlen.core.review.take_seen import (
    Change,
    CheckedSpot,
    LightVerdict,
    SeenTake,
    SettingsOff,
    TakeSettings,
)

DIALLED_STOPS = 0.17
"""Settings further off than half a third were set differently."""
LEAST_LIGHT_STOPS = 0.34
"""Light that is off by less is not worth another slip."""
CAST_MIRED, LEAN_DEG = 15.0, 0.7
BLUR_SEEN_PX = 1.7
WHITE_SHARE = 0.025
"""So much more of the frame white than planned is seen."""
WHITE_STOPS, LEAST_DARKER_STOPS, MOST_DARKER_STOPS = 3.0, 0.3, 1.0
"""How much darker for how much white: skies fill a third of a frame within a stop of white."""
BANDS_SEEN, NOISIER_STOPS, MUCH_NOISIER_STOPS = 0.03, 1.0, 1.5
PLAINLY_LOST, LOST_STOPS, MOST_LOST_STOPS = 0.97, 0.5, 4.0
"""From what share of a spot on it is lost and not just at the edge, how far beyond its own reading
it is taken to be, and the most that is changed at once."""
"""Bands shallower than this, and grain less than twice as coarse as predicted, are not seen."""

Found = tuple[SettingsOff, tuple[CheckedSpot, ...], LightVerdict, float]


def changes_for(slip: TakeSettings, seen: SeenTake, found: Found) -> Iterator[Change]:
    """What is off, that which spoils most first.

    `found` holds how it was dialled, its spots, what light explains, and by how many stops.
    """
    yield from _exposure_changes(slip, seen, found)
    if seen.blur is not None and seen.blur.kind != "none" and seen.blur.px >= BLUR_SEEN_PX:
        yield _knocked(seen.blur) if _is_knocked(seen) else _blur(slip, seen.blur)
    if seen.bands_share >= BANDS_SEEN:
        why = f"Flicker bands, {seen.bands_share:.0%} deep."
        yield Change("bands", "Use a shutter that matches the lamp's pulses.", why)
    if seen.cast_mired is not None and abs(seen.cast_mired) >= CAST_MIRED:
        yield _cast(slip.white_k or seen.settings.white_k, seen.cast_mired, is_raw=seen.is_raw)
    if seen.cut_off:
        verb = "is" if len(seen.cut_off) == 1 else "are"
        why = f"{listed(seen.cut_off)} {verb} cut by the frame's edge."
        yield Change("frame", "Step back or turn until all of it is in the frame.", why)
    if seen.cleaner_stops is not None and seen.cleaner_stops <= -NOISIER_STOPS:
        yield _noisier(seen)
    if seen.lean_deg is not None and abs(seen.lean_deg) >= LEAN_DEG:
        way = "anticlockwise" if seen.lean_deg < 0 else "clockwise"
        by = f"{abs(seen.lean_deg):.1f}°"
        yield Change("level", f"Rotate the phone {by} {way}.", f"Tilted by {by}.")


def _exposure_changes(slip: TakeSettings, seen: SeenTake, found: Found) -> Iterator[Change]:
    """How it was dialled and what the light did: the new slip leads where both are off.

    The slip as it was would then be another wrong exposure, and maybe on the wrong side.
    """
    off, spots, light, light_stops = found
    is_light = light in ("light_changed", "read_wrongly") and abs(light_stops) >= LEAST_LIGHT_STOPS
    is_dialled = max(abs(off.stops), abs(off.iso_stops or 0)) >= DIALLED_STOPS
    if is_light and (seen.settings.iso is None or seen.settings.shutter_s is None):
        yield _either(slip, light_stops)
    elif is_light:
        yield _light_change(spots, light, light_stops)
    if is_dialled:
        dialled = _dialled(slip, seen.settings, off)
        yield Change("nothing", "", dialled.why) if is_light else dialled


def _noisier(seen: SeenTake) -> Change:
    """Noisier than predicted: reported only, as it asks for no other slip by itself."""
    words = "Use a longer shutter, a stack, or RAW. Measure this phone’s noise again."
    return Change("nothing", words, noise_words(seen))


def noise_words(seen: SeenTake) -> str:
    """How much noisier than predicted a take is."""
    return f"{2.0 ** -(seen.cleaner_stops or 0.0):.1f}× noisier than predicted."


def lost_change(spots: Sequence[CheckedSpot], others: Sequence[Change]) -> Change | None:
    """A spot whose own pixels are clipped or black, whatever the rest of the frame gained."""
    lost = [spot for spot in spots if spot.is_lost and not spot.may_be_lost]
    lost = [checked_spot for checked_spot in lost if checked_spot.lost_share >= PLAINLY_LOST]
    if not lost or any(other.what in ("dial", "light", "white") for other in others):
        return None
    worst = max(lost, key=lambda change: abs(change.unexplained_stops))
    is_clipped, over = worst.is_clipped, worst.unexplained_stops
    beyond = max(over if is_clipped else -over, 0.0)
    by = min(beyond + LOST_STOPS, MOST_LOST_STOPS)
    state = "clipped" if is_clipped else "black"
    why = f"{worst.name} is {state}, without detail."
    words = f"Dial the new slip: {'darker' if is_clipped else 'brighter'}."
    return Change("light", words, why, light_stops=by if is_clipped else -by)


def noise_first(seen: SeenTake, changes: list[Change]) -> list[Change]:
    """The changes, noise in front where it is far worse than predicted: darker adds to it."""
    if seen.cleaner_stops is None or seen.cleaner_stops > -MUCH_NOISIER_STOPS:
        return changes
    dialled = [change for change in changes if change.what == "dial"]
    noisy = [change for change in changes if change.why == noise_words(seen)]
    return [*dialled, *noisy, *(change for change in changes if change not in (*dialled, *noisy))]


def whiter_change(
    seen: SeenTake,
    spots: Sequence[CheckedSpot],
    white_share: float | None,
    *,
    others: Sequence[Change],
) -> Change | None:
    """Much more of the frame is white than was planned, and no other change mends that.

    RAW keeps more of it where darker would spoil the subject's tone.
    """
    more = seen.clipped_share - (white_share or 0.0)
    if white_share is None or more < WHITE_SHARE:
        return None
    if any(other.what in ("dial", "light", "white") for other in others):
        # It is reported all the same: the change for the light mends it.
        return Change("nothing", "", whiter_words(seen, white_share))
    stops = min(MOST_DARKER_STOPS, max(LEAST_DARKER_STOPS, WHITE_STOPS * more))
    why = whiter_words(seen, white_share)
    subject = next((spot for spot in spots if spot.role == SUBJECT and spot.is_known), None)
    if not seen.is_raw and subject is not None and subject.off_stops - stops < -LEAST_LIGHT_STOPS:
        words = f"Save RAW: darker would spoil {subject.name}."
        return Change("raw", words, f"{why} RAW keeps more of it.")
    return Change("light", "Dial the new slip: a little darker.", why, light_stops=stops)


def whiter_words(seen: SeenTake, white_share: float) -> str:
    """How much more of the frame is clipped than was planned."""
    return f"{seen.clipped_share:.0%} of the frame is clipped, planned {white_share:.0%}."


def _dialled(slip: TakeSettings, seen: TakeSettings, off: SettingsOff) -> Change:
    iso = "" if seen.iso is None else f"ISO {seen.iso:g}"
    shutter = "" if seen.shutter_s is None else shutter_label(seen.shutter_s)
    was = " and ".join(part for part in (iso, shutter) if part)
    by = ""
    if abs(off.stops) >= DIALLED_STOPS:
        by = f": {amount_label(abs(off.stops))} {'brighter' if off.stops > 0 else 'darker'}"
    wanted = f"ISO {slip.iso:g}, {shutter_label(slip.shutter_s or 1.0)}"
    why = f"Shot at different settings, {was}{by}."
    return Change("dial", f"Dial the slip: {wanted}.", why)


def _either(slip: TakeSettings, light_stops: float) -> Change:
    """A file that does not say what was dialled: other settings and other light look alike."""
    side = "brighter" if light_stops > 0 else "darker"
    wanted = f"ISO {slip.iso:g}, {shutter_label(slip.shutter_s or 1.0)}"
    why = (
        f"{amount_label(abs(light_stops))} {side} than planned: shot at different settings, or the "
        "light changed. The file does not say which."
    )
    words = f"Check that it was shot at {wanted}. If so, dial the new slip."
    return Change("light", sentence_case(words), sentence_case(why), light_stops=light_stops)


def _light_change(spots: Sequence[CheckedSpot], light: LightVerdict, light_stops: float) -> Change:
    more = "more" if light_stops > 0 else "less"
    by = amount_label(abs(light_stops))
    lost = next((spot for spot in spots if spot.is_lost), None)
    ends = f" {lost.name} clips." if lost is not None else ""
    if light == "light_changed":
        why = f"The light changed: {by} {more} than measured.{ends}"
    else:
        worst = max(spots, key=lambda spot: abs(spot.unexplained_stops))
        why = f"{worst.name} has {by} {more} light than measured.{ends}"
    return Change("light", "Dial the new slip.", why, light_stops=light_stops)


def _blur(slip: TakeSettings, blur: BlurCause) -> Change:
    by = f"{blur.px:.0f} px"
    shorter_s = (slip.shutter_s or 1.0) / max(1.0, blur.px / BLUR_SEEN_PX)
    if blur.kind == "shake":
        why = f"Camera shake: everything is smeared by {by}."
        words = f"Brace it or use the timer, or use {time_label(shorter_s)} or shorter."
        return Change("steady", words, why)
    if blur.kind == "motion":
        why = f"The subject moved: smeared by {by}, the rest is sharp."
        return Change("freeze", f"Use {time_label(shorter_s)} or shorter, or pan.", why)
    why = f"Out of focus, blur {by}."
    return Change("focus", "Tap the subject and lock focus there.", why)


def _is_knocked(seen: SeenTake) -> bool:
    return seen.is_firm and seen.blur is not None and seen.blur.kind == "shake"


def _knocked(blur: BlurCause) -> Change:
    """All of it smeared though nobody held the phone: no shutter mends that."""
    why = f"The phone moved on its support: everything is smeared by {blur.px:.0f} px."
    words = "Lock every joint, keep out of the wind, use the timer, and shoot again."
    return Change("steady", words, why)


def _cast(white_k: float | None, cast_mired: float, *, is_raw: bool) -> Change:
    side = "warm" if cast_mired > 0 else "cool"
    why = f"Grey is {abs(cast_mired):.0f} mired too {side}."
    if white_k is None:
        return Change("white", "Set white balance for this light.", why)
    better_k = 1e6 / (1e6 / white_k + cast_mired)
    words = f"White balance to {round(better_k, -2):.0f} K."
    if is_raw:
        words += " Correct it in development: RAW allows it."
    return Change("white", words, why, white_k=better_k)
