"""Registry entries of motion, flicker and less light."""

from __future__ import annotations

from typing import Any

from oxlen.core.compute.computation import Computation
from oxlen.core.motion import flicker, less_light, looks, subject
from oxlen.core.motion.subject import Mover

MOVER = {"f": "mm", "v": "m/s", "theta_deg": "deg", "D": "m"}
MOVING = {"f": "mm", "v": "m/s", "t": "s", "theta_deg": "deg", "D": "m", "p": "um"}


def _blur(*, f: float, v: float, t: float, theta_deg: float, D: float, p: float) -> dict[str, Any]:
    blur = subject.motion_blur_um(Mover(v, D, theta_deg), f, t)
    return {"blur_um": blur, "blur_px": blur / p}


def _share(
    *, f: float, v: float, t: float, theta_deg: float, D: float, p: float, H: float
) -> dict[str, Any]:
    blur = subject.motion_blur_um(Mover(v, D, theta_deg), f, t)
    return {"share": subject.share_of_height(blur, p, H)}


def _streak(
    *, f: float, v: float, theta_deg: float, D: float, p: float, H: float, share: float
) -> dict[str, Any]:
    return {"t": subject.shutter_for_blur_s(Mover(v, D, theta_deg), f, share * p * H)}


def _sharp(*, f: float, v: float, theta_deg: float, D: float, c: float) -> dict[str, Any]:
    return {"t_max": subject.shutter_for_blur_s(Mover(v, D, theta_deg), f, 1000 * c)}


def _ripples(periods: float, length: float) -> dict[str, Any]:
    return {"t": periods * looks.ripple_period_s(length)}


def _approach(*, y: float, v: float, t: float, D: float) -> dict[str, Any]:
    return {"shift_mm": subject.approach_shift_mm(y, v, t, distance_m=D)}


def _crosser(w: float, v: float, t: float) -> dict[str, Any]:
    share = float(subject.covered_share(w, v, t))
    return {"share": share, "vanishes": share < subject.VANISHING_SHARE}


def _safe(f_mains: float, limit: float) -> dict[str, Any]:
    return {"safe": flicker.even_shutters_s(float(flicker.mains_pulse_hz(f_mains)), limit)}


def _bands(readout: float, pulse_hz: float) -> dict[str, Any]:
    return {"bands": flicker.rolling_bands(readout, pulse_hz)}


def _nd(factor: float, t: float) -> dict[str, Any]:
    stops, density = less_light.nd_stops(factor), less_light.nd_density(factor)
    return {"stops": stops, "density": density, "t_new": t * factor}


def _computed_nd(*, M: float, t_sub: float, gap: float, t_base: float) -> dict[str, Any]:
    found = less_light.averaged_frames(M, t_sub, gap, base_s=t_base)
    return {
        "T": found.gathered_s,
        "elapsed": found.elapsed_s,
        "virtual_stops": found.virtual_stops,
        "duty": found.duty_share,
        "noise_gain": found.noise_gain,
    }


MOTION: tuple[Computation, ...] = (
    Computation(
        "motion_blur_px",
        "Blur of a moving subject",
        "blur = f·10³·v·t·sin θ/(D − f/1000) µm; in pixels blur/p",
        source="Ray, Applied Photographic Optics",
        inputs=MOVING,
        outputs={"blur_um": "um", "blur_px": "px"},
        work=_blur,
    ),
    Computation(
        "motion_share_of_height",
        "Blur as a share of the picture's height",
        "share = blur/(p·H)",
        source="Ray, Applied Photographic Optics",
        inputs={**MOVING, "H": "px"},
        outputs={"share": "of picture height"},
        work=_share,
    ),
    Computation(
        "shutter_for_streak",
        "Shutter that draws a streak of a wanted length",
        "t with blur/(p·H) = share",
        source="Ray, Applied Photographic Optics",
        inputs={**MOVER, "p": "um", "H": "px", "share": "of picture height"},
        outputs={"t": "s"},
        work=_streak,
    ),
    Computation(
        "max_shutter_sharp",
        "Longest shutter that keeps a mover sharp",
        "t = 1000·c·(D − f/1000)/(f·10³·v·sin θ)",
        source="Ray, Applied Photographic Optics",
        inputs={**MOVER, "c": "mm"},
        outputs={"t_max": "s"},
        work=_sharp,
    ),
    Computation(
        "approach_motion",
        "Shift of a point on something coming straight on",
        "shift = y·v·t/(D − v·t)",
        source="central projection",
        inputs={"y": "mm", "v": "m/s", "t": "s", "D": "m"},
        outputs={"shift_mm": "mm"},
        work=_approach,
    ),
    Computation(
        "crosser_share",
        "Whether a crosser vanishes",
        "share = min(1, w/(v·t)); vanishes under 0.02",
        source="mean over the exposure",
        inputs={"w": "m", "v": "m/s", "t": "s"},
        outputs={"share": "0..1", "vanishes": "bool"},
        work=_crosser,
    ),
    Computation(
        "flicker_safe_ladder",
        "Shutters that expose evenly under mains lamps",
        "t = n/(2·f_mains)",
        source="lamps pulse at twice the mains; IEEE 1789",
        inputs={"f_mains": "Hz", "limit": "s"},
        outputs={"safe": "list of s"},
        work=_safe,
    ),
    Computation(
        "flicker_bands",
        "Flicker bands of a lamp",
        "bands = readout time × pulse rate",
        source="rolling shutter; IEEE 1789",
        inputs={"readout": "s", "pulse_hz": "Hz"},
        outputs={"bands": "number"},
        work=_bands,
    ),
    Computation(
        "ripples_passed",
        "How long until so many ripples have passed",
        "t = n·√(2π·λ/g), deep water",
        source="Lamb, Hydrodynamics",
        inputs={"periods": "number", "length": "m"},
        outputs={"t": "s"},
        work=_ripples,
    ),
    Computation(
        "nd",
        "Neutral-density filters",
        "stops = log2 F; density = log10 F; t' = t·F",
        source="ISO 5-1, optical density",
        inputs={"factor": "F", "t": "s"},
        outputs={"stops": "stops", "density": "D", "t_new": "s"},
        work=_nd,
    ),
    Computation(
        "computed_nd",
        "Neutral density by averaging frames",
        "T = M·t; elapsed = M·t + (M − 1)·gap; virtual stops = log2(T/t_base); noise/√M",
        source="mean of frames; EMVA 1288",
        inputs={"M": "frames", "t_sub": "s", "gap": "s", "t_base": "s"},
        outputs={
            "T": "s",
            "elapsed": "s",
            "virtual_stops": "stops",
            "duty": "0..1",
            "noise_gain": "ratio",
        },
        work=_computed_nd,
    ),
)
