"""What to save: RAW, processed or both, in which mode, with what compression."""

from __future__ import annotations

from collections.abc import Iterator

from oxlen.core.decisions.exposure.ask import (
    DRAWING,
    FORMAT,
    FORMAT_WORDS,
    LOOKS,
    MOTION,
    SKY,
    STRATEGY,
)
from oxlen.core.decisions.framework.brief import KEEP_DARK, Brief
from oxlen.core.decisions.framework.decision import Decision
from oxlen.core.decisions.framework.dial import Dial, SeriesPart
from oxlen.core.decisions.framework.limit import LimitKind
from oxlen.core.decisions.framework.setting import Setting
from oxlen.core.decisions.saving.advice import Advice, advise, by_strategy, raw_fits
from oxlen.core.decisions.saving.ask import SAVING
from oxlen.core.decisions.saving.pixels import DPI, PixelAdvice, pixel_advice, print_cm
from oxlen.core.decisions.saving.renditions import rendition_figures, renditions
from oxlen.core.decisions.saving.situation import frames_in_all, situation_of
from oxlen.core.decisions.sequence.ask import FRAMES
from oxlen.core.decisions.solver.frontier import figures_of_steps
from oxlen.core.decisions.solver.solution import Solution
from oxlen.core.decisions.upstream import Upstream
from oxlen.core.kit.phone_words import FileFormat
from oxlen.core.labels import counted, sentence_case, stops_label, two_digits, uncapped

CLEAN_DARK_SNR = 20.0
"""Detail in the dark that is cleaner than this gains nothing one sees from merging."""
SPOKEN = {"processed": "processed", "raw": "RAW", "both": "RAW and processed"}


def fill(brief: Brief, _: tuple[LimitKind, ...]) -> Brief:
    """The format that the strategy in force saves; as asked, where that is the strategy."""
    strategy = brief[SAVING].strategy
    if strategy == "as_asked":
        return brief
    return brief.asking(FORMAT, by_strategy(strategy, situation_of(brief)).file_format)


def decide(_: Brief, upstream: Upstream) -> tuple[Setting, ...]:
    """The line of what to save, in the format the exposure was decided for."""
    brief, slip = upstream.solution.search.brief, upstream.solution.slip
    iso = brief.mode.manual.iso[0] if slip is None else slip.iso
    doubt_mb = brief.mode.files.frame_plus_minus_mb(brief[FORMAT]) or None
    strategy, written, at = brief[SAVING].strategy, brief[FORMAT], situation_of(brief)
    best = advise(at)
    asked = best if strategy == "as_asked" else by_strategy(strategy, at)
    label = "RAW and processed" if written == "both" else FORMAT_WORDS[written]
    packed = ", packed" if is_packed(brief) and written != "processed" else ""
    return (
        Setting(
            FORMAT.name,
            "Save",
            written,
            label=f"{label}, {two_digits(brief.mode.megapixels)} MP{packed}",
            unit="",
            reason=_reason(brief, asked, written=written),
            because=asked.because if asked.file_format == written else FORMAT.name,
            plus_minus=doubt_mb,
            plus_minus_unit="MB a frame",
            why_plus_minus="" if doubt_mb is None else "detailed pictures are larger",
            notes=(
                *_notes(brief, best, pixel_advice(brief, iso)),
                *_of_merged(upstream.solution),
            ),
            figures=_figures(brief),
        ),
    )


def is_packed(brief: Brief) -> bool:
    """Whether RAW files are written packed: as asked, or where only so all of them fit.

    The photographer who chooses the format by hand chooses its compression too.
    """
    if brief.mode.files.raw_packed_mb is None:
        return False
    if brief[SAVING].compression == "packed" or brief[SAVING].strategy == "as_asked":
        return brief[SAVING].compression == "packed"
    at = situation_of(brief)
    return not raw_fits(at, packed=False) and raw_fits(at, packed=True)


def _figures(brief: Brief) -> dict[str, float | None]:
    """What the cost bars draw."""
    written, files, free_mb = brief[FORMAT], brief.mode.files, brief[SAVING].free_mb
    count, packed = frames_in_all(brief), is_packed(brief)
    frame_mb = files.frame_mb(written, packed=packed)
    fits = None if free_mb is None else float(files.fits(written, free_mb, packed=packed))
    return {
        "frame_mb": frame_mb,
        "all_mb": frame_mb * count,
        "frames": float(count),
        "free_mb": free_mb,
        "fits": fits,
        "fps": files.fps(written),
        "burst": float(files.burst(written)),
        **{f"print_{dpi}_dpi_cm": print_cm(brief.mode, dpi)[0] for dpi in DPI},
    }


def _reason(brief: Brief, advice: Advice, *, written: FileFormat) -> str:
    lift = brief[STRATEGY].lift_stops
    if lift and written != "processed":
        return f"Exposed dark on purpose: lift {stops_label(lift)} in development"
    if advice.file_format == written:
        return advice.reason
    return "Your choice"


def _notes(brief: Brief, best: Advice, pixels: PixelAdvice) -> Iterator[str]:
    written, files, asked = brief[FORMAT], brief.mode.files, brief[SAVING]
    if best.file_format != written and _would_lose(best, written):
        better = sentence_case(SPOKEN[best.file_format])
        yield f"{better} would be better: {uncapped(best.reason)}."
    if pixels.differs:
        size = two_digits(pixels.mode.megapixels)
        yield f"{size} MP is better: {pixels.reason}."
    packed = is_packed(brief)
    mb = files.frame_mb(written, packed=packed)
    count = frames_in_all(brief)
    if asked.free_mb is not None and count * mb > asked.free_mb:
        fits = files.fits(written, asked.free_mb, packed=packed)
        yield f"Storage fits {fits} of {counted(count, 'frame')}: {count * mb:.0f} MB needed."
        if not packed and written != "processed" and raw_fits(situation_of(brief), packed=True):
            yield "Compressed RAW files would fit. Set compression to compressed."
    elif packed and written != "processed" and asked.compression != "packed":
        fits = files.fits(written, asked.free_mb or 0.0)
        yield f"Compressed, so that all {count} fit. Lossless fits {fits}."
    if asked.fps is not None and asked.fps > files.fps(written):
        yield (
            f"{sentence_case(SPOKEN[written])} gives {files.fps(written):g} frames a second, not "
            f"{asked.fps:g}."
        )


def _of_merged(solution: Solution) -> Iterator[str]:
    """The phone's own merging, where the darkest detail is noisy and nothing moves."""
    search, slip = solution.search, solution.slip
    brief = search.brief
    if slip is None:
        return
    iso, shutter_s = slip.iso, slip.shutter_s
    moves = bool(brief[MOTION] or brief[LOOKS])
    if moves or brief[DRAWING] or brief[SKY] or brief[FRAMES].count > 1 or not _has_dark(brief):
        return
    merged = next((rendition for rendition in renditions(brief) if rendition.frames > 1), None)
    if merged is None or merged.mode.id != brief.mode.id:
        return
    now = figures_of_steps(search, iso, shutter_s).snr_dark
    if now is None or now >= CLEAN_DARK_SNR:
        return
    then = rendition_figures(search, merged, iso=iso, shutter_s=shutter_s).snr_dark or now
    yield (
        f"{merged.name} of {merged.frames} frames raises shadow SNR from {two_digits(now)} to "
        f"{two_digits(then)} if nothing moves."
    )


def _has_dark(brief: Brief) -> bool:
    return any(reading.role == KEEP_DARK for reading in brief.readings)


def _would_lose(best: Advice, written: FileFormat) -> bool:
    """Whether what is written lacks what the advice is for: a RAW file lacks nothing but room."""
    return written == "processed" or best.because in ("burst", "storage", "no-raw")


DECISION = Decision(
    "saving",
    (SAVING,),
    decide,
    fill=fill,
    instrument="save",
    dials=(Dial(FORMAT.name, "Save as"),),
    values=lambda lines: {"save": lines[FORMAT.name].value} if FORMAT.name in lines else {},
    series_part=SeriesPart("save", "What is saved"),
    locked=(FORMAT, SAVING),
)
