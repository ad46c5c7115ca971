"""`oxlen stack`."""

from __future__ import annotations

import argparse
import shutil
import sys
import tempfile
import time
from pathlib import Path

from oxlen.cli.output import print_json
from oxlen.core.errors import BadInput
from oxlen.core.frames.combine import COMBINE_WORDS
from oxlen.core.labels import time_label
from oxlen.formats.take.stack import stack_result
from oxlen.stacking.ask import ALIGN_WORDS, Progress, StackAsk
from oxlen.stacking.stack import stack_files

REPORT_EVERY_S = 2.0
DARK, FOREGROUND = "dark frame {name}", "foreground {name}"


def stack(arguments: argparse.Namespace) -> int:
    """Stack pictures and print the result."""
    for what, given, known in (
        ("rule", arguments.combine, COMBINE_WORDS),
        ("alignment", arguments.align, ALIGN_WORDS),
    ):
        if given not in known:
            raise BadInput(f"Unknown {what} {given}. Use one of {', '.join(known)}.")
    asked, files = _asked(arguments)
    folder = arguments.work or Path(tempfile.mkdtemp(prefix="oxlen-stack-"))
    folder.mkdir(parents=True, exist_ok=True)
    try:
        done = stack_files(
            files,
            asked,
            folder=folder,
            out=arguments.out,
            report=_ProgressReporter().tell,
        )
    finally:
        if arguments.work is None:
            shutil.rmtree(folder, ignore_errors=True)
    found = stack_result(
        done.gain,
        used=list(done.used),
        left_out=[(name.name, name.why) for name in done.left_out],
        size=(done.width, done.height),
        land_moved_px=done.land_moved_px,
        land_sky_share=done.land_sky_share,
    )
    print_json(found.model_dump(mode="json", exclude={"used"}))
    return 0


def _asked(arguments: argparse.Namespace) -> tuple[StackAsk, list[tuple[Path, str]]]:
    """What is asked, and the files with their names."""
    dark: Path | None = arguments.dark
    foreground = [(path, FOREGROUND.format(name=path.name)) for path in arguments.land]
    asked = StackAsk(
        arguments.combine,
        arguments.align,
        mixed=arguments.mixed,
        horizon=tuple(_place(text) for text in arguments.horizon),
        dark=None if dark is None else DARK.format(name=dark.name),
        close_gaps=arguments.close_gaps,
        land=tuple(name for _, name in foreground),
        land_lift_stops=arguments.land_lift,
    )
    files = [*((path, path.name) for path in arguments.files), *foreground]
    if dark is not None:
        files.append((dark, DARK.format(name=dark.name)))
    return asked, files


def _place(text: str) -> tuple[float, float]:
    try:
        x, y = (float(part) for part in text.split(","))
    except ValueError:
        raise BadInput(f"A point is X,Y as shares of width and height, not {text}.") from None
    return x, y


class _ProgressReporter:
    """Tells on stderr how far it is, now and then, with the time left."""

    def __init__(self) -> None:
        self._began = self._reported_at = time.monotonic()

    def tell(self, progress: Progress) -> None:
        """Report it, unless it was reported just now."""
        now = time.monotonic()
        if now - self._reported_at < REPORT_EVERY_S or progress.share <= 0:
            return
        self._reported_at = now
        left_s = (now - self._began) * (1 - progress.share) / progress.share
        words = f"{progress.doing}: {progress.share:.0%}, about {time_label(left_s)} left"
        print(f"oxlen: {words}", file=sys.stderr)
