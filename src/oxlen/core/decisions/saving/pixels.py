"""How many pixels to save: what the output needs against what each mode of the lens costs."""

from __future__ import annotations

from dataclasses import dataclass

from oxlen.core.decisions.exposure.ask import MOTION, OUTPUT, SUPPORT
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.kit.phone import Mode
from oxlen.core.labels import two_digits

NEARLY = 0.9
"""A mode that has this share of the pixels an output needs is enough for it."""
INCH_CM = 2.54
DPI = (200, 300)


@dataclass(frozen=True)
class PixelAdvice:
    """The mode to save in, and why; `differs` where it is another than the one in use."""

    mode: Mode
    reason: str
    differs: bool


def pixel_advice(brief: Brief, iso: float) -> PixelAdvice:
    """The fewest pixels that are enough for the output, more only where they can be had sharp."""
    output, modes = brief[OUTPUT], sorted(brief.lens.modes, key=lambda mode: mode.megapixels)
    needed = output.pixels if output.use or output.width_px else modes[0].megapixels * 1e6
    enough = [mode for mode in modes if mode.megapixels * 1e6 >= NEARLY * needed]
    best = enough[0] if enough else modes[-1]
    why_not = _why_not_more(brief, best, iso)
    if best is not modes[0] and why_not:
        best, reason = modes[0], why_not
    else:
        reason = _reason(needed, is_enough=bool(enough))
    return PixelAdvice(best, reason, differs=best.id != brief.mode.id)


def _reason(needed_px: float, *, is_enough: bool) -> str:
    needs = two_digits(needed_px / 1e6)
    if not is_enough:
        return f"it needs {needs} MP, more than this lens has"
    return f"it needs {needs} MP"


def _why_not_more(brief: Brief, mode: Mode, iso: float) -> str:
    """Why a mode of more pixels would not show more; empty where it would."""
    first = min(brief.lens.modes, key=lambda mode: mode.megapixels)
    if mode is first:
        return ""
    if brief[MOTION]:
        return "more pixels save too slowly for motion"
    if brief[SUPPORT] == "handheld":
        return "handheld, more pixels show only shake"
    if iso not in mode.manual.iso or iso > 4 * mode.sensor.base_iso:
        return f"at ISO {iso:g} more pixels show only more noise"
    return ""


def print_cm(mode: Mode, dpi: int) -> tuple[float, float]:
    """Width and height (cm) of a print at so many dots an inch."""
    return mode.width_px / dpi * INCH_CM, mode.height_px / dpi * INCH_CM
