"""The night sky on this phone: one frame, a stack, or the phone's own night mode, side by side."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Literal

from oxlen.core.kit.cost import FrameCost, SetCost, set_cost
from oxlen.core.kit.phone import Lens, Mode, Phone
from oxlen.core.light.exposure import ev100
from oxlen.core.night.ask import NightAsk, longest_s
from oxlen.core.night.noise import collected_e, frames_for, snr_seen
from oxlen.core.night.trails import trail_frames, trail_settings, trail_words
from oxlen.core.night.words import NightFigures, notes_of
from oxlen.core.sky.brightness import sky_ev100
from oxlen.core.sky.frame_trails import corner_trail_px
from oxlen.core.sky.stacked import SKY_OVER_READ, Drift, read_noise_excess, stack_drift
from oxlen.core.sky.trailing import star_trail_px

WayId = Literal["one", "stack", "phone", "trails"]
USUAL_GAP_S = 1.0
FEWEST = 8
"""Fewer frames cannot throw away what passes."""
NEAR_LEAST = 1.05
LIGHT_STOPS = 1.0
"""Sky so much lighter than wanted takes room from the stars for nothing."""
NO_DRIFT = Drift(0.0, 0.0, 0.0, turn_deg=0.0)


@dataclass(frozen=True)
class NightWay:
    """One way to the picture, worked through on this phone.

    `sky_stops` is where the sky between stars lands, `snr` at the size it is seen at; trails in
    pixels of the file, in the middle and in the worst corner. `read_excess` is what read noise adds
    to the sky's own noise. `kept_share` of the width is in all frames of a stack. `told` notes what
    to know of it, what matters most first.
    """

    id: WayId
    name: str
    iso: float | None
    shutter_s: float
    frames: int
    gap_s: float
    elapsed_s: float
    sky_stops: float | None
    snr: float
    trail_px: float
    corner_trail_px: float
    sky_e: float
    read_excess: float
    drift_px: float
    kept_share: float
    turn_deg: float
    megabytes: float
    battery_percent: float | None
    reaches: bool
    told: tuple[str, ...] = ()


def night_ways(phone: Phone, lens: Lens, mode: Mode, *, asked: NightAsk) -> tuple[NightWay, ...]:
    """All ways there are on a lens: one frame, a stack, the phone's own mode, and trails."""
    return tuple(_ways(phone, lens, mode, asked=asked))


def _ways(phone: Phone, lens: Lens, mode: Mode, *, asked: NightAsk) -> Iterator[NightWay]:
    shutter_s = night_shutter_s(lens, mode, asked)
    yield _one_frame(phone, lens, mode, asked=asked, shutter_s=shutter_s)
    yield _stack(phone, lens, mode, asked=asked, shutter_s=shutter_s)
    for own in phone.computed:
        if own.kind == "night" and lens.id in own.lenses and own.frames and own.longest_s:
            each_s = own.longest_s / own.frames
            iso = mode.manual.iso[-1]
            found = _worked(
                "phone",
                own.name,
                (phone, lens, mode),
                asked=asked,
                settings=(iso, each_s, own.frames),
            )
            yield _with_words(replace(found, iso=None, sky_stops=None), asked, mode)
    yield _trails(phone, lens, mode, asked=asked)


def night_shutter_s(lens: Lens, mode: Mode, asked: NightAsk) -> float:
    """Longest step (s) at which stars stay points and a bright sky, at the lowest ISO, dark."""
    rule_s = longest_s(lens, mode, asked)
    base = mode.manual.iso[0]
    brightest = float(sky_ev100(asked.sky_magnitude)) - asked.sky_place_stops - LIGHT_STOPS
    steps = [
        step_s
        for step_s in mode.manual.shutter_s
        if step_s <= rule_s * (1 + 1e-9) and ev100(lens.f_number, step_s, base) >= brightest
    ]
    return max(steps, default=min(mode.manual.shutter_s))


def _trails(phone: Phone, lens: Lens, mode: Mode, *, asked: NightAsk) -> NightWay:
    """Frames for trails on purpose."""
    iso, shutter_s = trail_settings(lens, mode, asked)
    gap_s = _gap_s(mode, asked)
    frames = trail_frames(asked, shutter_s=shutter_s, gap_s=gap_s)
    found = _worked(
        "trails",
        "Star trails",
        (phone, lens, mode),
        asked=asked,
        settings=(iso, shutter_s, frames),
    )
    words = trail_words(
        lens, mode, asked, elapsed_s=found.elapsed_s, shutter_s=shutter_s, gap_s=gap_s
    )
    # Nothing is averaged: each frame is as grainy as it is.
    noise_e = float(mode.read_noise_at(iso))
    grain = snr_seen(mode, asked.pixels_out, found.sky_e, read_noise_e=noise_e, frames=1)
    return replace(found, snr=grain, reaches=True, told=tuple(words))


def _one_frame(
    phone: Phone, lens: Lens, mode: Mode, *, asked: NightAsk, shutter_s: float
) -> NightWay:
    """One frame as long as stars stay points, at the ISO that places the sky."""
    wanted = float(sky_ev100(asked.sky_magnitude)) - asked.sky_place_stops
    base = float(ev100(lens.f_number, shutter_s, 100.0))
    iso = min(mode.manual.iso, key=lambda step: abs(math.log2(step / 100) - (base - wanted)))
    found = _worked(
        "one", "One frame", (phone, lens, mode), asked=asked, settings=(iso, shutter_s, 1)
    )
    return _with_words(found, asked, mode)


def _stack(phone: Phone, lens: Lens, mode: Mode, *, asked: NightAsk, shutter_s: float) -> NightWay:
    """As many frames as the noise wanted takes, at the ISO above which nothing is gained."""
    where = (phone, lens, mode)
    iso = stack_iso(lens, mode, asked, shutter_s=shutter_s)
    signal_e = _sky_e(lens, mode, asked, shutter_s=shutter_s)
    noise_e = float(mode.read_noise_at(iso))
    needed = frames_for(mode, asked.pixels_out, asked.snr, signal_e=signal_e, read_noise_e=noise_e)
    frames = max(FEWEST, needed)
    found = _worked("stack", "Stack", where, asked=asked, settings=(iso, shutter_s, frames))
    if asked.window_s is not None and found.elapsed_s > asked.window_s:
        fits = int((asked.window_s + found.gap_s) // (shutter_s + found.gap_s))
        frames = max(FEWEST, fits)
        found = _worked("stack", "Stack", where, asked=asked, settings=(iso, shutter_s, frames))
    return _with_words(found, asked, mode)


def stack_iso(lens: Lens, mode: Mode, asked: NightAsk, *, shutter_s: float) -> float:
    """Lowest ISO at which the sky drowns the read noise, else where that noise stops falling.

    A higher one gains nothing and takes room from the stars; nor is the sky to land more than a
    stop lighter than wanted.
    """
    signal_e = _sky_e(lens, mode, asked, shutter_s=shutter_s)
    at_100 = float(sky_ev100(asked.sky_magnitude)) - float(ev100(lens.f_number, shutter_s, 100.0))
    room = asked.sky_place_stops + LIGHT_STOPS - at_100
    fitting = [step for step in mode.manual.iso if math.log2(step / 100) <= room]
    noise = {iso: float(mode.read_noise_at(iso)) for iso in fitting or mode.manual.iso[:1]}
    drowned = [iso for iso, noise_e in noise.items() if signal_e >= SKY_OVER_READ * noise_e**2]
    least = min(noise.values())
    lowest = [iso for iso, noise_e in noise.items() if noise_e <= NEAR_LEAST * least]
    return min(drowned or lowest)


def _sky_e(lens: Lens, mode: Mode, asked: NightAsk, *, shutter_s: float) -> float:
    """Electrons a pixel of sky collects in a frame."""
    return collected_e(lens, mode, float(sky_ev100(asked.sky_magnitude)), shutter_s=shutter_s)


def _worked(
    way_id: WayId,
    name: str,
    where: tuple[Phone, Lens, Mode],
    *,
    asked: NightAsk,
    settings: tuple[float, float, int],
) -> NightWay:
    phone, lens, mode = where
    iso, shutter_s, frames = settings
    # The phone's own mode leaves no gaps and writes one file.
    gap_s = 0.0 if frames == 1 or way_id == "phone" else _gap_s(mode, asked)
    signal_e = _sky_e(lens, mode, asked, shutter_s=shutter_s)
    noise_e = float(mode.read_noise_at(iso))
    reached = snr_seen(mode, asked.pixels_out, signal_e, read_noise_e=noise_e, frames=frames)
    drifts = frames > 1 and way_id == "stack"  # frames aligned on stars drift out of the frame
    drift = _drift(lens, mode, asked, settings=settings, gap_s=gap_s) if drifts else NO_DRIFT
    cost = _cost(way_id, phone, mode, settings=settings, gap_s=gap_s)
    dec, pitch = asked.declination_deg, mode.pixel_pitch_um
    return NightWay(
        way_id,
        name,
        iso,
        shutter_s=shutter_s,
        frames=frames,
        gap_s=gap_s,
        elapsed_s=cost.last_close_s,
        sky_stops=float(sky_ev100(asked.sky_magnitude) - ev100(lens.f_number, shutter_s, iso)),
        snr=reached,
        trail_px=float(star_trail_px(lens.focal_mm, pitch, shutter_s, declination_deg=dec)),
        corner_trail_px=corner_trail_px(lens, mode, shutter_s, axis_dec_deg=dec),
        sky_e=signal_e,
        read_excess=float(read_noise_excess(signal_e, noise_e)),
        drift_px=drift.drift_px,
        kept_share=max(0.0, 1 - drift.drift_px / mode.width_px),
        turn_deg=drift.turn_deg,
        megabytes=cost.megabytes,
        battery_percent=cost.battery_percent if _battery_known(phone) else None,
        reaches=reached >= asked.snr * 0.98,
    )


def _drift(
    lens: Lens, mode: Mode, asked: NightAsk, *, settings: tuple[float, float, int], gap_s: float
) -> Drift:
    """How far the sky goes from the middle of the first exposure to the middle of the last."""
    _, shutter_s, frames = settings
    return stack_drift(
        max(frames - 1, 1),
        shutter_s,
        gap_s,
        declination_deg=asked.declination_deg,
        focal_mm=lens.focal_mm,
        pitch_um=mode.pixel_pitch_um,
    )


def _cost(
    way_id: WayId, phone: Phone, mode: Mode, *, settings: tuple[float, float, int], gap_s: float
) -> SetCost:
    _, shutter_s, frames = settings
    file_mb = mode.files.frame_mb("raw" if mode.files.raw_mb else "processed")
    if way_id == "phone":
        file_mb = mode.files.processed_mb / frames
    return set_cost(
        open_s=frames * shutter_s,
        sub_s=shutter_s,
        gap_s=gap_s,
        frame=FrameCost(file_mb, phone.handling.battery_percent_per_min or 0),
        free_megabytes=math.inf,
    )


def _battery_known(phone: Phone) -> bool:
    return phone.handling.battery_percent_per_min is not None


def _gap_s(mode: Mode, asked: NightAsk) -> float:
    if asked.gap_s is not None:
        return asked.gap_s
    return mode.files.frame_gap_s if mode.files.frame_gap_s is not None else USUAL_GAP_S


def _with_words(way: NightWay, asked: NightAsk, mode: Mode) -> NightWay:
    needed_s = SKY_OVER_READ * float(mode.read_noise_at(way.iso or mode.manual.iso[-1])) ** 2
    figures = NightFigures(
        way.id,
        way.frames,
        way.shutter_s,
        snr=way.snr,
        wanted_snr=asked.snr,
        sky_e=way.sky_e,
        read_excess=way.read_excess,
        drowned_s=needed_s * way.shutter_s / way.sky_e,
        sky_stops=way.sky_stops,
        wanted_stops=asked.sky_place_stops,
        elapsed_s=way.elapsed_s,
        window_s=asked.window_s,
        kept_share=way.kept_share,
        battery_percent=way.battery_percent,
        corner_trail_px=way.corner_trail_px,
        trail_px=way.trail_px,
    )
    return replace(way, told=tuple(notes_of(figures)))
