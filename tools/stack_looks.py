"""Make the small pictures beside the stacking choices: `.venv/bin/python tools/stack_looks.py`.

The quay of the demo, shot by the bench phone while somebody walks by, stacked by every rule.
"""

from __future__ import annotations

import io
import sys
import tempfile
import time
from pathlib import Path

import httpx
from PIL import Image

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT))

from tests.browser.app_in_browser import Server, demo_library  # noqa: E402

from oxlen.core.frames.combine import COMBINE_WORDS  # noqa: E402

LOOKS = ROOT / "web" / "src" / "features" / "stack" / "looks"
SHEET, FRAMES, SEED = 2, 12, 3
SIZE = (160, 120)
PART = (0.02, 0.22, 0.72, 0.92)
"""Of the frame, what the small picture shows: left, top, right, bottom."""


def main() -> None:
    """One small picture for each rule, all of the same frames."""
    LOOKS.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as folder:
        demo_library(Path(folder))
        server = Server(Path(folder))
        try:
            with httpx.Client(base_url=f"{server.url}/api", timeout=300) as api:
                for rule, picture in _stacked(api):
                    _small(picture).save(LOOKS / f"{rule}.jpg", quality=80)
        finally:
            server.stop()


def _stacked(api: httpx.Client) -> list[tuple[str, Image.Image]]:
    made = api.post("/stacks", json={"name": "Looks", "sheet_id": SHEET}).raise_for_status().json()
    at = f"/stacks/{made['id']}"
    api.post(f"{at}/bench", json={"frames": FRAMES, "seed": SEED}).raise_for_status()
    found: list[tuple[str, Image.Image]] = []
    for rule in COMBINE_WORDS:
        api.put(at, json={"combine": rule, "ending": "jpg"}).raise_for_status()
        api.post(f"{at}/start").raise_for_status()
        while api.get(at).json()["state"] == "working":
            time.sleep(0.3)
        ended = api.get(at).json()
        if ended["state"] != "done":
            raise SystemExit(f"{rule}: {ended['state']}, {ended['problem']}")
        picture = api.get(f"{at}/file").raise_for_status().content
        found.append((rule, Image.open(io.BytesIO(picture)).convert("RGB")))
    return found


def _small(picture: Image.Image) -> Image.Image:
    wide, high = picture.size
    left, top, right, bottom = PART
    part = picture.crop(
        (round(left * wide), round(top * high), round(right * wide), round(bottom * high))
    )
    return part.resize(SIZE, Image.Resampling.LANCZOS)


if __name__ == "__main__":
    main()
