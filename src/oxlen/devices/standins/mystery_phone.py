"""Mystery phones: phones with hidden figures, drawn from a seed, to practise measuring on."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from oxlen.core.kit.file_optics import FULL_FRAME_DIAGONAL_MM
from oxlen.core.kit.nominal_steps import iso_steps, shutter_steps
from oxlen.core.kit.phone import Lens, Mode
from oxlen.core.kit.regularities import (
    NOISE_SPREAD,
    WELL_SPREAD,
    usual_full_well_e,
    usual_read_noise_e,
)
from oxlen.formats.phone.profile import PhoneProfile

MAKERS = ("Tolver", "Marram", "Skerry", "Fennick")
MODELS = ("Coble", "Lugger", "Punt", "Yawl", "Smack", "Bawley")
SIZES = ((4000, 3000), (4032, 3024), (4080, 3060), (4608, 3456))
NOISE_ISOS = (1, 2, 4, 16, 64)
FILTER_ID = "soft-water"
SHAKY_SHARE = 0.6
"""Of tripods that shake within the times that are tried."""
HALF_SPREAD = 0.5
"""Of the ± of an assumed figure, which is meant to cover nearly all phones."""


@dataclass(frozen=True)
class Hidden:
    """What no file tells: the hand's limits in stops over the rule, its width, gaps, dial, bands.

    Drawn with the phone, and known only to those who judge a measurement. `tripod_stops` is None
    where its tripod is still; `computed_frames` are `computed_gap_s` apart in its own filter.
    """

    hand_stops: float
    braced_stops: float
    hand_width_stops: float
    frame_gap_s: float
    dial_mired: float
    declares_noise: bool
    tells_pitch: bool
    battery_percent_per_min: float
    tripod_stops: float | None
    computed_frames: int
    computed_gap_s: float
    processed_mb: float


@dataclass(frozen=True)
class MysteryPhone:
    """A phone as it truly is, and what is hidden about it."""

    seed: int
    profile: PhoneProfile
    hidden: Hidden

    @property
    def lens(self) -> Lens:
        """Its main lens."""
        return self.profile.to_phone().lenses[0]

    @property
    def mode(self) -> Mode:
        """The main lens's first mode."""
        return self.lens.modes[0]


def mystery_phone(seed: int, *, size: tuple[int, int] | None = None) -> MysteryPhone:
    """The mystery phone of a seed; `size` gives its frames other pixels, for quick practice."""
    draw = np.random.default_rng([seed, 12])
    make, model = str(draw.choice(MAKERS)), f"{draw.choice(MODELS)} {draw.integers(1, 9)}"
    base_iso = float(draw.choice([50, 64, 100]))
    drawn = SIZES[int(draw.integers(len(SIZES)))]
    width, height = size or drawn
    hidden = Hidden(
        hand_stops=float(draw.uniform(0.5, 3.5)),
        braced_stops=float(draw.uniform(1.0, 2.5)),
        hand_width_stops=float(draw.uniform(0.35, 0.65)),
        frame_gap_s=float(draw.uniform(0.05, 1.2)),
        dial_mired=float(draw.uniform(-25, 25)),
        declares_noise=bool(draw.random() < 0.5),
        tells_pitch=bool(draw.random() < 0.3),
        battery_percent_per_min=float(draw.uniform(0.3, 1.5)),
        **_drawn_later(seed),
    )
    wide = _focal_lengths(draw)
    lenses = [
        _lens(place, focal35, (width, height), draw=draw, base_iso=base_iso, hidden=hidden)
        for place, focal35 in enumerate(wide)
    ]
    profile = PhoneProfile.model_validate(
        {
            "id": f"mystery-{seed}",
            "name": f"{make} {model}",
            "make": make,
            "model": model,
            "meter_offset_stops": round(float(draw.normal(0, 0.25)), 3),
            "meter_plus_minus_stops": 0.0,
            "ladders": _ladders(draw, base_iso),
            "lenses": lenses,
            "white": {"low_k": 2300, "high_k": 7500, "step_k": 100},
            "computed": [own_filter(lenses[0]["id"])],
        }
    )
    return MysteryPhone(seed, profile, hidden)


def own_filter(lens_id: object) -> dict[str, object]:
    """The filter mode of every mystery phone as its menu names it: frames and gaps unsaid."""
    return {"id": FILTER_ID, "name": "Soft water", "kind": "filter", "lenses": [lens_id]}


def _drawn_later(seed: int) -> dict[str, Any]:
    """Figures that came after the others: drawn apart, so that a seed's phone stays the same."""
    draw = np.random.default_rng([seed, 13])
    return {
        "tripod_stops": float(draw.uniform(4.5, 8)) if draw.random() < SHAKY_SHARE else None,
        "computed_frames": int(draw.integers(4, 25)),
        "computed_gap_s": float(draw.uniform(0.05, 0.5)),
        "processed_mb": float(draw.uniform(3, 8)),
    }


def cropped(phone: MysteryPhone, size: tuple[int, int]) -> MysteryPhone:
    """The phone writing only the middle of its main lens's frame: fewer pixels of the same kind."""
    main, *others = phone.profile.lenses
    part = main.modes[0].model_copy(update={"width_px": size[0], "height_px": size[1]})
    lenses = [main.model_copy(update={"modes": [part]}), *others]
    return replace(phone, profile=phone.profile.model_copy(update={"lenses": lenses}))


def _focal_lengths(draw: np.random.Generator) -> list[float]:
    """35 mm-equivalents (mm) of one to three lenses, the main one first."""
    others = [float(draw.uniform(12, 16)), float(draw.uniform(50, 90))]
    return [float(draw.uniform(22, 28)), *others[: int(draw.integers(0, 3))]]


def _ladders(draw: np.random.Generator, base_iso: float) -> dict[str, dict[str, list[float]]]:
    highest = float(draw.choice([1600, 3200, 6400]))
    fastest, slowest = float(draw.choice([4000, 8000, 10000])), float(draw.choice([8, 10, 30]))
    by_hand = {
        "iso": list(iso_steps(base_iso, highest)),
        "shutter_s": list(shutter_steps(1 / fastest, slowest)),
    }
    auto = {
        "iso": list(iso_steps(base_iso, 2 * highest)),
        "shutter_s": list(shutter_steps(1 / fastest, 0.25)),
    }
    return {"by-hand": by_hand, "auto": auto}


def _lens(
    place: int,
    focal35: float,
    size: tuple[int, int],
    *,
    draw: np.random.Generator,
    base_iso: float,
    hidden: Hidden,
) -> dict[str, object]:
    """A lens's profile: pixels of 1 to 2.4 µm, other figures scattered about what is usual."""
    pitch = float(draw.choice([1.0, 1.12, 1.4, 1.6, 2.0, 2.4] if place == 0 else [1.0, 1.12, 1.4]))
    diagonal_mm = math.hypot(*size) * pitch / 1000
    focal_mm = round(focal35 * diagonal_mm / FULL_FRAME_DIAGONAL_MM, 2)
    mode = _mode(pitch, size, draw=draw, base_iso=base_iso)
    mode["files"] = {"frame_gap_s": hidden.frame_gap_s}
    name = ("Main", "Ultra-wide", "Long")[place]
    return {
        "id": name.lower(),
        "name": name,
        "focal_mm": focal_mm,
        "focal35_mm": FULL_FRAME_DIAGONAL_MM * focal_mm / diagonal_mm,
        "f_number": float(draw.choice([1.6, 1.8, 1.9, 2.2, 2.4])),
        "stabiliser_stops": hidden.hand_stops,
        "braced_stops": hidden.braced_stops,
        "modes": [mode],
    }


def _mode(
    pitch_um: float, size: tuple[int, int], *, draw: np.random.Generator, base_iso: float
) -> dict[str, object]:
    """A mode's profile, its noise scattered about what is usual for such pixels."""
    usual = usual_full_well_e(pitch_um)
    well = usual.value * math.exp(HALF_SPREAD * WELL_SPREAD * float(draw.standard_normal()))
    louder = math.exp(HALF_SPREAD * NOISE_SPREAD * float(draw.standard_normal()))
    noise = [
        (base_iso * k, usual_read_noise_e(base_iso * k, base_iso).value * louder)
        for k in NOISE_ISOS
    ]
    raw = float(draw.uniform(2.8, 3.4))
    return {
        "id": "full",
        "name": f"{size[0] * size[1] / 1e6:.3g} MP",
        "width_px": size[0],
        "height_px": size[1],
        "pixel_pitch_um": pitch_um,
        "full_well_e": well,
        "base_iso": base_iso,
        "prnu_share": float(draw.uniform(0.003, 0.009)),
        "read_noise_e": noise,
        "headroom_stops": {"processed": float(draw.uniform(2.5, raw - 0.1)), "raw": raw},
        "readout_s": float(draw.uniform(0.009, 0.03)),
        "manual": "by-hand",
        "auto": "auto",
    }
