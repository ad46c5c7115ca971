"""A night at a place on a phone: when it is dark, how the Milky Way leans, what to dial."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace
from datetime import date, timedelta
from zoneinfo import ZoneInfo

import numpy as np

from oxlen.core.kit.phone import Lens, Mode, Phone
from oxlen.core.labels import counted, duration_label, fixed_label, steps_label, time_label
from oxlen.core.night.ask import NightAsk, longest_s
from oxlen.core.night.ways import NightWay, night_ways
from oxlen.core.sky.brightness import sky_ev100
from oxlen.core.sky.dark_windows import DarkWindow, Wanted, best_windows, dark_windows
from oxlen.core.sky.day import DayLight, day_light
from oxlen.core.sky.ephemeris import fixed
from oxlen.core.sky.foreground import GROUNDS
from oxlen.core.sky.frame_trails import corner_trail_px
from oxlen.core.sky.galaxy import (
    BRIGHT_REACH_DEG,
    CENTRE_RA_DEG,
    BandView,
    band,
    band_held_share,
    band_view,
)
from oxlen.core.sky.place import altitude_deg, bearing_deg
from oxlen.core.sky.trailing import star_trail_px
from oxlen.core.sky.twilight import RISES_DEG, SPAN_S, Twilights
from oxlen.formats.outing.hours import BandFile, DarkWindowFile, NightFile, NightWayFile, RuleFile
from oxlen.light_plan.compass import compass
from oxlen.light_plan.day import iso_time, place_file, twilight_times
from oxlen.light_plan.night_foreground import foreground_files
from oxlen.light_plan.night_place import NightPlace
from oxlen.light_plan.sky_frame import sky_frames, view_deg
from oxlen.light_plan.sky_there import sky_there
from oxlen.light_plan.zone import clock, local_time, noon_unix_s

RULES = ("500", "npf", "pixels")
BAND_STEP_S = 600.0
UPRIGHT_DEG, LEVEL_DEG = 15.0, 75.0


def night_plan(
    where: NightPlace, day: date, *, phone: Phone, lens_id: str | None = None, asked: NightAsk
) -> NightFile:
    """The night that begins on a day, from noon to noon, on a lens of a phone."""
    start = noon_unix_s(day, where.zone)
    light = day_light(where.place, start)
    dark = _windows(where, start, replace(where.wanted, right_ascension_deg=None))
    core = _windows(where, start, where.wanted)
    lens = phone.lens(lens_id)
    mode = lens.mode(None)
    window_s = max((hour.long_s for hour in core or dark), default=None)
    there = sky_there(where, start, dark=dark, core=core)
    magnitude = where.magnitude if there.magnitude is None else there.magnitude
    full = replace(asked, sky_magnitude=magnitude, window_s=asked.window_s or window_s)
    # In a sky that stays bright no way leads to stars.
    ways = () if there.magnitude is None else night_ways(phone, lens, mode, asked=full)
    return NightFile(
        place=place_file(where.place, where.zone),
        date=day.isoformat(),
        twilights=twilight_times(light.twilights, where.zone),
        moon_lit_share=light.moon_lit_share,
        sky_magnitude=magnitude,
        plus_minus_magnitude=where.plus_minus,
        sky_ev100=float(sky_ev100(magnitude)),
        told=[*_night_notes(where, light, dark=dark, core=core), *there.told],
        dark=[window_file(reading, where.zone, aimed=False) for reading in dark],
        core=[window_file(hour, where.zone) for hour in core],
        band=_band(where, dark, core, phone=phone),
        frames=sky_frames(where, _best(core or dark), lens) if core or dark else [],
        phone=phone.name,
        lens=lens.name,
        rules=[_rule(lens, mode, full, rule=rule) for rule in RULES],
        ways=[_way(way) for way in ways],
        grounds={f"{share:g}": words for share, words in GROUNDS.items()},
        land=foreground_files(where, start, (lens, mode), asked=full, there=there),
        focus=focus_words(lens),
    )


def _best(windows: Sequence[DarkWindow]) -> DarkWindow:
    """The window in which its subject is highest."""
    return max(windows, key=lambda window: window.altitude_deg)


def _night_notes(
    where: NightPlace, light: DayLight, *, dark: Sequence[DarkWindow], core: Sequence[DarkWindow]
) -> Iterator[str]:
    """What to know of a night before anything is planned in it."""
    yield from light.told
    if float(light.sun_altitude_deg.min()) <= RISES_DEG:
        yield from _window_notes(where, dark, core)
    yield from _bright_night(light.twilights, dark, where)


def _windows(where: NightPlace, start: float, wanted: Wanted) -> tuple[DarkWindow, ...]:
    return dark_windows(where.place, start, start + SPAN_S, wanted=wanted)


def best_nights(
    where: NightPlace, found: Sequence[DarkWindow], most: int
) -> tuple[DarkWindow, ...]:
    """The best windows of a long span, each as the page of its own night computes it."""
    return tuple(_of_its_night(where, window) for window in best_windows(found, most))


def _of_its_night(where: NightPlace, rough: DarkWindow) -> DarkWindow:
    """A window by the short steps of one night; a span of months is searched in longer ones."""
    start = noon_unix_s(_evening(rough, where.zone), where.zone)
    fine = _windows(where, start, where.wanted)
    middle = (rough.from_unix_s + rough.to_unix_s) / 2
    return next(
        (window for window in fine if window.from_unix_s <= middle <= window.to_unix_s), rough
    )


def _evening(window: DarkWindow, zone: ZoneInfo) -> date:
    """The date on whose noon the night of a window begins."""
    begins = local_time(window.from_unix_s, zone)
    return begins.date() if begins.hour >= 12 else begins.date() - timedelta(days=1)


def window_file(window: DarkWindow, zone: ZoneInfo, *, aimed: bool = True) -> DarkWindowFile:
    """A window by the clock of a zone, and why it is one."""
    return DarkWindowFile(
        night=_evening(window, zone).isoformat(),
        from_at=iso_time(window.from_unix_s, zone),
        to_at=iso_time(window.to_unix_s, zone),
        best_at=iso_time(window.best_unix_s, zone),
        from_unix_s=window.from_unix_s,
        to_unix_s=window.to_unix_s,
        long_min=window.long_s / 60,
        altitude_deg=window.altitude_deg if aimed else None,
        bearing_deg=window.bearing_deg if aimed else None,
        moon_altitude_deg=window.moon_altitude_deg,
        moon_lit_share=window.moon_lit_share,
        why=why(window, zone, aimed=aimed),
    )


def why(window: DarkWindow, zone: ZoneInfo, *, aimed: bool = True) -> str:
    """Why a window is worth going out for, in one sentence."""
    parts = [f"{duration_label(window.long_s)} from {clock(window.from_unix_s, zone)}"]
    if aimed:
        parts.append(
            f"up to {window.altitude_deg:.0f}° in the {compass(window.bearing_deg)} at "
            f"{clock(window.best_unix_s, zone)}"
        )
    lit = f"{fixed_label(100 * window.moon_lit_share, 0)} % lit"
    parts.append("the Moon down" if window.moon_altitude_deg < 0 else f"the Moon up, {lit}")
    return ", ".join(parts)


def _window_notes(
    where: NightPlace, dark: Sequence[DarkWindow], core: Sequence[DarkWindow]
) -> Iterator[str]:
    if not dark:
        moon = {"down": "with the Moon down", "thin": "with the Moon thin or down"}
        yield f"No time of this night is fully dark {moon.get(where.wanted.moon, '')}".rstrip()
    elif not core and where.wanted.right_ascension_deg is not None:
        is_core = where.wanted.right_ascension_deg == CENTRE_RA_DEG
        what = "The Milky Way core" if is_core else "The point you chose"
        yield f"{what} stays below {where.wanted.least_altitude_deg:.0f}° while it is dark"


def _bright_night(seen: Twilights, dark: Sequence[DarkWindow], where: NightPlace) -> Iterator[str]:
    """What a night that stays light is still good for."""
    if dark or seen.nautical_dusk is None or seen.nautical_dawn is None:
        return
    if seen.astro_dusk is None:
        yield (
            f"From {clock(seen.nautical_dusk, where.zone)} to "
            f"{clock(seen.nautical_dawn, where.zone)} the sky is deep blue. Bright stars show. "
            "The Milky Way does not"
        )


def _band(
    where: NightPlace, dark: Sequence[DarkWindow], core: Sequence[DarkWindow], *, phone: Phone
) -> BandFile | None:
    """How the Milky Way appears at its best in the dark; None where it does not get dark."""
    if not (core or dark):
        return None
    if core:
        # Its own window has the best time; a second search would end minutes beside it.
        times = np.array([_best(core).best_unix_s])
    else:
        times = np.concatenate(
            [np.arange(reading.from_unix_s, reading.to_unix_s + 1, BAND_STEP_S) for reading in dark]
        )
    all_seen = fixed(where.place, times, band(BRIGHT_REACH_DEG))
    at = int(np.argmax((all_seen[2] > 0).mean(axis=0)))
    seen = all_seen[:, :, at]
    view = band_view(seen)
    up = seen[:, seen[2] > 0]
    aim = up.mean(axis=1) if up.size else np.array([1.0, 0.0, 0.0])
    aim /= np.sqrt(aim @ aim)
    return BandFile(
        at=iso_time(float(times[at]), where.zone),
        centre_altitude_deg=view.centre_altitude_deg,
        centre_bearing_deg=view.centre_bearing_deg,
        tilt_deg=view.tilt_deg,
        words=_band_words(view),
        held_shares={
            lens.name: band_held_share(seen, field_deg=view_deg(lens, "upright"), aim=aim)
            for lens in phone.lenses
        },
        path=[
            (float(bearing), float(height))
            for bearing, height in zip(bearing_deg(seen), altitude_deg(seen), strict=True)  # type: ignore[arg-type]
        ],
    )


def _band_words(view: BandView) -> str:
    """How the Milky Way leans, in a sentence."""
    up = f"{fixed_label(100 * view.up_share, 0)} % of its bright part visible"
    if view.centre_altitude_deg < 0:
        return f"The Milky Way core is below the horizon, {up}"
    lean = abs(view.tilt_deg)
    if lean < UPRIGHT_DEG:
        stands = "is upright"
    elif lean > LEVEL_DEG:
        stands = "is level"
    else:
        stands = f"leans {lean:.0f}° {'right' if view.tilt_deg > 0 else 'left'}"
    return f"The Milky Way {stands} in the {compass(view.centre_bearing_deg)}, {up}"


def _rule(lens: Lens, mode: Mode, asked: NightAsk, *, rule: str) -> RuleFile:
    longest = longest_s(lens, mode, replace(asked, rule=rule))  # type: ignore[arg-type]
    dec = asked.declination_deg
    centre = star_trail_px(lens.focal_mm, mode.pixel_pitch_um, longest, declination_deg=dec)
    return RuleFile(
        rule=rule,
        longest_s=longest,
        trail_px=float(centre),
        corner_trail_px=corner_trail_px(lens, mode, longest, axis_dec_deg=dec),
    )


def _way(way: NightWay) -> NightWayFile:
    shot = time_label(way.shutter_s) if way.iso is None else steps_label(way.iso, way.shutter_s)
    set_of = f"{counted(way.frames, 'frame')} of {shot}"
    return NightWayFile(
        **{
            name: getattr(way, name)
            for name in NightWayFile.model_fields
            if name not in ("label", "told")
        },
        label=shot if way.frames == 1 else set_of,
        told=list(way.told),
    )


def focus_words(lens: Lens) -> str:
    """How the stars are focused on a lens: infinity as it was measured, else a ladder."""
    drive = lens.focus
    if drive is None or not drive.by_hand:
        return "This lens has autofocus only. Lock it on a distant lamp and do not touch it"
    scale = drive.scale()
    infinity = None if scale is None else scale.infinity
    check = "check a bright star at full size, and again when it is colder"
    if infinity is None:
        return (
            "Infinity is not measured on this lens, and is seldom the end of the slider: shoot a "
            f"ladder on a bright star; then {check}"
        )
    at = drive.snapped(infinity.value)
    return f"Infinity lies at {at:g} on this lens’s slider, as measured; {check}"
