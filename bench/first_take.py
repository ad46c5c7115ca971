"""First takes on the bench: Oxlen's slip against the phone's own auto, over varied scenes.

`python -m bench.first_take [SEED] [COUNT]`. Light, the speed and distance of what moves vary. The
planner knows what a photographer would enter, and nothing of the judge's tolerances: it meters the
picture the phone took on auto, and is given which spots matter by the tones of its own list, what
moves at its usual speed, which lamps there are, and what the situation's own questions begin with
(a tripod for water, stars and the shop; RAW for stars). Auto has the same support.
"""

from __future__ import annotations

import sys
import tempfile
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass, replace
from pathlib import Path

import numpy as np
from tests.core.asking import ask_brief, ask_freeze, ask_lamp, ask_output, ask_show

from bench.harness.measure import Figure, Figures
from oxlen.core.decisions.colour.ask import LIGHT_COLOUR, LightColour, LitBy
from oxlen.core.decisions.colour.decision import white_choice
from oxlen.core.decisions.dialled import dials_of
from oxlen.core.decisions.exposure.ask import (
    FORMAT,
    STRATEGY,
    SUPPORT,
    ExposureAim,
    Strategy,
    glass_stops,
)
from oxlen.core.decisions.focus.ask import FOCUS, Focus
from oxlen.core.decisions.framework.brief import Brief, PlacedReading, SceneTones
from oxlen.core.decisions.plan import Plan, plan
from oxlen.core.hold.hand import Support
from oxlen.core.kit.lens_filter import LensFilter
from oxlen.core.kit.phone_words import FileFormat
from oxlen.core.light.meter import Spot, Tones
from oxlen.core.light.patterns import frame_light
from oxlen.core.light.placement import TONE_PLACES
from oxlen.core.motion.looks import look_of
from oxlen.core.motion.subject import Mover
from oxlen.core.review.acceptance import JudgedTake, failings
from oxlen.core.simulate.exposing import CaptureSettings
from oxlen.core.simulate.scene import Scene
from oxlen.core.simulate.tapping import focus_on_m
from oxlen.core.simulate.variation import varied
from oxlen.devices.standins.bench_phone import BenchPhone, Shot
from oxlen.formats.phone.shipped import shipped_profile
from oxlen.formats.scene_file import SceneFile, ToneWanted, scene_ids, scene_truth, shipped_scene
from oxlen.formats.sheet.situations import sheet_of, situation
from oxlen.pictures.opening import open_picture
from oxlen.pictures.reading import PictureReading, read_picture

PROFILE = shipped_profile("wherry-3")
SITUATIONS = {
    "bronze-bench": "small",
    "dinghy-passing": "moving",
    "lantern-evening": "night-lamps",
    "sluice": "water",
    "stars-over-slip": "stars",
    "tarred-shed": "window-light",
    "varnish-tins": "product",
    "white-hull-sun": "bright-ground",
    "yard-overcast": "grey-day",
}
"""The situation a photographer begins each scene with; its defaults for support and format hold."""
NAMED = {tone.id: tone.stops for tone in TONE_PLACES}
TONES = {
    "grey card": 0.0,
    "lit boards": -1.0,
    "sailcloth": NAMED["paper"],
    "sky between stars": NAMED["night-sky"],
    "sunlit paint": NAMED["paper"],
    "tarred planks": NAMED["deep-wood"],
    "white sweep": NAMED["paper"],
}
"""Where a photographer places what is metered, mostly by the named tones; the rest by its role."""
KIT = (LensFilter("Polariser", 2.8), LensFilter("ND 64", 64.0), LensFilter("ND 1000", 1000.0))
LIGHT_STOPS, SPEED_STOPS, DISTANCE_STOPS = 1.0, 0.35, 0.3
FOCUS_OFF_D = 0.05
"""How far a phone's own focus stops from what was tapped, in dioptres, usually."""
COLOURS: dict[str, LightColour] = {
    "bronze-bench": LightColour(lamps=(LitBy("Bench panel", 4000.0, duv=0.001, cri=92.0),)),
    "dinghy-passing": LightColour(usual="sun"),
    "lantern-evening": LightColour(usual="lantern"),
    "sluice": LightColour(usual="overcast"),
    "stars-over-slip": LightColour(usual="night-sky"),
    "tarred-shed": LightColour(usual="window"),
    "varnish-tins": LightColour(lamps=(LitBy("Box panels", 5000.0, cri=95.0),)),
    "white-hull-sun": LightColour(usual="sun"),
    "yard-overcast": LightColour(usual="overcast"),
}
"""What a user says of the light: the lamps of the kit, or what usually lights such a scene."""
HELD = {
    "sluice": ToneWanted(
        name="white sky", x=0.84, y=0.06, r=0.03, role="keep-bright", low=0.0, high=0.0
    )
}
"""Bright detail a photographer marks besides what the judge looks at; no tone is asked of it."""
NIGHT_SHUTTER_S, SEEN_STOPS = 10.0, 0.5


@dataclass(frozen=True)
class Metered:
    """A spot's light, and how far its strongest colour is above it (stops)."""

    ev100: float
    channel_stops: float


@dataclass(frozen=True)
class Result:
    """One variation: what each way of taking it lacked."""

    scene_id: str
    ours: list[str]
    auto: list[str]


def results(seed: int, count: int) -> Iterator[Result]:
    """`count` variations of every scene."""
    draw = np.random.default_rng(seed)
    for scene_id in scene_ids():
        truth, scene = scene_truth(scene_id), shipped_scene(scene_id)
        for index in range(count):
            other = varied(
                scene,
                light=2.0 ** draw.uniform(-LIGHT_STOPS, LIGHT_STOPS),
                speed=2.0 ** draw.uniform(-SPEED_STOPS, SPEED_STOPS),
                distance=2.0 ** draw.uniform(-DISTANCE_STOPS, DISTANCE_STOPS),
            )
            yield _one(truth, other, seed=1000 * seed + index)


def _one(truth: SceneFile, scene: Scene, *, seed: int) -> Result:
    phone = _phone(truth, seed)
    support = _begun(truth.id).support
    auto = phone.auto_settings(scene, support)
    ours, is_raw = _planned(truth, scene, phone, support=support)
    return Result(
        truth.id,
        _judged(truth, scene, phone, settings=ours, is_raw=is_raw),
        _judged(truth, scene, phone, settings=auto, is_raw=False),
    )


def _begun(scene_id: str) -> Begun:
    """What a scene's situation begins with."""
    body = sheet_of(situation(SITUATIONS[scene_id]), {}, phone=PROFILE.id).asked()
    return Begun(body[SUPPORT.name], body[FORMAT.name], body[STRATEGY.name].exposure)


@dataclass(frozen=True)
class Begun:
    """The support, the file format, and what sets the exposure."""

    support: Support
    file_format: FileFormat
    exposure: ExposureAim


def _marked(truth: SceneFile) -> list[ToneWanted]:
    """The spots a photographer marks."""
    held = HELD.get(truth.id)
    return [*truth.acceptance.tones, *([] if held is None else [held])]


def _phone(truth: SceneFile, seed: int) -> BenchPhone:
    lens = PROFILE.to_phone().lens("main" if truth.hfov_deg > 40 else "long")
    return BenchPhone(PROFILE, lens, lens.modes[0], seed=seed)


def _judged(
    truth: SceneFile, scene: Scene, phone: BenchPhone, *, settings: CaptureSettings, is_raw: bool
) -> list[str]:
    taken = JudgedTake(scene, phone.expose(scene, settings), phone.seed, is_raw=is_raw)
    return [f"{failing.demand}: {failing.words}" for failing in failings(truth.acceptance, taken)]


def _planned(
    truth: SceneFile, scene: Scene, phone: BenchPhone, *, support: Support
) -> tuple[CaptureSettings, bool]:
    """What a user of Oxlen would dial in after metering one picture taken on auto; whether RAW."""
    metered, tones = _readings(truth, scene, phone)
    brief = _brief(truth, phone, support, readings=metered, tones=tones)
    decision = plan(brief, ask=True)
    if decision.conflict is not None or _is_plainly_off(decision):
        brief, decision = _first_way_out(brief, decision)
    slip = decision.slip or (decision.compromise.slip if decision.compromise else None)
    assert slip is not None
    focus = _tapped_m(truth, scene, phone)
    dials = dials_of(() if decision.dialled is None else decision.dialled.settings)
    glass = glass_stops(decision.brief)
    shot = Shot(
        slip.iso,
        slip.shutter_s,
        focus,
        support=decision.brief[SUPPORT],
        pan_with=None,
        glass_stops=glass,
        **vars(dials),
    )
    return phone.settings_for(scene, shot), decision.brief[FORMAT] != "processed"


def _tapped_m(truth: SceneFile, scene: Scene, phone: BenchPhone) -> float:
    """The distance at which the phone's own focus stops when what must be sharp is tapped.

    A little off each time, as it is on real phones.
    """
    wanted = next((t for t in truth.acceptance.tones if t.role in ("subject", "neutral")), None)
    tapped = truth.acceptance.sharp[0] if truth.acceptance.sharp else wanted
    x, y = (tapped.x, tapped.y) if tapped else (0.5, 0.5)
    there_m = focus_on_m(scene, phone.lens, phone.mode, x=x, y=y)
    off = np.random.default_rng(phone.seed + 7).normal(0, FOCUS_OFF_D)
    return float(1 / max(1 / there_m + off, 1e-5))


def _is_plainly_off(decision: Plan) -> bool:
    """Whether the slip itself says that a tone will be half a stop off or more."""
    return any(abs(spot.misses_stops) >= SEEN_STOPS for spot in decision.outcome)


def _first_way_out(brief: Brief, decision: Plan) -> tuple[Brief, Plan]:
    """The way out a photographer with the yard's kit takes: the first that needs one frame.

    A slip that only misses a tone by a little is shot as it is, unless RAW, or else a filter at
    hand, mends it.
    """
    here = [trade for trade in decision.trades if not (trade.outside or trade.exposures)]
    fitting = [
        other_trade
        for other_trade in here
        if {"hour", "light"}.isdisjoint(other_trade.id.split("+"))
    ]
    if decision.slip is not None:
        raw = [other_trade for other_trade in fitting if other_trade.id == "raw"]
        fitting = raw or [
            other_trade
            for other_trade in fitting
            if other_trade.id == "nd" and "in your kit" in other_trade.cost
        ]
    if not fitting:
        return brief, decision
    return fitting[0].brief, plan(fitting[0].brief)


def _readings(
    truth: SceneFile, scene: Scene, phone: BenchPhone
) -> tuple[dict[str, Metered], SceneTones | None]:
    """Light of each wanted spot and of the frame, metered from a file the phone took on auto."""
    # White balance is set first, so that no colour clips later that did not when it was metered.
    asked = {LIGHT_COLOUR.name: COLOURS[truth.id]}
    white = white_choice(Brief(phone.profile.to_phone(), asked=asked))
    auto = phone.auto_settings(scene, "tripod")
    if white.dialled is not None:
        auto = replace(auto, white_k=white.dialled.dial_k)
    kind: FileFormat = "raw" if _begun(truth.id).file_format == "raw" else "processed"
    take = phone.take(scene, auto, kind, taken_at="2026:10:03 12:00:00")
    spots = [Spot(t.name, t.x, t.y, r=min(t.r, 0.5)) for t in _marked(truth)]
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / ("take.dng" if take.dng else "take.jpg")
        path.write_bytes(take.dng or take.jpeg or b"")
        found = read_picture(path, spots=spots)
        with open_picture(path, path.name) as picture:
            tones = _tones(found, picture.pixels.sample(strongest=True))
    return {
        spot.spot.name: Metered(spot.ev100, spot.tone.channel_stops)
        for spot in found.spots
        if spot.ev100 is not None and spot.tone is not None
    }, tones


def _tones(found: PictureReading, sampled: Tones) -> SceneTones | None:
    """The frame's tones in EV100, as a sheet has them."""
    mid, width = found.ev100_of(0.0), sampled.row_length or 1
    if mid is None or found.frame is None:
        return None
    strongest = sampled.luminance if sampled.strongest is None else sampled.strongest
    light = frame_light(sampled.luminance.reshape(-1, width), strongest.reshape(-1, width))
    edges = tuple((light.edges_stops + mid).tolist())
    return SceneTones(edges, tuple(light.shares.tolist()), found.frame.clipped_share)


def _placed(tone: ToneWanted, metered: Metered) -> PlacedReading:
    """A reading as a photographer places it: by its name, or as its role has it."""
    place = TONES.get(tone.name)
    channel = metered.channel_stops
    return PlacedReading(tone.role, metered.ev100, place, name=tone.name, channel_stops=channel)


def _brief(
    truth: SceneFile,
    phone: BenchPhone,
    support: Support,
    *,
    readings: dict[str, Metered],
    tones: SceneTones | None = None,
) -> Brief:
    wanted = truth.acceptance
    placed = tuple(_placed(t, readings[t.name]) for t in _marked(truth) if t.name in readings)
    nominal = {mover.name: mover for mover in truth.movers}

    def mover(name: str) -> Mover:
        reported = nominal[name]
        return Mover(reported.speed_m_s, reported.distance_m, reported.direction_deg)

    pulsing = next((lamp for lamp in truth.lamps if lamp.pulse_hz), None)
    flicker = ask_lamp(pulsing.pulse_hz, pulsing.name) if pulsing and pulsing.pulse_hz else None
    stars_far = Focus(strategy="by_hand") if wanted.stars_max_trail_px else Focus()
    stars = NIGHT_SHUTTER_S if wanted.stars_max_trail_px else None
    return (
        ask_brief(
            phone.profile.to_phone(),
            phone.lens.id,
            support=support,
            readings=placed,
            tones=tones,
            strategy=Strategy(exposure=_begun(truth.id).exposure, shutter_s=stars),
            file_format=_begun(truth.id).file_format,
            freeze=tuple(ask_freeze(f.mover, mover(f.mover), "output") for f in wanted.freeze),
            show=tuple(
                ask_show(s.mover, mover(s.mover), look_of("texture")) for s in wanted.streak
            ),
            flicker=flicker,
            output=ask_output(960, 720, None if stars else 10.0),
            glass_at_hand=KIT,
        )
        .asking(LIGHT_COLOUR, COLOURS[truth.id])
        .asking(FOCUS, stars_far)
    )


def main() -> int:
    """Print both shares and why the others failed."""
    seed = int(sys.argv[1]) if len(sys.argv) > 1 else 1
    count = int(sys.argv[2]) if len(sys.argv) > 2 else 12
    found = list(results(seed, count))
    ours, auto = (sum(not getattr(r, way) for r in found) / len(found) for way in ("ours", "auto"))
    print(f"first takes that meet the whole acceptance, {len(found)} variations, seed {seed}")
    print(f"  Oxlen's slip {ours:.0%}    the phone's auto {auto:.0%}")
    for way in ("ours", "auto"):
        print(f"  what {'Oxlen' if way == 'ours' else 'auto'} lacked:")
        counted = Counter(
            (r.scene_id, words.split(":")[0]) for r in found for words in getattr(r, way)
        )
        for (scene_id, demand), times in counted.most_common(20):
            example = next(
                w
                for r in found
                if r.scene_id == scene_id
                for w in getattr(r, way)
                if w.startswith(demand)
            )
            print(f"    {times:3d} × {scene_id}: {example}")
    return 0


def figures() -> Figures:
    """For `./oxlen bench`: the share of first takes that fail, against the aim."""
    found = list(results(1, 6))
    ours = sum(bool(r.ours) for r in found) / len(found)
    auto = sum(bool(r.auto) for r in found) / len(found)
    yield Figure("first-take/fail-%", 100 * ours, note=f"auto's own: {100 * auto:.0f} %")


if __name__ == "__main__":
    sys.exit(main())
