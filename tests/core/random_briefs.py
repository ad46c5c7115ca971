"""Random briefs from a seed: every wish, every strategy, both phones."""

from collections.abc import Callable, Sequence
from typing import Any

import numpy as np

from oxlen.core.colour.usual_light import USUAL_LIGHTS
from oxlen.core.decisions.colour.ask import LIGHT_COLOUR, LightColour
from oxlen.core.decisions.exposure.ask import EXPOSURE_AIMS, ISO_STRATEGIES, Hold, Strategy
from oxlen.core.decisions.exposure.motion_ask import FrozenMotion
from oxlen.core.decisions.focus.ask import FOCUS, Focus
from oxlen.core.decisions.framework.brief import ROLES, Brief, PlacedReading
from oxlen.core.decisions.lens.ask import Framing
from oxlen.core.decisions.sequence.ask import Frames
from oxlen.core.hold.hand import SUPPORTS
from oxlen.core.kit.clip_on import ClipOn
from oxlen.core.kit.lens_filter import LensFilter
from oxlen.core.motion.looks import LOOKS
from oxlen.core.motion.presets import MOVERS
from oxlen.core.motion.sharpness import SHARP_BY
from oxlen.core.motion.subject import Mover
from oxlen.formats.phone.shipped import shipped_profile
from tests.core.asking import ask_brief, ask_freeze, ask_lamp, ask_output, ask_show

Pick = Callable[[Sequence[Any]], Any]
Perhaps = Callable[[float, Callable[[], Any]], Any]
PHONES = [shipped_profile("wherry-3").to_phone(), shipped_profile("dabber").to_phone()]


def random_brief(seed: int, lens_id: str | None = "any") -> Brief:
    """A brief that asks for some things and not for others."""
    draw = np.random.default_rng(seed)

    def pick(options: Sequence[Any]) -> Any:
        return options[int(draw.integers(len(options)))]

    def perhaps(share: float, make: Callable[[], Any]) -> Any:
        return make() if draw.random() < share else None

    phone = PHONES[0] if draw.random() < 0.8 else PHONES[1]
    light = draw.uniform(-6, 16)
    readings = [PlacedReading("subject", light, perhaps(0.5, lambda: draw.uniform(-3, 2)))]
    for _ in range(int(draw.integers(0, 3))):
        readings.append(PlacedReading(pick(ROLES), light + draw.uniform(-5, 5)))
    strategy = Strategy(
        perhaps(0.7, lambda: pick(list(ISO_STRATEGIES))),
        perhaps(0.2, lambda: float(pick([100, 400, 1600]))),
        pick(list(EXPOSURE_AIMS)),
        perhaps(0.15, lambda: float(2.0 ** draw.uniform(-10, 4))),
    )
    freeze = perhaps(0.35, lambda: (_freeze(draw, pick, perhaps),)) or ()
    show = perhaps(0.25, lambda: (ask_show("it", _mover(draw, pick), pick(LOOKS)),)) or ()
    rate = float(pick([100, 120, 480]))
    made = ask_brief(
        phone,
        lens_id,
        None,
        pick(SUPPORTS),
        tuple(readings),
        strategy,
        pick(["processed", "raw", "both"]),
        light + draw.uniform(-2, 2),
        Hold(int(pick([1, 1, 1, 5])), risk_stops=float(pick([0, 0, 1]))),
        freeze,
        show,
        perhaps(0.25, lambda: ask_lamp(rate, "a lamp")),
        ask_output(snr_floor=perhaps(0.5, lambda: float(pick([3, 10, 40])))),
        perhaps(0.2, lambda: (LensFilter("ND", float(pick([4, 64, 1000]))),)) or (),
        (LensFilter("ND 64", 64.0), LensFilter("ND 1000", 1000.0)),
        Frames(int(pick([1, 1, 1, 8]))),
        perhaps(0.4, lambda: Framing(float(draw.uniform(1, 10)), 10.0, background_size_m=5.0)),
    )
    # Drawn last, so that the briefs are otherwise those they were.
    near = perhaps(0.15, lambda: float(draw.uniform(0.06, 0.4)))
    worn = perhaps(0.2, lambda: ClipOn("close-up", 10.0, ""))
    light = perhaps(0.5, lambda: pick(USUAL_LIGHTS).id)
    made = made.asking(LIGHT_COLOUR, LightColour(usual=light))
    return made.asking(FOCUS, Focus(distance_m=near, clip_on=worn if near else None))


def _mover(draw: np.random.Generator, pick: Pick) -> Mover:
    usual = pick(MOVERS)
    angle = float(pick([90, 90, 60, 20]))
    distance = usual.distance_m * 2.0 ** draw.uniform(-1, 1)
    return Mover(usual.speed_m_s, distance, angle)


def _freeze(draw: np.random.Generator, pick: Pick, perhaps: Perhaps) -> FrozenMotion:
    mover = _mover(draw, pick)
    if draw.random() < 0.15:
        mover = Mover(mover.speed_m_s, mover.distance_m, 0.0)
    return ask_freeze("it", mover, pick(SHARP_BY), pan_residual_share=perhaps(0.2, lambda: 0.06))
