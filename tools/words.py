"""Pictures for the page that explains words: small frames of the demo scenes, shot on the bench.

`python tools/words.py` writes them beside the page, where they are kept.
"""

from __future__ import annotations

import sys
from dataclasses import dataclass, replace
from pathlib import Path

import numpy as np
from PIL import Image

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT / "src"))

from oxlen.core.hold.hand import Support  # noqa: E402
from oxlen.devices.standins.bench_phone import BenchPhone, Shot  # noqa: E402
from oxlen.formats.phone.shipped import shipped_profile  # noqa: E402
from oxlen.formats.scene_file import scene_truth, shipped_scene  # noqa: E402

TARGET = ROOT / "web" / "src" / "features" / "help" / "frames"
SIDE_PX = 260
QUALITY = 78


@dataclass(frozen=True)
class Part:
    """One frame: scene, steps, and the part of it that is shown (left, top, right, bottom)."""

    scene: str
    iso: float
    shutter_s: float
    support: Support = "tripod"
    glass_stops: float = 0.0
    box: tuple[float, float, float, float] = (0.0, 0.0, 1.0, 1.0)


HULL = Part("white-hull-sun", 50, 1 / 4000)
TINS = Part("varnish-tins", 50, 1 / 50)
BOARDS = Part("lantern-evening", 50, 0.4, box=(0.3, 0.55, 0.7, 0.95))
NEAR = replace(BOARDS, box=(0.5, 0.55, 0.7, 0.75))
SLUICE = Part("sluice", 50, 1 / 125)
SHED = Part("tarred-shed", 50, 1 / 50)
STARS = Part("stars-over-slip", 1600, 10.0, box=(0.3, 0.1, 0.65, 0.45))
CLEAT = Part("bronze-bench", 50, 1 / 15)

WORDS: dict[str, tuple[Part, ...]] = {
    "stop": tuple(replace(HULL, shutter_s=t) for t in (1 / 8000, 1 / 4000, 1 / 2000)),
    "ev": (HULL, replace(BOARDS, box=(0.0, 0.0, 1.0, 1.0))),
    "mid": (CLEAT,),
    "white": (HULL, replace(HULL, shutter_s=1 / 1000)),
    "snr": (NEAR, replace(NEAR, iso=3200, shutter_s=1 / 160)),
    "raw": (SHED, replace(SHED, shutter_s=1 / 200)),
    "bracket": tuple(replace(SHED, shutter_s=t) for t in (1 / 1000, 1 / 200, 1 / 30)),
    "nd": (SLUICE, replace(SLUICE, shutter_s=0.5, glass_stops=6.0)),
    "shake": (
        replace(NEAR, iso=400, shutter_s=1 / 20, support="handheld"),
        replace(NEAR, iso=50, shutter_s=1.3, support="handheld"),
    ),
    "bands": (replace(TINS, iso=800, shutter_s=1 / 1000), TINS),
    "trail": (STARS, replace(STARS, iso=500, shutter_s=30.0)),
}


def frame(part: Part) -> Image.Image:
    """A part as the phone would save it, cut and made small."""
    truth, scene = scene_truth(part.scene), shipped_scene(part.scene)
    profile = shipped_profile("wherry-3")
    lens = profile.to_phone().lens("main" if truth.hfov_deg > 40 else "long")
    phone = BenchPhone(profile, lens, lens.modes[0], seed=3)
    shot = Shot(part.iso, part.shutter_s, support=part.support, glass_stops=part.glass_stops)
    codes = phone.expose(scene, phone.settings_for(scene, shot)).developed()
    height, width = codes.shape[:2]
    left, top, right, bottom = part.box
    cut = codes[round(top * height) : round(bottom * height)]
    cut = cut[:, round(left * width) : round(right * width)]
    image = Image.fromarray(np.ascontiguousarray(cut))
    scale = SIDE_PX / max(image.size)
    size = round(image.width * scale), round(image.height * scale)
    return image.resize(size, Image.Resampling.LANCZOS)


def main() -> int:
    """Write every picture."""
    TARGET.mkdir(parents=True, exist_ok=True)
    for word, parts in WORDS.items():
        for number, part in enumerate(parts, start=1):
            frame(part).save(TARGET / f"{word}-{number}.jpg", quality=QUALITY)
    return 0


if __name__ == "__main__":
    sys.exit(main())
