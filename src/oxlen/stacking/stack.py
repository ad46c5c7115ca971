"""A set of files stacked into one picture, taken up again after a crash."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from pathlib import Path

from oxlen.core.frames.gain import set_gain
from oxlen.stacking.aligning import lay_by_features, lay_on_stars, reference_of
from oxlen.stacking.ask import STREAMED, LeftOut, ProgressReport, StackAsk, StackDone, words_of
from oxlen.stacking.combining import gathered, spooled
from oxlen.stacking.file_metadata import elapsed_s, fitting, read_metadata
from oxlen.stacking.foreground import Levels, split_files, with_own_foreground
from oxlen.stacking.kept import forget, kept_in
from oxlen.stacking.work import Work, check_enough, never, no_report
from oxlen.stacking.writing import check_ending, coded, write_mosaic, write_picture


def stack_files(
    files: Sequence[tuple[Path, str]],
    asked: StackAsk,
    *,
    folder: Path,
    out: Path | None = None,
    report: ProgressReport = no_report,
    stopped: Callable[[], bool] = never,
) -> StackDone:
    """Put files together as asked, `folder` being a place for what is kept meanwhile.

    Cut off and asked again with the same files and folder it goes on where it was, to the same
    result. BadInput where too few fit; Stopped when `stopped` says so.
    """
    sky, dark, land = split_files(files, asked)
    heads, unreadable = read_metadata(sky)
    frames, unfit = fitting(heads, mixed=asked.mixed)
    kept = kept_in(folder, asked, frames)
    kept.leave_out([*unreadable, *unfit])
    work = Work(
        asked,
        frames,
        kept,
        folder=folder,
        report=report,
        stopped=stopped,
        out=out,
        dark=dark,
        foreground_frames=land,
    )
    if out is not None:
        check_ending(out, is_mosaic=work.is_mosaic)
    _lay(work)
    result, top = _together(work)
    if out is not None:
        _write(work, out, result, top=top)
    done = _done(work)
    forget(folder)
    return done


def _together(work: Work) -> tuple[Levels, float]:
    """All frames together, over the foreground's own where it has any; and the level of white."""
    asked, land = work.asked, work.own_foreground  # found before frames fill the memory
    result, top = gathered(work) if asked.combine in STREAMED else spooled(work)
    if land is not None:
        work.tell("blending the foreground", 0.98)
        with_own_foreground(result, top, land, lift_stops=asked.land_lift_stops)
    return result, top


def _write(work: Work, out: Path, result: Levels, *, top: float) -> None:
    work.tell("writing the picture", 0.99)
    words = words_of(work.asked)
    if work.is_mosaic:
        write_mosaic(out, result, frames=work.used, words=words)
    else:
        write_picture(out, coded(result, top), frames=work.used, words=words)


def _done(work: Work) -> StackDone:
    used = work.used
    shutters = [star.kind.shutter_s or 0.0 for star in used]
    gain = set_gain(work.asked.combine, shutters, elapsed_s=elapsed_s(used))
    left = tuple(LeftOut(name, why) for name, why in work.kept.left_out.items())
    width, height = used[0].kind.size
    return StackDone(
        len(used),
        left,
        gain,
        width=width,
        height=height,
        path=work.out,
        used=tuple(star.name for star in used),
        land_moved_px=0.0 if work.own_foreground is None else work.own_foreground.moved_px,
        land_sky_share=0.0 if work.own_foreground is None else work.own_foreground.sky_share,
    )


def _lay(work: Work) -> None:
    """Choose the reference and align the others with it, unless that was done before."""
    kept, by_stars = work.kept, work.asked.align == "stars"
    if kept.reference is None:
        kept.reference = reference_of(work.frames, work.at_hand, by_stars=by_stars).name
        if work.frames[0].is_raw or work.asked.align != "none":
            work.at_hand.clear()  # they are read another way then
    if not kept.is_aligned and work.asked.align != "none":
        lay = lay_on_stars if by_stars else lay_by_features
        for share in lay(work.frames, work.reference, kept):
            work.tell("aligning frames", 0.5 * share)
    kept.is_aligned = True
    kept.save(work.folder)
    check_enough(work)
