"""`python -m tools.scenes [ID ...]`: render the scenes and note how in a manifest."""

from __future__ import annotations

import argparse
import json
from pathlib import Path

import mitsuba as mi
from tools.scenes.places import PLACES
from tools.scenes.render import render_place

SHIPPED = Path(__file__).resolve().parents[2] / "src" / "oxlen" / "data" / "scenes"


def main() -> None:
    """Render what is named, or everything."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("ids", nargs="*", help=f"of {', '.join(PLACES)}")
    parser.add_argument("--samples", type=int, default=64)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--out", type=Path, default=SHIPPED)
    given = parser.parse_args()
    mi.set_variant("llvm_ad_rgb")
    manifest = given.out / "manifest.json"
    known = json.loads(manifest.read_text()) if manifest.is_file() else {}
    for place_id in given.ids or PLACES:
        line = render_place(PLACES[place_id](), given.out, given.samples, seed=given.seed)
        known[place_id] = line
        manifest.write_text(json.dumps(known, indent=1) + "\n")
        print(line, flush=True)


if __name__ == "__main__":
    main()
