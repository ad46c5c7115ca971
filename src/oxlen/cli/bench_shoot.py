"""`oxlen bench-shoot`: photograph a shipped scene with the bench phone."""

from __future__ import annotations

import argparse
from pathlib import Path
from typing import Any

from oxlen.cli.output import print_json, read_text
from oxlen.core.errors import BadInput
from oxlen.core.hold.hand import SUPPORTS
from oxlen.devices.standins.bench_phone import BenchPhone, Shot
from oxlen.formats.json_text import parse_json
from oxlen.formats.outing.night_variants import variant_ids
from oxlen.formats.phone.shipped import shipped_profile
from oxlen.formats.scene_file import scene_ids, scene_truth, shipped_scene

TAKEN_AT = "2026:10:03 12:00:00"
WIDE_HFOV_DEG = 40.0


def bench_shoot(arguments: argparse.Namespace) -> int:
    """Take a picture by slip or on auto and write its files; prints what was taken."""
    if arguments.list:
        print_json([{"id": i, "name": scene_truth(i).name} for i in [*scene_ids(), *variant_ids()]])
        return 0
    if arguments.scene is None or arguments.out is None:
        raise BadInput("Give a scene and --out DIR, or --list.", "scene")
    scene, slip = shipped_scene(arguments.scene), _slip(arguments)
    profile = shipped_profile(str(slip.get("phone", arguments.phone)))
    usual = "main" if scene.hfov_deg > WIDE_HFOV_DEG else "long"
    known = [lens.id for lens in profile.to_phone().lenses]
    lens_id = slip.get("lens") or (usual if usual in known else known[0])
    lens = profile.to_phone().lens(str(lens_id))
    phone = BenchPhone(profile, lens, lens.mode(slip.get("mode")), seed=arguments.seed)
    settings = (
        phone.auto_settings(scene, arguments.support)
        if arguments.auto
        else phone.settings_for(scene, _shot(slip, arguments.support))
    )
    take = phone.take(scene, settings, arguments.format, taken_at=TAKEN_AT)
    arguments.out.mkdir(parents=True, exist_ok=True)
    written = _write(arguments.out, f"{arguments.scene}-{arguments.seed}", take.jpeg, dng=take.dng)
    print_json(
        {
            "scene": arguments.scene,
            "lens": lens.id,
            "iso": settings.iso,
            "shutter_s": settings.shutter_s,
            "focused_m": settings.focused_m,
            "white_k": settings.white_k,
            "slider": settings.slider,
            "support": settings.support,
            "files": written,
        }
    )
    return 0


def _slip(arguments: argparse.Namespace) -> dict[str, Any]:
    """The slip to dial in: its own JSON, or the answer of `oxlen plan` that holds one."""
    if arguments.auto:
        return {}
    if arguments.slip is None:
        raise BadInput("Give --slip FILE or --auto.", "slip")
    data = parse_json(read_text(arguments.slip), "The slip")
    slip = data.get("slip", data) if isinstance(data, dict) else None
    if not isinstance(slip, dict):
        raise BadInput("The slip has no settings.", "slip")
    return slip


def _shot(slip: dict[str, Any], support: str) -> Shot:
    values: dict[str, float] = {}
    if slip.get("focus_slider") is not None:
        slip = {**slip, "slider": slip["focus_slider"]}
    for name in ("iso", "shutter_s", "focused_m", "glass_stops", "white_k", "tint", "slider"):
        value = slip.get(name)
        if value is None:
            continue
        is_number = isinstance(value, int | float) and not isinstance(value, bool)
        if not is_number or (value < 0 and name != "tint"):
            raise BadInput(f"The slip's {name} must be a number.", name)
        values[name] = float(value)
    if not values.get("iso") or not values.get("shutter_s"):
        raise BadInput("The slip needs iso and shutter_s.", "slip")
    if support not in SUPPORTS:
        raise BadInput(f"The support is one of {', '.join(SUPPORTS)}.", "support")
    return Shot(**values, support=support)  # type: ignore[arg-type]


def _write(folder: Path, stem: str, jpeg: bytes | None, *, dng: bytes | None) -> list[str]:
    written = []
    for ending, data in (("jpg", jpeg), ("dng", dng)):
        if data is not None:
            path = folder / f"{stem}.{ending}"
            path.write_bytes(data)
            written.append(str(path))
    return written
