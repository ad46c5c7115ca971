"""The foreground under the stars: a silhouette, lit all through, or frames of its own."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Literal

from oxlen.core.kit.phone import Lens, Mode
from oxlen.core.labels import (
    counted,
    distance_label,
    steps_label,
    stops_label,
    time_label,
    two_digits,
)
from oxlen.core.light.exposure import ev100, shutter_for_ev100
from oxlen.core.night.ask import NightAsk
from oxlen.core.night.noise import collected_e, frames_for, snr_seen
from oxlen.core.sky.brightness import luminance_ev100, sky_ev100, sky_luminance_cd_m2
from oxlen.core.sky.foreground import (
    bare_lamp_distance_m,
    foreground_luminance_cd_m2,
    foreground_needs_lx,
)

ForegroundId = Literal["silhouette", "lit", "dusk", "dark"]
FOREGROUND_NAMES: dict[ForegroundId, str] = {
    "silhouette": "Silhouette",
    "lit": "Lit in every frame",
    "dusk": "Dusk frame",
    "dark": "Night frames",
}
DUSK_SUN_DEG = -8.0
"""With the Sun this low the light is soft, and the sky still outlines the foreground."""
FOREGROUND_SNR = 10.0
"""What dark foreground needs: no eye looks there first. "Acceptable" by ISO 12232."""
SHAPE_STOPS = -1.5
"""Foreground so much darker than the sky is a shape; lighter, it shows what it is."""
AGREES_STOPS, MOST_LIFTED_STOPS, NEARLY = 0.5, 3.0, 0.98
"""Lifted by more, the shadows of a file break up."""
USUAL_GAP_S = 1.0
LONG_S = 1200.0


@dataclass(frozen=True)
class ForegroundLight:
    """Light (lx) on open ground: in the dark of the picture, and at dusk, None where none comes.

    `dusk_stop_s` is the time in which the light of dusk falls by a stop.
    """

    dark_lx: float
    dusk_lx: float | None = None
    dusk_stop_s: float | None = None


@dataclass(frozen=True)
class ForegroundWay:
    """One way to treat the foreground: its settings, where it lands (stops from mid), how clean it
    is.

    `reaches` is False where the phone cannot do it. `iso` and what follows are None where the
    foreground needs no frame of its own; `ev100` is what a meter reads off the foreground.
    `answer` is the thing to do, `told` the notes on it, the most important first.
    """

    id: ForegroundId
    name: str
    answer: str
    lands_stops: float
    told: tuple[str, ...]
    reaches: bool = True
    ev100: float | None = None
    iso: float | None = None
    shutter_s: float | None = None
    frames: int = 0
    elapsed_s: float = 0.0
    snr: float | None = None


def foreground_ways(
    lens: Lens,
    mode: Mode,
    asked: NightAsk,
    *,
    light: ForegroundLight,
    lamps: Sequence[tuple[str, float]],
) -> tuple[ForegroundWay, ...]:
    """All ways to treat the foreground on a lens; lamps by name and least light (lm)."""
    ways = [_silhouette(asked, light), _lit(asked, light, lamps)]
    if light.dusk_lx is not None:
        ways.append(_at_dusk(lens, mode, asked, lx=light.dusk_lx, stop_s=light.dusk_stop_s))
    return (*ways, _in_the_dark(lens, mode, asked, lx=light.dark_lx))


def foreground_settings(lens: Lens, mode: Mode, ev100_set: float) -> tuple[float, float]:
    """ISO and shutter (s) for an exposure: the lowest ISO whose shutter is not too long."""
    shutters, isos = mode.manual.shutter_s, mode.manual.iso
    for iso in isos:
        wanted_s = float(shutter_for_ev100(ev100_set, lens.f_number, iso))
        if wanted_s <= shutters[-1]:
            return iso, min(shutters, key=lambda shutter: abs(shutter / wanted_s - 1))
    return isos[-1], shutters[-1]


def _wanted_stops(asked: NightAsk) -> float:
    return asked.sky_place_stops + asked.land_stops


def _foreground_ev100(asked: NightAsk, lx: float) -> float:
    """What a meter reads off the foreground under so much light."""
    return float(luminance_ev100(foreground_luminance_cd_m2(lx, reflects=asked.land_reflects)))


def _silhouette(asked: NightAsk, light: ForegroundLight) -> ForegroundWay:
    sky = float(sky_ev100(asked.sky_magnitude))
    under = _foreground_ev100(asked, light.dark_lx) - sky
    answer = f"{stops_label(abs(under))} {'darker' if under < 0 else 'lighter'} than the sky"
    words = "No extra frame needed"
    if under > SHAPE_STOPS:
        words = "The night lights it, so it is not a silhouette"
    return _untouched("silhouette", answer, words, lands_stops=asked.sky_place_stops + under)


def _lit(
    asked: NightAsk, light: ForegroundLight, lamps: Sequence[tuple[str, float]]
) -> ForegroundWay:
    sky_cd_m2 = float(sky_luminance_cd_m2(asked.sky_magnitude))
    whole = foreground_needs_lx(
        sky_cd_m2, stops_from_sky=asked.land_stops, reflects=asked.land_reflects
    )
    needs = whole - light.dark_lx
    wanted = _wanted_stops(asked)
    if needs <= 0:
        words = "The night lights it as much as wanted"
        return _untouched("lit", "No lamp", words, lands_stops=wanted)
    first, *others = [
        f"{name} from {distance_label(bare_lamp_distance_m(lumens, needs))}"
        for name, lumens in lamps
    ]
    return _untouched(
        "lit",
        first,
        "If it shines all round; nearer is too light",
        *([f"Or {', or '.join(others)}"] if others else []),
        "Leave it on in every frame, or stacking removes it",
        "Wind blurs leaves and rigging",
        lands_stops=wanted,
    )


def _untouched(
    foreground_id: ForegroundId, answer: str, *told: str, lands_stops: float
) -> ForegroundWay:
    return ForegroundWay(
        foreground_id, FOREGROUND_NAMES[foreground_id], answer, lands_stops=lands_stops, told=told
    )


def _at_dusk(
    lens: Lens, mode: Mode, asked: NightAsk, *, lx: float, stop_s: float | None
) -> ForegroundWay:
    """One frame in the last light, as dark as the night is to look."""
    notes = ["Do not move the tripod until the stars are done. Mark its feet and lock its joints"]
    if stop_s is not None:
        notes.insert(
            0,
            f"The light drops 1 stop in {time_label(60 * round(stop_s / 60) or 30)}. Shoot one "
            "frame 1 stop brighter and one 1 stop darker too",
        )
    found = _own_frames("dusk", (lens, mode), asked, lx=lx)
    return replace(found, told=(*notes, *found.told))


def _in_the_dark(lens: Lens, mode: Mode, asked: NightAsk, *, lx: float) -> ForegroundWay:
    """Long frames after the stars or before them, averaged."""
    found = _own_frames("dark", (lens, mode), asked, lx=lx)
    notes = [*found.told]
    if found.reaches and found.elapsed_s > LONG_S:
        notes.append("That is long for the foreground. A frame at dusk is cleaner")
    notes.append("Do not move the tripod between these and the stars")
    return replace(found, told=tuple(notes))


def _own_frames(
    foreground_id: ForegroundId, where: tuple[Lens, Mode], asked: NightAsk, *, lx: float
) -> ForegroundWay:
    lens, mode = where
    wanted = _wanted_stops(asked)
    of_foreground = _foreground_ev100(asked, lx)
    iso, shutter_s = foreground_settings(lens, mode, of_foreground - wanted)
    signal_e = collected_e(lens, mode, of_foreground, shutter_s=shutter_s)
    noise_e = float(mode.read_noise_at(iso))
    frames = frames_for(
        mode, asked.pixels_out, FOREGROUND_SNR, signal_e=signal_e, read_noise_e=noise_e
    )
    gap_s = mode.files.frame_gap_s if mode.files.frame_gap_s is not None else USUAL_GAP_S
    reached = snr_seen(mode, asked.pixels_out, signal_e, read_noise_e=noise_e, frames=frames)
    lands = of_foreground - float(ev100(lens.f_number, shutter_s, iso))
    shot = steps_label(iso, shutter_s)
    return ForegroundWay(
        foreground_id,
        FOREGROUND_NAMES[foreground_id],
        shot if frames == 1 else f"{counted(frames, 'frame')} of {shot}",
        lands_stops=lands,
        told=tuple(_own_words(lands - wanted, reached)),
        reaches=_reaches(lands - wanted, reached),
        ev100=of_foreground,
        iso=iso,
        shutter_s=shutter_s,
        frames=frames,
        elapsed_s=frames * shutter_s + (frames - 1) * gap_s,
        snr=reached,
    )


def _reaches(off: float, reached: float) -> bool:
    return reached >= FOREGROUND_SNR * NEARLY and off >= -MOST_LIFTED_STOPS


def _own_words(off: float, reached: float) -> Iterator[str]:
    if not _reaches(off, reached):
        yield "Too dark for this lens. Shoot the foreground at dusk or light it"
    if reached >= FOREGROUND_SNR * NEARLY:
        yield f"Clean enough: SNR {two_digits(reached)}"
    else:
        yield f"Noisy: SNR {two_digits(reached)}, wanted {FOREGROUND_SNR:g}"
    if off < -AGREES_STOPS:
        yield f"{stops_label(-off)} too dark. Lift it by that when blending"
    elif off > AGREES_STOPS:
        yield f"{stops_label(off)} too bright. Lower it by that when blending"
