"""The ways a scene can be kept on one lens, and what each holds at the output's size."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace

from oxlen.core.decisions.exposure.ask import FORMAT, OUTPUT
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.lens.ask import MODE
from oxlen.core.decisions.sequence.ask import FRAMES
from oxlen.core.decisions.solver.frontier import figures_of_steps
from oxlen.core.decisions.solver.search import Search
from oxlen.core.focus.defocus import airy_um
from oxlen.core.kit.phone import Mode
from oxlen.core.kit.phone_words import FileFormat


@dataclass(frozen=True)
class Rendition:
    """A file of one mode, of `frames` the phone merges by itself."""

    mode: Mode
    file_format: FileFormat
    name: str
    frames: int = 1

    @property
    def is_raw(self) -> bool:
        """Whether it is developed, or is finished by the phone."""
        return self.file_format == "raw"


@dataclass(frozen=True)
class RenditionFigures:
    """SNR of subject and darkest detail at the output's size, and detail across in pixels.

    `detail_px` is how many lines' width the lens and the pixels tell apart; the output shows no
    more than its own `output_px`.
    """

    snr_subject: float
    snr_dark: float | None
    detail_px: int
    output_px: int


def renditions(brief: Brief) -> Iterator[Rendition]:
    """Every file the brief's lens can write, mode by mode: processed, RAW, merged RAW."""
    for mode in brief.lens.modes:
        yield Rendition(mode, "processed", "Processed")
        if mode.files.raw_mb is not None:
            yield Rendition(mode, "raw", "RAW")
    first = brief.lens.modes[0]
    for computed in brief.phone.computed:
        if computed.kind == "merged" and brief.lens.id in computed.lenses:
            yield Rendition(first, computed.writes, computed.name, frames=computed.frames or 1)


def rendition_figures(
    search: Search, rendition: Rendition, *, iso: float, shutter_s: float
) -> RenditionFigures:
    """What a file holds of what was searched for, at an ISO and shutter."""
    brief = search.brief
    at = brief.asking(MODE, rendition.mode.id).asking(FORMAT, rendition.file_format)
    if rendition.frames > 1:
        merged = replace(brief[FRAMES], count=rendition.frames, combine="average", gap_s=0.0)
        at = at.asking(FRAMES, merged)
    found = figures_of_steps(search.again(at), iso, shutter_s)
    output_px = round(max(brief[OUTPUT].size_px))
    return RenditionFigures(
        found.snr_subject, found.snr_dark, detail_across_px(at), output_px=output_px
    )


def detail_across_px(brief: Brief) -> int:
    """Lines resolved across the frame: one a pixel, or one an Airy radius. [RAY2002]"""
    detail_um = max(brief.mode.pixel_pitch_um, airy_um(brief.lens.f_number) / 2)
    return round(1000 * brief.mode.sensor_mm[0] / detail_um)
