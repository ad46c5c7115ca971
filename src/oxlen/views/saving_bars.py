"""The cost bars as data: every file each mode of the lens can write, and what it costs."""

from __future__ import annotations

from pydantic import BaseModel

from oxlen.core.decisions.exposure.ask import FORMAT
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.lens.ask import MODE
from oxlen.core.decisions.saving.advice import advise
from oxlen.core.decisions.saving.ask import SAVING
from oxlen.core.decisions.saving.decision import SPOKEN, is_packed
from oxlen.core.decisions.saving.pixels import pixel_advice, print_cm
from oxlen.core.decisions.saving.situation import frames_in_all, situation_of
from oxlen.core.kit.phone_words import FileFormat
from oxlen.core.labels import sentence_case

FORMATS: tuple[FileFormat, ...] = ("processed", "raw", "both")


class SavingBar(BaseModel):
    """One file: its size, how fast it is written, what fits, how large it prints."""

    mode: str
    mode_name: str
    format: FileFormat
    name: str
    frame_mb: float
    all_mb: float
    fps: float
    burst: int
    fits: int | None
    print_200_cm: tuple[float, float]
    print_300_cm: tuple[float, float]
    chosen: bool
    advised: bool


class SavingBars(BaseModel):
    """Every file that can be saved, the advice with its reason, and the outing's frames."""

    bars: list[SavingBar]
    advice: str
    frames: int
    free_mb: float | None


def saving_bars(brief: Brief, iso: float) -> SavingBars:
    """The cost bars of a brief at the ISO it is shot at."""
    best, pixels = advise(situation_of(brief)), pixel_advice(brief, iso)
    count, free_mb = frames_in_all(brief), brief[SAVING].free_mb
    bars = []
    for mode in brief.lens.modes:
        at = brief.asking(MODE, mode.id)
        packed = is_packed(at)
        for file_format in FORMATS:
            if file_format != "processed" and mode.files.raw_mb is None:
                continue
            frame_mb = mode.files.frame_mb(file_format, packed=packed)
            fits = None if free_mb is None else mode.files.fits(file_format, free_mb, packed=packed)
            bars.append(
                SavingBar(
                    mode=mode.id,
                    mode_name=mode.name,
                    format=file_format,
                    name=sentence_case(SPOKEN[file_format]),
                    frame_mb=frame_mb,
                    all_mb=frame_mb * count,
                    fps=mode.files.fps(file_format),
                    burst=mode.files.burst(file_format),
                    fits=fits,
                    print_200_cm=print_cm(mode, 200),
                    print_300_cm=print_cm(mode, 300),
                    chosen=mode.id == brief.mode.id and file_format == brief[FORMAT],
                    advised=mode.id == pixels.mode.id and file_format == best.file_format,
                )
            )
    return SavingBars(
        bars=bars,
        advice=f"{SPOKEN[best.file_format]}. {best.reason}",
        frames=count,
        free_mb=free_mb,
    )
