"""The lit box for the yard shop: varnish tins on a white sweep."""

from __future__ import annotations

import numpy as np
from tools.scenes import lights, looks, shapes
from tools.scenes.places.framing import LONG_HFOV, View
from tools.scenes.render import Lamp, Place, Thing
from tools.scenes.shapes import Mesh

VIEW = View((0.0, -1.28, 0.34), (0.0, 0.0, 0.105), LONG_HFOV)


def tin(radius: float, height: float) -> tuple[Mesh, Mesh]:
    """A tin and its paper label, upright."""
    body = shapes.turned_on_lathe(
        [
            (0, height * 0.985),
            (radius * 0.55, height * 0.985),
            (radius * 0.60, height),
            (radius * 0.74, height),
            (radius * 0.78, height * 0.985),
            (radius * 0.92, height * 0.985),
            (radius * 0.95, height * 1.006),
            (radius * 1.0, height * 1.006),
            (radius * 1.0, height * 0.975),
            (radius * 0.985, height * 0.97),
            (radius * 0.985, height * 0.03),
            (radius * 1.0, height * 0.02),
            (radius * 1.0, 0),
            (0, 0),
        ],
        128,
    )
    paper = shapes.turned_on_lathe(
        [(radius * 0.992, height * 0.07), (radius * 0.992, height * 0.93)], 128
    )
    assert paper.uv is not None
    paper.uv = paper.uv[:, ::1].copy()
    return body, paper


def tins() -> Place:
    """Three tins of varnish in a lit box with a soft lamp on either side."""
    t = np.linspace(0, 1, 60)
    y = np.where(
        t < 0.5, -0.55 + t * 1.9, 0.40 + 0.16 * np.sin((np.clip(t, 0.5, 0.75) - 0.5) * 2 * np.pi)
    )
    z = np.where(
        t < 0.5,
        0.0,
        np.where(t < 0.75, 0.16 * (1 - np.cos((t - 0.5) * 2 * np.pi)), 0.16 + (t - 0.75) * 3.4),
    )
    sweep = shapes.swept(
        [
            np.stack(
                [np.full(3, 0.0) + np.array([-0.8, 0, 0.8]), np.full(3, yy), np.full(3, zz)], -1
            )
            for yy, zz in zip(y, z, strict=True)
        ]
    )
    made = []
    rows = [
        ("blue", 0.052, 0.142, (-0.145, 0.03), (0.045, 0.16, 0.24), (0.72, 0.68, 0.55), 12),
        ("amber", 0.062, 0.185, (0.005, -0.015), (0.62, 0.34, 0.05), (0.10, 0.07, 0.05), -6),
        ("red", 0.047, 0.118, (0.140, 0.035), (0.46, 0.075, 0.045), (0.80, 0.74, 0.60), 190),
    ]
    for name, radius, height, (x, yy), base, band, turn in rows:
        body, paper = tin(radius, height)
        made.append(Thing(f"tin-{name}", body.moved(x, yy), looks.steel(0.22)))
        printed = looks.painted(looks.label(base, band, abs(turn)), 0.32)
        made.append(Thing(f"label-{name}", paper.turned(turn).moved(x, yy), printed))
    brush_path = np.array([(0.0, 0, 0.008), (0.05, 0, 0.010), (0.10, 0, 0.010), (0.145, 0, 0.009)])
    handle = shapes.tube(brush_path, [0.006, 0.008, 0.0075, 0.010], 16)
    ferrule = shapes.box(0.022, 0.030, 0.014, bevel=0.003).moved(0.158, 0, 0.002)
    bristles = shapes.box(0.044, 0.032, 0.010, bevel=0.003).moved(0.190, 0, 0.004)

    def brush(part: Mesh) -> Mesh:
        return part.turned(-38).moved(-0.115, -0.075)

    radiance = lights.kelvin_rgb(5000, 1700)
    sides = [
        lights.panel((s * 0.62, -0.12, 0.36), (0, 0.0, 0.08), (0.44, 0.56), radiance=radiance)
        for s in (1, -1)
    ]
    roof = lights.panel(
        (0, 0.0, 0.72), (0, 0.02, 0), (0.5, 0.4), radiance=lights.kelvin_rgb(5000, 1050)
    )
    fill = lights.dome(np.full((8, 16, 3), 1.0) * np.array(lights.kelvin_rgb(5000, 7.5)))
    truth = {
        "situation": "product in a lit box",
        "neutral": [VIEW.spot("white sweep", (-0.24, -0.08, 0.0), 0.03)],
        "lamps": [
            {
                "name": "panels",
                "cct_k": 5000,
                "duv": 0.0,
                "cri": 95,
                "pulse_hz": 100,
                "depth": 0.35,
                "luminance_cd_m2": 1700,
            }
        ],
        "movers": [],
        "acceptance": {
            "tones": [
                VIEW.spot(
                    "white sweep", (-0.24, -0.08, 0.0), 0.03, role="subject", low=1.1, high=2.3
                ),
            ],
            "sharp": [VIEW.spot("amber label", (0.0, -0.077, 0.09), 0.05, max_blur_px=2.5)],
            "bands_max": 0.05,
            "clipped_share_max": 0.03,
        },
    }
    things = [
        Thing("sweep", sweep, looks.matt(looks.colour(0.84, 0.84, 0.835))),
        *made,
        Thing("brush", brush(handle), looks.painted(looks.wood((0.42, 0.20, 0.08), 80), 0.18)),
        Thing("ferrule", brush(ferrule), looks.metal((0.2, 0.92, 1.1), (3.9, 2.45, 2.1), 0.2)),
        Thing("bristles", brush(bristles), looks.matt(looks.colour(0.11, 0.085, 0.06))),
    ]
    return Place(
        "varnish-tins",
        "Varnish tins in the lit box",
        things,
        emitters=[fill],
        eye=VIEW.eye,
        target=VIEW.target,
        hfov_deg=VIEW.hfov_deg,
        truth=truth,
        lamps=[Lamp(side) for side in (*sides, roof)],
        max_depth=10,
    )
