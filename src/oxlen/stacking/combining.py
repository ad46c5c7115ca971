"""Frames of a set stacked: gathered one at a time, or written to disk and stacked band by band."""

from __future__ import annotations

import time
from collections.abc import Iterator, Mapping, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace
from threading import Lock
from typing import Any

import numpy as np
from numpy.typing import NDArray

from oxlen.core.frames.star_floor import star_floor
from oxlen.pictures.whole import WholeFrame
from oxlen.stacking.ask import THREADS, FrameFile
from oxlen.stacking.gaps import gap_maps
from oxlen.stacking.gathering import Gathered
from oxlen.stacking.kept import SPOOL, SUMS
from oxlen.stacking.placing import PlaceMap, with_foreground
from oxlen.stacking.preview import GrowingLook, write_preview
from oxlen.stacking.spooling import Spool, band_together
from oxlen.stacking.work import Reader, Work, check_enough, reader_of

SAVED_EVERY_S = 8.0
CHUNK = 8
Levels = NDArray[np.float32]


def gathered(work: Work) -> tuple[Levels, float]:
    """Frames gathered one at a time, by two threads; saved now and then."""
    reader, first = reader_of(work)
    how = work.asked.combine
    sums = Gathered(first.values.shape, how, frames=len(work.frames), top=first.top)
    if work.kept.placed and how in ("mean", "add"):
        sums.counting()
    if work.kept.done:
        sums.load(work.folder / SUMS)
    saved_at = time.monotonic()
    gaps = gap_maps(work.used) if work.closes_gaps else ()
    for part in _parts(work):
        _gather(work, reader, sums, part=part, gaps=gaps)
        work.tell("stacking frames", _share(work))
        if time.monotonic() - saved_at > SAVED_EVERY_S:
            _save(work, sums)
            saved_at = time.monotonic()
    again = work.taken_back()
    if again:
        _gather(work, replace(reader, judges=False), sums, part=again, gaps=gaps)
    check_enough(work)
    return _result(sums, first), float(first.top)


def _parts(work: Work) -> Iterator[list[FrameFile]]:
    waiting = [frame for frame in work.used if frame.name not in work.kept.done]
    for at in range(0, len(waiting), CHUNK):
        yield waiting[at : at + CHUNK]


def _gather(
    work: Work,
    reader: Reader,
    sums: Gathered,
    *,
    part: list[FrameFile],
    gaps: Sequence[PlaceMap] = (),
) -> None:
    """Take a few frames in, or leave them out."""
    lock = Lock()

    def take(numbered: tuple[int, FrameFile]) -> None:
        number, file = numbered
        frame = reader.fitting(file, lock)
        if frame is not None:
            _take_in(sums, frame, reader.map_of(file, frame), begin=number * 7, work=work)
            if gaps:
                _go_on(sums, frame, gaps, begin=number * 7, work=work)
            with lock:
                sums.count += 1

    with ThreadPoolExecutor(THREADS) as pool:
        list(pool.map(take, enumerate(part)))
    work.kept.done += [file.name for file in part if file.name not in work.kept.done]


def _take_in(
    sums: Gathered, frame: WholeFrame, at: PlaceMap | None, *, begin: int, work: Work
) -> None:
    whole = None if at is None else frame.levels(0, sums.shape[0])
    for first, last in sums.stripes(begin):
        if at is None or whole is None:
            sums.add(frame.levels(first, last), first, _all(sums, first, last))
        else:
            moved = at.moved(whole, first, last, sharp=work.asked.align == "stars")
            still = with_foreground(moved, whole[first:last], work.land, first=first)
            sums.add(still.levels, first, still.held)


def _go_on(
    sums: Gathered, frame: WholeFrame, gaps: Sequence[PlaceMap], *, begin: int, work: Work
) -> None:
    """Add a frame's stars once more with its sky turned on, without foreground and grain."""
    whole = frame.levels(0, sums.shape[0])
    floor = star_floor(whole)
    for turned_on in gaps:
        for first, last in sums.stripes(begin):
            moved = turned_on.moved(whole, first, last, sharp=True)
            sky = True if work.land is None else work.land[first:last] < 0.5
            held = moved.held & sky & floor.stands_out(moved.levels, first)
            sums.add(moved.levels, first, held)


def _all(sums: Gathered, first: int, last: int) -> NDArray[np.bool_] | None:
    """Every place is held, stated only where places are counted."""
    return None if sums.counts is None else np.ones((last - first, sums.shape[1]), dtype=bool)


def _share(work: Work) -> float:
    before = 0.5 if work.asked.align != "none" else 0.0
    used = len(work.kept.done) / max(1, len(work.frames))
    return before + (1 - before) * min(1.0, used) * 0.98


def _save(work: Work, sums: Gathered) -> None:
    """Keep what is gathered: first the sums, then which frames are in them, under one name."""
    part = work.folder / "sums.part"
    sums.save(part)
    part.replace(work.folder / SUMS)
    work.kept.save(work.folder)
    if sums.count:
        write_preview(work.folder, sums)


def _result(sums: Gathered, first: WholeFrame) -> Levels:
    whole = np.empty(sums.shape, dtype=np.float32)
    for a, b in sums.stripes():
        whole[a:b] = sums.result(a, b)
    if sums.how == "add" and first.black is not None:
        # Each frame brought its own black level along; one is to be left.
        sides = zip(whole.shape, first.black.shape, strict=True)
        tile = np.tile(first.black, [-(-long // short) for long, short in sides])
        whole -= ((sums.count - 1) * tile[: whole.shape[0], : whole.shape[1]]).astype(np.float32)
    return np.asarray(whole)


def spooled(work: Work) -> tuple[Levels, float]:
    """Frames written to disk by two threads, then stacked band by band."""
    reader, first = reader_of(work)
    is_moved = bool(work.kept.placed)
    kind = np.dtype(np.uint16) if is_moved else first.values.dtype
    spool = Spool(work.folder / SPOOL, first.values.shape, kind, frames=len(work.frames))
    spool.check_room()
    places = {file.name: place for place, file in enumerate(work.frames)}
    _lay_down(work, reader, spool, places=places, first=first)
    for file in work.taken_back():
        frame = reader.read(file)
        spool.put(places[file.name], _on_reference(frame, reader.map_of(file, frame), work=work))
    check_enough(work)
    used = [places[file.name] for file in work.used]
    table = None if is_moved else first.table
    reference = places.get(work.reference.name)
    at = used.index(reference) if reference in used else 0
    result: Levels = np.empty(first.values.shape, dtype=np.float32)
    for row, band in spool.bands():
        result[row : row + band.shape[1]] = band_together(
            band[used], work.asked.combine, table=table, reference=at
        )
        work.tell("combining parts", 0.7 + 0.28 * row / first.values.shape[0])
    return result, float(first.top)


def _lay_down(
    work: Work, reader: Reader, spool: Spool, *, places: Mapping[str, int], first: WholeFrame
) -> None:
    """Every frame at its place on disk, or left out."""
    # What comes of it is known at the end alone: until then the mean of the frames is shown.
    growing, doing = GrowingLook(first.values.shape), f"saving frames, {spool.words}"
    table, lock = None if work.kept.placed else first.table, Lock()

    def lay_down(file: FrameFile) -> None:
        frame = reader.fitting(file, lock)
        if frame is None:
            return
        moved = _on_reference(frame, reader.map_of(file, frame), work=work)
        spool.put(places[file.name], moved)
        with lock:
            growing.add(moved, table)

    work.tell(doing, 0.0)
    for part in _parts(work):
        with ThreadPoolExecutor(THREADS) as pool:
            list(pool.map(lay_down, part))
        growing.write(work.folder, first.top)
        work.kept.done += [frame_file.name for frame_file in part]
        work.kept.save(work.folder)
        work.tell(doing, 0.7 * _share(work))


def _on_reference(frame: WholeFrame, at: PlaceMap | None, *, work: Work) -> NDArray[Any]:
    """Values of a frame aligned with the reference; 65535 where it holds nothing."""
    if at is None:
        if not work.kept.placed:
            return frame.values
        return frame.levels(0, frame.values.shape[0])
    whole = frame.levels(0, frame.values.shape[0])
    moved = at.moved(whole, 0, whole.shape[0], sharp=work.asked.align == "stars")
    moved = with_foreground(moved, whole, work.land, first=0)
    held = moved.held if whole.ndim == 2 else moved.held[..., None]
    return np.where(held, np.minimum(moved.levels, 65534), np.uint16(65535))
