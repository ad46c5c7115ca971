"""The lens: the one asked for, or the one that ranks first; its aperture is fixed with it."""

from __future__ import annotations

from oxlen.core.decisions.exposure.ask import EXPOSURE_PART
from oxlen.core.decisions.focus.target import focus_short_dioptres
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.framework.decision import Decision
from oxlen.core.decisions.framework.dial import Dial
from oxlen.core.decisions.framework.setting import Setting
from oxlen.core.decisions.lens.ask import ANY_LENS, FRAMING, LENS, MODE
from oxlen.core.decisions.lens.comparison import on_best_lens
from oxlen.core.decisions.lens.offers import lens_offers
from oxlen.core.decisions.solver.search import Kinds
from oxlen.core.decisions.upstream import Upstream
from oxlen.core.labels import listed


def fill(brief: Brief, kinds: Kinds) -> Brief:
    """The brief on the lens that ranks first, where any will do."""
    return on_best_lens(brief, kinds) if brief[LENS] == ANY_LENS else brief


def decide(brief: Brief, upstream: Upstream) -> tuple[Setting, ...]:
    """The lens in use and how it came to be the one."""
    lens = upstream.solution.search.brief.lens
    chosen = "Your choice" if brief[LENS] else "The phone's first lens"
    reason = f"{chosen}. Fixed aperture f/{lens.f_number:g}"
    if brief[LENS] == ANY_LENS:
        reason = "Best lens of this phone"
        if _focuses_where_another_cannot(upstream.solution.search.brief):
            reason = "Best of the lenses that focus this close"
    crop = lens.focal35_mm / lens.focal_mm
    inputs = {"f": lens.focal_mm, "N": lens.f_number, "crop": crop}
    return (
        Setting(
            LENS.name,
            "Lens",
            lens.id,
            label=lens.name,
            unit="",
            reason=reason,
            because=LENS.name,
            formula="equivalence",
            inputs=inputs,
            notes=_assumed_notes(upstream.solution.search.brief),
        ),
    )


def _assumed_notes(brief: Brief) -> tuple[str, ...]:
    """Which figures of this phone nobody has measured: listed once, here."""
    assumed = [doubt for doubt in (*brief.lens.doubts, *brief.mode.doubts) if doubt.is_assumed]
    if not assumed:
        return ()
    names = listed([figure_doubt.name for figure_doubt in assumed])
    return (f"Assumed for this phone, not measured: {names}. See the kit to measure.",)


def _focuses_where_another_cannot(brief: Brief) -> bool:
    others = [
        brief.asking(LENS, lens.id) for lens in brief.phone.lenses if lens.id != brief.lens.id
    ]
    if focus_short_dioptres(brief):
        return False
    return any(focus_short_dioptres(other) > 0 for other in others)


DECISION = Decision(
    "lens",
    (LENS, MODE, FRAMING),
    decide,
    offers=lens_offers,
    fill=fill,
    instrument="lens",
    dials=(Dial(LENS.name, has_own_step=True),),
    series_part=EXPOSURE_PART,
    locked=(LENS, MODE),
)
