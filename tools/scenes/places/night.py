"""The slip at night: a mast and a shed against the sky; stars are added at capture."""

from __future__ import annotations

from datetime import UTC, datetime

import numpy as np
from tools.scenes import lights, looks, shapes
from tools.scenes.places import parts
from tools.scenes.places.framing import MAIN_HFOV, View
from tools.scenes.render import Place, Thing
from tools.scenes.shapes import joined
from tools.scenes.sky import star_truth

VIEW = View((0.4, -0.5, 1.35), (0.4, 6.0, 3.25), MAIN_HFOV)
SKY_CD_M2 = 0.0011
"""About 20 mag/arcsec²: country sky with a town some way off."""


def slip() -> Place:
    """Hull, mast and shed in starlight with a little town glow low on one side."""
    hull = joined(shapes.hull(), shapes.hull_rails()).turned(24).moved(1.3, 6.3, 0.36)
    mast = shapes.tube(
        np.array([(1.2, 6.3, 0.8), (1.22, 6.3, 3.6), (1.25, 6.3, 7.0)]), [0.06, 0.055, 0.035]
    )
    stays = joined(
        *(
            shapes.tube(
                np.array([(1.25, 6.3, 6.8), (xx * 0.5 + 0.6, 6.3, 3.9), (xx, 6.3, 1.1)]), 0.012, 6
            )
            for xx in (-0.9, 3.5)
        )
    )
    ground_height = shapes.rough(41, 3.0, 0.05)
    ground = shapes.surface(
        lambda x, y: ground_height(x, y) - 0.05 * np.clip(y - 6, 0, None),
        (-18, 18),
        (-1, 20),
        steps=(220, 200),
        tile=3,
    )
    glow = lights.dusk(
        (3.4 * SKY_CD_M2, 2.5 * SKY_CD_M2, 1.5 * SKY_CD_M2),
        (0.62 * SKY_CD_M2, 0.75 * SKY_CD_M2, 1.05 * SKY_CD_M2),
        150,
    )
    truth = {
        "situation": "night sky over a foreground",
        "neutral": [],
        "lamps": [
            {
                "name": "sky glow",
                "cct_k": 4500,
                "duv": 0.0,
                "cri": 95,
                "pulse_hz": None,
                "luminance_cd_m2": 0.00085,
            }
        ],
        "stars": star_truth(
            azimuth_deg=150.0,
            elevation_deg=16.3,
            latitude_deg=52.0,
            longitude_deg=1.0,
            when=datetime(2026, 10, 3, 21, 30, tzinfo=UTC),
        ),
        "movers": [],
        "acceptance": {
            "tones": [
                {
                    "name": "sky between stars",
                    "x": 0.22,
                    "y": 0.25,
                    "r": 0.05,
                    "role": "keep-dark",
                    "low": -4.6,
                    "high": -1.0,
                }
            ],
            "stars_max_trail_px": 1.2,
            "sharp": [VIEW.spot("mast", (1.22, 6.3, 3.6), 0.03, max_blur_px=3.0)],
            "clipped_share_max": 0.02,
        },
    }
    things = [
        Thing(
            "ground",
            ground,
            looks.matt(looks.mottled((0.18, 0.16, 0.13), (0.10, 0.09, 0.075), 110)),
        ),
        Thing("hull", hull, looks.painted(looks.wood((0.05, 0.045, 0.04), 111, tile=(1, 4)), 0.4)),
        Thing(
            "cradle",
            parts.cradle(5.2).turned(24).moved(1.3, 6.3, 0.36),
            looks.matt(looks.wood((0.22, 0.17, 0.12), 112)),
        ),
        Thing("mast", joined(mast, stays), looks.matt(looks.colour(0.20, 0.14, 0.08))),
        *parts.open_shed(-4.6, 7.5, colour=(0.04, 0.035, 0.03), seed=42),
        *parts.creek_water(14.0, 70.0, -0.6, steepness=0.08, seed=43),
        *parts.far_bank(66.0, 4.0, 44),
    ]
    return Place(
        "stars-over-slip",
        "The slip under stars",
        things,
        emitters=[glow],
        eye=VIEW.eye,
        target=VIEW.target,
        hfov_deg=VIEW.hfov_deg,
        truth=truth,
        max_depth=6,
    )
