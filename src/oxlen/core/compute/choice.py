"""Registry entries of lens choice and of what a set costs."""

from __future__ import annotations

from typing import Any

from oxlen.core.compute.computation import Computation
from oxlen.core.kit.cost import FrameCost, set_cost
from oxlen.core.lens import perspective


def _cost(
    *,
    open_time: float,
    t_sub: float,
    gap: float,
    mb_per_frame: float,
    battery_pct_per_min: float,
    free_mb: float,
) -> dict[str, Any]:
    frame = FrameCost(mb_per_frame, battery_pct_per_min)
    found = set_cost(open_s=open_time, sub_s=t_sub, gap_s=gap, frame=frame, free_megabytes=free_mb)
    return {
        "frames": found.frames,
        "mb": found.megabytes,
        "time": found.time_s,
        "time_to_last_close": found.last_close_s,
        "battery_pct": found.battery_percent,
        "fits": found.fits,
    }


def _equivalence(f: float, N: float, crop: float) -> dict[str, Any]:
    return {
        "f35": perspective.equivalent_focal_mm(f, crop),
        "N_eq": perspective.equivalent_f_number(N, crop),
    }


def _growth(D1: float, z: float, ratio: float) -> dict[str, Any]:
    return {
        "D2": perspective.distance_for_same_size_m(D1, ratio),
        "growth": perspective.background_growth(D1, z, ratio),
    }


def _stretch(f: float, r: float) -> dict[str, Any]:
    found = perspective.edge_stretch(f, r)
    return {
        "phi_deg": found.angle_deg,
        "radial": found.radial,
        "tangential": found.tangential,
        "shape": found.shape,
    }


CHOICE: tuple[Computation, ...] = (
    Computation(
        "sequence_cost",
        "What a set of frames costs",
        "frames = ⌈open/t⌉; MB = frames·MB each; time = frames·(t + gap); battery = rate·time",
        source="phone profile",
        inputs={
            "open_time": "s",
            "t_sub": "s",
            "gap": "s",
            "mb_per_frame": "MB",
            "battery_pct_per_min": "%/min",
            "free_mb": "MB",
        },
        outputs={
            "frames": "number",
            "mb": "MB",
            "time": "s",
            "time_to_last_close": "s",
            "battery_pct": "%",
            "fits": "bool",
        },
        work=_cost,
    ),
    Computation(
        "equivalence",
        "What a lens is equal to on the 35 mm frame",
        "f35 = f·crop; N_eq = N·crop",
        source="Ray, Applied Photographic Optics",
        inputs={"f": "mm", "N": "f-number", "crop": "ratio"},
        outputs={"f35": "mm", "N_eq": "f-number"},
        work=_equivalence,
    ),
    Computation(
        "perspective_background_growth",
        "How much a longer lens pulls up a background",
        "D2 = D1·f2/f1; growth = (D1 + z)/D1 · D2/(D2 + z)",
        source="Ray, Applied Photographic Optics",
        inputs={"D1": "m", "z": "m", "ratio": "f2/f1"},
        outputs={"D2": "m", "growth": "ratio"},
        work=_growth,
    ),
    Computation(
        "edge_stretch",
        "Stretch of solid things towards the edge",
        "φ = atan(r/f); radial 1/cos²φ, tangential 1/cos φ",
        source="Ray, Applied Photographic Optics",
        inputs={"f": "mm", "r": "mm"},
        outputs={"phi_deg": "deg", "radial": "ratio", "tangential": "ratio", "shape": "ratio"},
        work=_stretch,
    ),
)
