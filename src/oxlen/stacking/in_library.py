"""A set of the library put together: its files, how far it is, and the result as a picture."""

from __future__ import annotations

import io
import json
import os
import shutil
import time
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path

from oxlen.core.errors import NotFound, OxlenError
from oxlen.formats.stack_file import stack_result
from oxlen.pictures.opening import open_picture
from oxlen.stacking.ask import Progress, StackAsk, StackDone, Stopped
from oxlen.stacking.kept import replace_file
from oxlen.stacking.preview import PREVIEW
from oxlen.stacking.stack import stack_files
from oxlen.store.library import Library
from oxlen.store.places import STACKS
from oxlen.store.stacks import (
    KeptFrame,
    KeptStack,
    delete_stack,
    end_stack,
    frames_of_stack,
    mark_stack,
    stack,
)
from oxlen.takes.arriving import as_take_once, into_inbox
from oxlen.takes.importing import take_in

FRAMES, WORK = "frames", "work"
PROGRESS, STOP = "progress.json", "stop"


@dataclass(frozen=True)
class HowFar:
    """How far a set is: what is being done, its share, and the seconds left where they are told."""

    doing: str
    share: float
    left_s: float | None


def stack_folder(library: Library, stack_id: int) -> Path:
    """Where the files of a set lie."""
    return library.folder / STACKS / str(stack_id)


def frame_path(library: Library, stack_id: int, sha256: str) -> Path:
    """Where a frame of a set lies, by its content."""
    return stack_folder(library, stack_id) / FRAMES / sha256


def keep_frame(library: Library, stack_id: int, source: Path, *, sha256: str, move: bool) -> None:
    """Put a file among the frames of a set: moved, or beside where it lies already."""
    target = frame_path(library, stack_id, sha256)
    target.parent.mkdir(parents=True, exist_ok=True)
    if target.exists():
        return
    if move:
        source.replace(target)
        return
    try:
        os.link(source, target)
    except OSError:  # a disk that knows no second names
        shutil.copyfile(source, target)


def how_far(library: Library, stack_id: int) -> HowFar | None:
    """How far a set is; None where nothing was told yet."""
    path = stack_folder(library, stack_id) / WORK / PROGRESS
    try:
        return HowFar(**json.loads(path.read_text("utf-8")))
    except (OSError, ValueError, TypeError):
        return None


def preview_path(library: Library, stack_id: int) -> Path:
    """Where the growing look at a set lies."""
    return stack_folder(library, stack_id) / WORK / PREVIEW


def ask_to_stop(library: Library, stack_id: int) -> None:
    """Have the one who works on a set stop at the next frame; what is done is kept."""
    (stack_folder(library, stack_id) / WORK).mkdir(parents=True, exist_ok=True)
    (stack_folder(library, stack_id) / WORK / STOP).touch()


def first_frame_jpeg(folder: Path, path: Path, name: str, *, side_px: int) -> bytes:
    """One frame of a set as a small upright JPEG; for a worker. PictureError when it is no use."""
    del folder
    drawn = io.BytesIO()
    with open_picture(path, name) as picture:
        picture.preview(side_px).save(drawn, "JPEG", quality=88)
    return drawn.getvalue()


def frame_values(path: Path, name: str) -> tuple[int, int, bool]:
    """Width and height of a frame, and whether it is RAW; (0, 0, False) of one that is no use."""
    try:
        with open_picture(path, name) as picture:
            facts = picture.facts
            return facts.width or 0, facts.height or 0, facts.kind == "raw"
    except (OxlenError, OSError):
        return 0, 0, False


def let_go(library: Library, stack_id: int) -> None:
    """Remove a set with its files; the result stays a picture of the library."""
    ask_to_stop(library, stack_id)
    with library.writer() as connection:
        delete_stack(connection, stack_id)
    shutil.rmtree(stack_folder(library, stack_id), ignore_errors=True)


def put_together(folder: Path, stack_id: int, *, now: str) -> None:
    """Put a set of the library in a folder together, from where it was left; for a worker."""
    library = Library(folder)
    try:
        with library.reader() as connection:
            asked, frames = stack(connection, stack_id), frames_of_stack(connection, stack_id)
    except NotFound:  # let go while it waited
        return
    work = stack_folder(library, stack_id) / WORK
    work.mkdir(parents=True, exist_ok=True)
    (work / STOP).unlink(missing_ok=True)
    try:
        _work(library, asked, frames, now=now)
    except Stopped:
        _mark(library, stack_id, "stopped")
    except OxlenError as error:
        _mark(library, stack_id, "failed", problem=error.message)
    except OSError as error:
        words = f"A file could not be read or written: {error.strerror or error}."
        _mark(library, stack_id, "failed", problem=words)
    except MemoryError:
        words = "There was not enough memory; fewer pixels need less."
        _mark(library, stack_id, "failed", problem=words)


def _mark(library: Library, stack_id: int, state: str, *, problem: str = "") -> None:
    with library.writer() as connection:
        mark_stack(connection, stack_id, state, problem=problem)


def _work(library: Library, asked: KeptStack, frames: Sequence[KeptFrame], *, now: str) -> None:
    work = stack_folder(library, asked.id) / WORK
    out = work / f"result.{asked.ending}"
    done = stack_files(
        [(frame_path(library, asked.id, one.sha256), one.name) for one in frames],
        StackAsk(
            asked.combine,  # type: ignore[arg-type]
            asked.align,  # type: ignore[arg-type]
            mixed=asked.mixed,
            horizon=tuple((float(x), float(y)) for x, y in json.loads(asked.horizon)),
            dark=asked.dark,
            close_gaps=asked.close_gaps,
            land=tuple(json.loads(asked.land)),
            land_lift_stops=asked.land_lift_stops,
        ),
        folder=work,
        out=out,
        told=_Teller(work).tell,
        stopped=(work / STOP).exists,
    )
    sha256 = _take_in(library, asked, done, out=out, now=now)
    found = stack_result(
        done.gain,
        used=list(done.used),
        left_out=[(one.name, one.why) for one in done.left_out],
        size=(done.width, done.height),
        land_moved_px=done.land_moved_px,
        land_sky_share=done.land_sky_share,
    )
    with library.writer() as connection:
        end_stack(connection, asked.id, result=found.model_dump_json(), sha256=sha256)


def _take_in(library: Library, asked: KeptStack, done: StackDone, *, out: Path, now: str) -> str:
    """Make the result a picture of the library: a take of the set's sheet, or in the inbox."""
    name = f"{asked.name}, {done.frames} frames {asked.combine}.{asked.ending}"
    sheet_id = asked.sheet_id
    attach = into_inbox(None, now) if sheet_id is None else as_take_once(sheet_id, None, now)
    incoming = library.incoming_path()
    try:
        shutil.copyfile(out, incoming)
        return take_in(library, incoming, name[:255], now=now, attach=attach).sha256
    finally:
        incoming.unlink(missing_ok=True)
        out.unlink(missing_ok=True)


class _Teller:
    """Writes down how far a set is, with the time left by how fast it went."""

    def __init__(self, work: Path) -> None:
        self._path = work / PROGRESS
        self._began: tuple[float, float] | None = None

    def tell(self, progress: Progress) -> None:
        """Write it down for whoever asks."""
        now = time.monotonic()
        if self._began is None:
            self._began = (now, progress.share)
        since, gone = now - self._began[0], progress.share - self._began[1]
        left = since * (1 - progress.share) / gone if gone > 0.01 else None
        told = {"doing": progress.doing, "share": progress.share, "left_s": left}
        replace_file(self._path, json.dumps(told).encode())
