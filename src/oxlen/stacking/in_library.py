"""A set of the library stacked: its files, how far it is, and the result as a picture."""

from __future__ import annotations

import io
import json
import shutil
import sqlite3
import time
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path

from oxlen.core.errors import NotFound, OxlenError, PictureError, WorkFailed
from oxlen.formats.take.stack import stack_result
from oxlen.pictures.opening import open_picture
from oxlen.stacking.ask import Progress, StackAsk, StackDone, Stopped
from oxlen.stacking.kept import replace_file
from oxlen.stacking.preview import PREVIEW
from oxlen.stacking.stack import stack_files
from oxlen.store.kept_files import beside
from oxlen.store.library import Library
from oxlen.store.places import STACKS
from oxlen.store.stacks import (
    FrameFacts,
    KeptFrame,
    KeptStack,
    add_frame,
    delete_stack,
    end_stack,
    frames_of_stack,
    frames_without_facts,
    mark_stack,
    note_frame,
    stack,
)
from oxlen.takes.adding import as_take_once, into_inbox
from oxlen.takes.importing import file_sha256, take_in

WORK = "work"
PROGRESS, STOP = "progress.json", "stop"
NO_FILE = FrameFacts(0, 0, is_raw=False, byte_count=0)
NOT_KEPT = (
    "The result could not be saved: the disk is full or busy. Free some space and start again."
)


@dataclass(frozen=True)
class StackProgress:
    """How far a set is: what is being done, its share, and the seconds left if known."""

    doing: str
    share: float
    left_s: float | None


def stack_folder(library: Library, stack_id: int) -> Path:
    """Where the files of a stack are."""
    return library.folder / STACKS / str(stack_id)


def add_frame_files(
    folder: Path, stack_id: int, files: Sequence[tuple[Path, str]], *, move: bool
) -> None:
    """Make files, by path and name, frames of a stack, moved or beside; for a worker.

    Content that the stack has already is not doubled. A file that cannot be read is a frame too: it
    is named when the stack is made.
    """
    library = Library(folder)
    for source, name in files:
        sha256, facts = file_sha256(source), frame_facts(source, name)
        with library.writer() as connection:
            if add_frame(connection, stack_id, name, sha256=sha256, facts=facts):
                _keep(library, stack_id, source, sha256=sha256, move=move)


def note_facts(folder: Path) -> None:
    """Read what frames of an earlier Oxlen are; for a worker."""
    library = Library(folder)
    with library.reader() as connection:
        waiting = frames_without_facts(connection)
    for stack_id, name, sha256 in waiting:
        path = library.frame_path(stack_id, sha256)
        facts = frame_facts(path, name) if path.exists() else NO_FILE
        with library.writer() as connection:
            note_frame(connection, stack_id, sha256=sha256, facts=facts)


def _keep(library: Library, stack_id: int, source: Path, *, sha256: str, move: bool) -> None:
    """Put a file among the frames of a stack: moved, or beside where it is already."""
    target = library.frame_path(stack_id, sha256)
    if target.exists():
        return
    if not move:
        beside(source, target)
        return
    target.parent.mkdir(parents=True, exist_ok=True)
    source.replace(target)


def progress_of(library: Library, stack_id: int) -> StackProgress | None:
    """How far a set is; None where nothing was reported yet."""
    path = stack_folder(library, stack_id) / WORK / PROGRESS
    try:
        return StackProgress(**json.loads(path.read_text("utf-8")))
    except (OSError, ValueError, TypeError):
        return None


def preview_path(library: Library, stack_id: int) -> Path:
    """Where the growing look at a stack is."""
    return stack_folder(library, stack_id) / WORK / PREVIEW


def ask_to_stop(library: Library, stack_id: int) -> None:
    """Have the one who works on a set stop at the next frame; what is done is kept."""
    (stack_folder(library, stack_id) / WORK).mkdir(parents=True, exist_ok=True)
    (stack_folder(library, stack_id) / WORK / STOP).touch()


def forget_stop(library: Library, stack_id: int) -> None:
    """Drop an earlier wish to stop; one made from now on counts, even before work begins."""
    (stack_folder(library, stack_id) / WORK / STOP).unlink(missing_ok=True)


def first_frame_jpeg(folder: Path, path: Path, name: str, *, side_px: int) -> bytes:
    """One frame of a set as a small upright JPEG; for a worker. PictureError when it is no use."""
    del folder
    drawn = io.BytesIO()
    with open_picture(path, name) as picture:
        picture.preview(side_px).save(drawn, "JPEG", quality=88)
    return drawn.getvalue()


def frame_facts(path: Path, name: str) -> FrameFacts:
    """What a frame's file is, no pixels of one that cannot be read; for a worker."""
    byte_count = path.stat().st_size
    try:
        with open_picture(path, name) as picture:
            facts = picture.facts
    except PictureError:
        return FrameFacts(0, 0, is_raw=False, byte_count=byte_count)
    return FrameFacts(
        facts.width or 0, facts.height or 0, is_raw=facts.kind == "raw", byte_count=byte_count
    )


def delete_with_files(library: Library, stack_id: int) -> None:
    """Remove a set with its files; the result stays a picture of the library."""
    ask_to_stop(library, stack_id)
    with library.writer() as connection:
        delete_stack(connection, stack_id)
    shutil.rmtree(stack_folder(library, stack_id), ignore_errors=True)


def stack_up(folder: Path, stack_id: int, *, now: str) -> None:
    """Stack the frames of a set, from where it was left; for a worker.

    WorkFailed where the library could not keep how it ended.
    """
    library = Library(folder)
    try:
        with library.reader() as connection:
            asked, frames = stack(connection, stack_id), frames_of_stack(connection, stack_id)
    except NotFound:  # deleted while it waited
        return
    work = stack_folder(library, stack_id) / WORK
    work.mkdir(parents=True, exist_ok=True)
    try:
        _work(library, asked, frames, now=now)
    except Stopped:
        _mark(library, stack_id, "stopped")
    except Exception as error:
        words = _why(error)
        if words is None:
            raise
        _mark(library, stack_id, "failed", problem=words)


def _why(error: Exception) -> str | None:
    """Why a stack failed, in words; None of what nobody foresaw."""
    if isinstance(error, OxlenError):
        return error.message
    if isinstance(error, OSError):
        return f"A file could not be read or written: {error.strerror or error}."
    if isinstance(error, sqlite3.OperationalError):
        return NOT_KEPT
    if isinstance(error, MemoryError):
        return "There was not enough memory. Use smaller frames."
    return None


def _mark(library: Library, stack_id: int, state: str, *, problem: str = "") -> None:
    try:
        with library.writer() as connection:
            mark_stack(connection, stack_id, state, problem=problem)
    except sqlite3.OperationalError as error:
        raise WorkFailed(problem or NOT_KEPT) from error


def _work(library: Library, asked: KeptStack, frames: Sequence[KeptFrame], *, now: str) -> None:
    work = stack_folder(library, asked.id) / WORK
    out = work / f"result.{asked.ending}"
    done = stack_files(
        [(library.frame_path(asked.id, frame.sha256), frame.name) for frame in frames],
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
        report=_ProgressReporter(work).tell,
        stopped=(work / STOP).exists,
    )
    sha256 = _take_in(library, asked, done, out=out, now=now)
    found = stack_result(
        done.gain,
        used=list(done.used),
        left_out=[(name.name, name.why) for name in done.left_out],
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
    try:
        with library.incoming() as incoming:
            shutil.copyfile(out, incoming)
            return take_in(library, incoming, name[:255], now=now, attach=attach).sha256
    finally:
        out.unlink(missing_ok=True)


class _ProgressReporter:
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
        reported = {"doing": progress.doing, "share": progress.share, "left_s": left}
        replace_file(self._path, json.dumps(reported).encode())
