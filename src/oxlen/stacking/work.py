"""A set being worked on: its files, what is kept of it, and how its frames are read and judged."""

from __future__ import annotations

from collections.abc import Callable
from contextlib import nullcontext
from dataclasses import dataclass, field, replace
from functools import cached_property
from pathlib import Path
from threading import Lock

import numpy as np
from numpy.typing import NDArray

from oxlen.core.errors import BadInput, PictureError
from oxlen.core.frames.hot_pixels import hot_pixels, mended
from oxlen.core.frames.misfit import Misfit, SmallLook, look_misfit, many
from oxlen.pictures.whole import WholeFrame, own_balance, whole_frame
from oxlen.stacking.ask import LEAST_FRAMES, FrameFile, Progress, ProgressReport, StackAsk, Stopped
from oxlen.stacking.foreground import Named, OwnForeground, drawn_land, own_foreground
from oxlen.stacking.kept import Kept
from oxlen.stacking.looks import luminance, small_look
from oxlen.stacking.placing import PlaceMap, place_map
from oxlen.stacking.writing import DNG_ENDING


def no_report(_: Progress) -> None:
    """For whoever does not want to know."""


def never() -> bool:
    """For what is not to be stopped."""
    return False


@dataclass
class Work:
    """A set being worked on: its files that fit, where it is kept, and who hears of progress."""

    asked: StackAsk
    frames: list[FrameFile]
    kept: Kept
    folder: Path
    report: ProgressReport
    stopped: Callable[[], bool]
    out: Path | None
    at_hand: dict[str, WholeFrame] = field(default_factory=dict)
    dark: Path | None = None
    foreground_frames: list[Named] = field(default_factory=list)

    @property
    def reference(self) -> FrameFile:
        """The frame that the others are aligned with."""
        return next(frame for frame in self.frames if frame.name == self.kept.reference)

    @property
    def used(self) -> list[FrameFile]:
        """Frames that are not left out."""
        return [frame for frame in self.frames if frame.name not in self.kept.left_out]

    def taken_back(self) -> list[FrameFile]:
        """Frames that were lit otherwise, where there are too many of them to be a mishap."""
        aside = [frame for frame in self.frames if frame.name in self.kept.aside]
        if len(aside) < many(len(self.frames)):
            return []
        for file in aside:
            self.kept.left_out.pop(file.name, None)
        return aside

    @property
    def is_mosaic(self) -> bool:
        """Whether frames are stacked before they are developed."""
        ends_raw = self.out is None or self.out.suffix.lower() == DNG_ENDING
        is_unmoved = self.asked.align == "none" and not self.foreground_frames
        return self.frames[0].is_raw and is_unmoved and ends_raw

    @cached_property
    def land(self) -> NDArray[np.float32] | None:
        """How much of each stored pixel is foreground that stays; None where all of it is moved."""
        if self.own_foreground is not None:
            return self.own_foreground.weight
        stays = self.asked.align == "stars" or self.closes_gaps
        return self._drawn if self.asked.horizon and stays else None

    @cached_property
    def own_foreground(self) -> OwnForeground | None:
        """The foreground by its own frames; None without any."""
        if not self.foreground_frames:
            return None
        frame = self.reference
        light = luminance(whole_frame(frame.path, frame.name, mosaic=False))
        return own_foreground(self._drawn, self.foreground_frames, light)

    @cached_property
    def _drawn(self) -> NDArray[np.float32]:
        return drawn_land(self.asked, self.frames[0])

    @property
    def closes_gaps(self) -> bool:
        """Whether trails go on through the pauses: only trails have gaps."""
        asked = self.asked
        return asked.close_gaps and asked.combine == "lighten" and asked.align == "none"

    @cached_property
    def hot(self) -> NDArray[np.bool_] | None:
        """Which pixels shine in the frame with the lens covered; None without one."""
        if self.dark is None:
            return None
        frame = whole_frame(self.dark, self.asked.dark or "", mosaic=self.is_mosaic)
        reference = whole_frame(self.reference.path, self.reference.name, mosaic=self.is_mosaic)
        if frame.values.shape != reference.values.shape:
            raise BadInput("The dark frame has another size than the others.", "dark")
        return hot_pixels(frame.levels(0, len(frame.values)), float(frame.top))

    def tell(self, doing: str, share: float) -> None:
        """Tell how far it is; Stopped where it was deleted."""
        self.report(Progress(doing, share))
        if self.stopped():
            raise Stopped


@dataclass(frozen=True)
class Reader:
    """Reads frames of a set, moved onto the reference, and judges them."""

    work: Work
    look: SmallLook
    balance: tuple[float, ...] | None
    judges: bool = True

    def read(self, file: FrameFile) -> WholeFrame:
        """All pixels of a frame, not yet moved; one at hand is given out once."""
        found = self.work.at_hand.pop(file.name, None)
        mosaic = self.work.is_mosaic
        if found is None:
            found = whole_frame(file.path, file.name, mosaic=mosaic, balance=self.balance)
        hot = self.work.hot
        if hot is None or hot.shape != found.values.shape[:2]:
            return found
        return replace(found, values=mended(found.values, hot, mosaic=mosaic))

    def fitting(self, file: FrameFile, lock: Lock | None = None) -> WholeFrame | None:
        """All pixels of a frame that fits; None, its reason noted, for any other."""
        aside = False
        try:
            frame = self.read(file)
            found = self.misfit(file, frame) if self.judges else None
        except PictureError as error:
            why = error.cause
        else:
            if found is None:
                return frame
            why, aside = found.why, found.is_of_scene
        with lock or nullcontext():
            self.work.kept.left_out[file.name] = why
            if aside:
                self.work.kept.aside.append(file.name)
        return None

    def misfit(self, file: FrameFile, frame: WholeFrame) -> Misfit | None:
        """Why a frame is to be left out; None where it fits."""
        asked = self.work.asked
        if asked.mixed or file.name == self.work.kept.reference:
            return None
        # Stars that draw trails are elsewhere in each frame: no tripod was knocked.
        moved = asked.align != "none" or self.work.closes_gaps
        return look_misfit(small_look(frame), self.look, asked.combine, aligned=moved)

    def map_of(self, file: FrameFile, frame: WholeFrame) -> PlaceMap | None:
        """Where the reference's pixels are in a frame; None where they are the same."""
        placed = self.work.kept.placed.get(file.name)
        height, width = frame.values.shape[:2]
        return None if placed is None else place_map(placed, (width, height))


def reader_of(work: Work) -> tuple[Reader, WholeFrame]:
    """What reads the frames of a set, and its reference."""
    reference = work.reference
    # Every frame is balanced as the reference was: the phone may have changed its mind between.
    balance = own_balance(reference.path, reference.name) if reference.is_raw else None
    first = work.at_hand.get(reference.name) or whole_frame(
        reference.path, reference.name, mosaic=work.is_mosaic, balance=balance
    )
    return Reader(work, small_look(first), balance), first


def check_enough(work: Work) -> None:
    """BadInput where fewer than two frames are left to be stacked."""
    if len(work.used) < LEAST_FRAMES:
        why = next(iter(work.kept.left_out.values()), "")
        raise BadInput(f"Fewer than 2 frames match: {why}.", "files")
