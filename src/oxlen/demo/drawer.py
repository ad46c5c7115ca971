"""In the yard's drawer: filters, lamps and clip-on lenses of the Kettle Reach demo."""

from __future__ import annotations

from oxlen.core.kit.clip_on import ClipOn
from oxlen.core.kit.lamp import Lamp
from oxlen.store.kit.lens_filters import KeptFilter

LENS_FILTERS = (
    KeptFilter("polariser", "Polariser", 2.8, note="turned for least glare, 1.5 stops"),
    KeptFilter("nd-64", "ND 64", 64.0, note="measured on the grey card in the yard"),
    KeptFilter("nd-1000", "ND 1000", 1000.0, note="a little warm"),
)
LAMPS = {
    "bench-panel": Lamp(
        "Bench panel", 4000.0, duv=0.001, cri=92.0, dims_to=0.1, pulse_hz=480.0, lumens=1100.0
    ),
    "box-panels": Lamp("Box panels", 5000.0, cri=95.0, pulse_hz=100.0, lumens=1800.0),
}
CLIP_ONS = {
    "ten": ClipOn("Ten dioptres", 10.0, "main"),
    "four": ClipOn("Four dioptres", 4.0, ""),
}

YARD = {
    "name": "Kettle Reach",
    "latitude_deg": 44.6,
    "longitude_deg": -63.9,
    "time_zone": "America/Halifax",
    "dark_sky_class": 3,
    "horizon": [
        {"bearing_deg": 20, "height_deg": 4},
        {"bearing_deg": 95, "height_deg": 11},
        {"bearing_deg": 150, "height_deg": 5},
        {"bearing_deg": 190, "height_deg": 3},
        {"bearing_deg": 245, "height_deg": 6},
        {"bearing_deg": 300, "height_deg": 16},
        {"bearing_deg": 335, "height_deg": 9},
    ],
    "glow": [{"bearing_deg": 72, "stops": 1.5}],
}
"""The yard: its slip looks south over the creek, sheds are to the north-west."""
