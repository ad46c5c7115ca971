"""The exposure: ISO and shutter together, under every limit at once."""

from __future__ import annotations

from collections.abc import Mapping

from oxlen.core.decisions.exposure.ask import (
    ASKS,
    EXPOSURE_PART,
    LENS_FILTERS,
    MOTION,
    SUPPORT,
    SUPPORT_WORDS,
    glass_stops,
)
from oxlen.core.decisions.exposure.faults import accepted_faults
from oxlen.core.decisions.exposure.limits.caps import ISO_CAP, ISO_FIXED
from oxlen.core.decisions.exposure.limits.device import ISO_RANGE, SHUTTER_RANGE
from oxlen.core.decisions.exposure.limits.drawing import DRAWN
from oxlen.core.decisions.exposure.limits.flicker import FLICKER
from oxlen.core.decisions.exposure.limits.freeze import FREEZE
from oxlen.core.decisions.exposure.limits.highlights import HIGHLIGHTS
from oxlen.core.decisions.exposure.limits.hold import HOLD_STILL
from oxlen.core.decisions.exposure.limits.noise import NOISE, NOISE_DARK
from oxlen.core.decisions.exposure.limits.show import SHOW
from oxlen.core.decisions.exposure.limits.stars import STARS
from oxlen.core.decisions.exposure.limits.tones import TONE, WHOLE
from oxlen.core.decisions.exposure.limits.travel import TRAVELLING
from oxlen.core.decisions.exposure.offers import exposure_offers
from oxlen.core.decisions.exposure.slip_doubt import slip_doubt
from oxlen.core.decisions.exposure.words.slip import iso_reason, shutter_reason
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.framework.decision import Decision
from oxlen.core.decisions.framework.dial import Dial
from oxlen.core.decisions.framework.limit import ISO, SHUTTER
from oxlen.core.decisions.framework.setting import Setting
from oxlen.core.decisions.upstream import Upstream
from oxlen.core.labels import listed, sentence_case, shutter_label, stops_label

FOLLOW = "pan"
LIMIT_KINDS = (
    SHUTTER_RANGE,
    ISO_RANGE,
    HOLD_STILL,
    FREEZE,
    TRAVELLING,
    SHOW,
    STARS,
    DRAWN,
    FLICKER,
    ISO_CAP,
    ISO_FIXED,
    NOISE,
    NOISE_DARK,
    HIGHLIGHTS,
    TONE,
    WHOLE,
)


def decide(_brief: Brief, upstream: Upstream) -> tuple[Setting, ...]:
    """ISO before shutter: it comes off auto first, or the phone quietly undoes the shutter."""
    solution, slip = upstream.solution, upstream.solution.slip
    if slip is None:
        return set_up(solution.search.brief)
    inputs: Mapping[str, float | str] = {"N": slip.f_number, "t": slip.shutter_s, "iso": slip.iso}
    iso, shutter = iso_reason(solution, slip), shutter_reason(solution, slip)
    doubt = slip_doubt(solution.search, (iso.because, shutter.because))
    return (
        *set_up(solution.search.brief),
        Setting(
            ISO,
            "ISO",
            slip.iso,
            label=f"{slip.iso:g}",
            unit="",
            reason=iso.text,
            because=iso.because,
            formula="ev100",
            inputs=inputs,
            on_map=True,
        ),
        Setting(
            SHUTTER,
            "Shutter",
            slip.shutter_s,
            label=shutter_label(slip.shutter_s),
            unit="s",
            reason=shutter.text,
            because=shutter.because,
            plus_minus=doubt.plus_minus_stops,
            why_plus_minus=doubt.why,
            formula="ev100",
            inputs=inputs,
            on_map=True,
        ),
    )


def set_up(brief: Brief) -> tuple[Setting, ...]:
    """What is done to the phone before anything is dialled: what holds it, filters, a pan."""
    found = [_held(brief), _worn(brief), _followed(brief)]
    return tuple(setting for setting in found if setting is not None)


def _held(brief: Brief) -> Setting | None:
    support = brief[SUPPORT]
    if support == "handheld":
        return None
    reason = "Brace it on something firm"
    if support == "tripod":
        reason = "Use the self-timer or a remote"
    return _line(SUPPORT.name, "Support", sentence_case(SUPPORT_WORDS[support]), reason=reason)


def _worn(brief: Brief) -> Setting | None:
    worn = brief[LENS_FILTERS]
    if not worn:
        return None
    names = listed([lens_filter.name for lens_filter in worn])
    reason = f"{stops_label(glass_stops(brief))} darker. Focus and compose first"
    return _line(LENS_FILTERS.name, "Filter", names, reason=reason)


def _followed(brief: Brief) -> Setting | None:
    panned = [motion.spoken for motion in brief[MOTION] if motion.pan is not None]
    if not panned:
        return None
    reason = "Pan before, during and after the shot"
    return _line(FOLLOW, "Follow", sentence_case(listed(panned)), reason=reason)


def _line(name: str, title: str, label: str, *, reason: str) -> Setting:
    return Setting(name, title, label, label=label, unit="", reason=reason, because=name)


DECISION = Decision(
    "exposure",
    ASKS,
    decide,
    limit_kinds=LIMIT_KINDS,
    offers=exposure_offers,
    accepted=accepted_faults,
    dials=(
        Dial(SUPPORT.name, has_own_step=True),
        Dial(LENS_FILTERS.name, has_own_step=True),
        Dial(FOLLOW, "Follow"),
        Dial(
            ISO,
            "Turn auto ISO off, or it overrides the shutter",
            sets_light=True,
            steps=lambda brief: brief.mode.manual.iso,
        ),
        Dial(
            SHUTTER,
            "Shutter",
            sets_light=True,
            steps=lambda brief: brief.mode.manual.shutter_s,
            label=shutter_label,
        ),
    ),
    series_part=EXPOSURE_PART,
    locked=(SUPPORT, LENS_FILTERS),
)
