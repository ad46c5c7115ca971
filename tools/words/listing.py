"""`./oxlen words [--csv]`: every string that a person reads, with its place, kind and screen."""

from __future__ import annotations

import argparse
import csv
import json
import subprocess
import sys
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

from tools.words.python_texts import ROOT, Text, texts

WEB = ROOT / "web"
SCREENS = {
    "core/decisions": "slip and ways out",
    "core/checklist": "checklist",
    "core/review": "take",
    "core/night": "night",
    "core/sky": "day and night",
    "core/motion": "limits",
    "core/light": "light",
    "core/measures": "measurements",
    "core/compute": "formula",
    "core/drawing": "lamp drawing",
    "core/long_exposure": "long exposure",
    "cards": "field card",
    "cli": "command line",
    "demo": "demo",
    "formats": "file",
    "hours": "day and night",
    "phones": "kit",
    "pictures": "import",
    "server": "errors and pages",
    "stacking": "stack",
    "takes": "take",
    "views": "sheet",
}
"""Where strings of a folder show, the longest name first."""


@dataclass(frozen=True)
class Shown:
    """A string as it is listed."""

    screen: str
    kind: str
    place: str
    text: str


def listed() -> list[Shown]:
    """Every string in reading order: by screen, then by place."""
    found = [*_of_python(), *_of_web()]
    return sorted(found, key=lambda text: (text.screen, text.place.rpartition(":")[0]))


def _of_python() -> Iterator[Shown]:
    for text in texts():
        yield _shown(text, text.file.removeprefix("src/oxlen/"))


def _of_web() -> Iterator[Shown]:
    files = sorted(path for path in (WEB / "src").rglob("*.ts*") if path.name != "schema.d.ts")
    command = ["node", str(Path(__file__).with_name("web_texts.mjs")), str(WEB), *map(str, files)]
    run = subprocess.run(command, capture_output=True, text=True, check=True)
    for load in json.loads(run.stdout):
        file = Path(load["file"]).relative_to(WEB / "src").as_posix()
        parts = Path(file).parts
        screen = parts[1] if parts[0] == "features" else parts[0]
        yield Shown(screen, load["kind"], f"web/src/{file}:{load['line']}", load["text"])


def _shown(text: Text, inside: str) -> Shown:
    screen = next((name for start, name in SCREENS.items() if inside.startswith(start)), "other")
    return Shown(screen, text.kind, f"{text.file}:{text.line}", text.text)


def main() -> int:
    """Print them all; how many of each kind at the end."""
    parser = argparse.ArgumentParser(prog="oxlen words", description=__doc__)
    parser.add_argument("--csv", action="store_true", help="as CSV")
    asked = parser.parse_args()
    found = listed()
    if asked.csv:
        writer = csv.writer(sys.stdout)
        writer.writerow(["screen", "kind", "place", "text"])
        writer.writerows([text.screen, text.kind, text.place, text.text] for text in found)
        return 0
    screen = ""
    for text in found:
        if text.screen != screen:
            screen = text.screen
            print(f"\n{screen}\n")
        print(f"  {text.kind:10} {text.text}  [{text.place}]")
    kinds = Counter(text.kind for text in found)
    print(
        f"\n{len(found)} strings: {', '.join(f'{count} {kind}' for kind, count in kinds.items())}"
    )
    return 0


if __name__ == "__main__":
    sys.exit(main())
