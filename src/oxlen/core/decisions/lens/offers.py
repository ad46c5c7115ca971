"""Ways out through another lens, or another mode of the same lens."""

from __future__ import annotations

from collections.abc import Iterator

from oxlen.core.decisions.framework.offer import Offer, Tier
from oxlen.core.decisions.lens.ask import MODE
from oxlen.core.decisions.lens.moving import on_lens
from oxlen.core.decisions.solver.conflict import Conflict
from oxlen.core.decisions.solver.search import Search


def lens_offers(search: Search, _: Conflict | None) -> Iterator[Offer]:
    """The phone's other lenses, and the lens's other modes."""
    brief = search.brief
    for lens in brief.phone.lenses:
        if lens.id != brief.lens.id:
            text = f"Use the {lens.name} lens"
            seen = f"f/{lens.f_number:g}, {lens.focal35_mm:g} mm"
            cost = f"{seen}, with another distance or framing"
            other = on_lens(brief, lens.id)
            yield Offer(f"lens-{lens.id}", text, cost, brief=other, tier=Tier.OTHER_LENS)
    for mode in brief.lens.modes:
        if mode.id != brief.mode.id:
            text = f"Use the mode “{mode.name}”"
            megapixels = mode.width_px * mode.height_px / 1e6
            cost = f"{megapixels:.0f} MP files, pixels of {mode.pixel_pitch_um:g} µm"
            other = brief.asking(MODE, mode.id)
            yield Offer(
                f"mode-{mode.id}", text, cost, brief=other, tier=Tier.OTHER_LENS, changes_file=True
            )
