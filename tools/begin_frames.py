"""The small frames a new sheet begins with, photographed from the scenes by the bench phone.

`python tools/begin_frames.py` writes them beside the page that shows them, where they are kept.
"""

from __future__ import annotations

import sys
from dataclasses import dataclass, replace
from pathlib import Path

from PIL import Image

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT / "src"))

from oxlen.core.simulate.exposing import CaptureSettings  # noqa: E402
from oxlen.devices.standins.bench_phone import BenchPhone  # noqa: E402
from oxlen.formats.phone.shipped import shipped_profile  # noqa: E402
from oxlen.formats.scene_file import shipped_scene  # noqa: E402

FRAMES = ROOT / "web" / "src" / "features" / "begin" / "frames"
SIZE = (320, 240)
PROFILE = shipped_profile("wherry-3")


@dataclass(frozen=True)
class Look:
    """A frame: its scene, how many stops from auto, its white, and the part of it that is shown."""

    scene: str
    stops: float = 0.0
    white_k: float = 5600.0
    crop: tuple[float, float, float, float] = (0.0, 0.0, 1.0, 1.0)
    steps: tuple[float, float, float] | None = None
    """ISO, shutter in seconds and stops of filters, where auto is not what is wanted."""


LOOKS = {
    "grey-day": Look("yard-overcast", 0.5, 6500),
    "bright-ground": Look("white-hull-sun", 0.4, 5500),
    "dark-ground": Look("tarred-shed", -1.2, 6500, (0.45, 0.2, 1.0, 0.75)),
    "silhouette": Look("dinghy-passing", -3.2, 4500),
    "moving": Look("dinghy-passing", 0.0, 5400),
    "water": Look("sluice", 0.0, 6500, (0.1, 0.2, 0.9, 1.0), (50, 0.5, 6)),
    "night-lamps": Look("lantern-evening", -0.8, 3200),
    "stars": Look("stars-over-slip", white_k=4200, steps=(1600, 13, 0)),
    "drawing": Look("lantern-evening", -3.0, 3000, (0.25, 0.25, 0.95, 0.95)),
    "small": Look("bronze-bench", 0.2, 4000, (0.2, 0.25, 0.75, 0.8)),
    "product": Look("varnish-tins", 0.9, 5000),
    "window-light": Look("tarred-shed", -0.2, 6500, (0.15, 0.3, 0.7, 0.85)),
}


def frame(look: Look) -> Image.Image:
    """One look, cropped and made small."""
    scene = shipped_scene(look.scene)
    lens = PROFILE.to_phone().lens("main" if scene.hfov_deg > 40 else "long")
    phone = BenchPhone(PROFILE, lens, lens.modes[0], seed=4)
    auto: CaptureSettings = phone.auto_settings(scene, "tripod")
    iso, shutter_s, glass = look.steps or (auto.iso, auto.shutter_s * 2.0**look.stops, 0.0)
    settings = replace(auto, shutter_s=shutter_s, iso=iso, white_k=look.white_k, glass_stops=glass)
    picture = Image.fromarray(phone.expose(scene, settings).developed())
    width, height = picture.size
    left, top, right, bottom = look.crop
    part = picture.crop((left * width, top * height, right * width, bottom * height))
    return part.resize(SIZE, Image.Resampling.LANCZOS)


def main() -> int:
    """Write every frame."""
    FRAMES.mkdir(parents=True, exist_ok=True)
    for name, look in LOOKS.items():
        frame(look).save(FRAMES / f"{name}.jpg", quality=82)
    return 0


if __name__ == "__main__":
    raise SystemExit(main())
