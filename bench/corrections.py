"""From a wrong reading to a good picture: how many corrections it takes.

`python -m bench.corrections [COUNT]`. Every case plans a scene with one thing read wrongly (the
light by up to three stops, the lamp, a distance), shoots it, holds the take against the plan, and
takes the one change that is offered, twice over.
"""

from __future__ import annotations

import sys
import tempfile
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass, replace
from pathlib import Path

import numpy as np

from bench.first_take import (
    _brief,
    _first_way_out,
    _judged,
    _phone,
    _readings,
    _tapped_m,
)
from bench.harness.measure import Figure, Figures
from oxlen.core.decisions.colour.ask import LIGHT_COLOUR, LightColour, LitBy
from oxlen.core.decisions.dialled import dials_of
from oxlen.core.decisions.exposure.ask import FORMAT, MOTION, STRATEGY, SUPPORT, glass_stops
from oxlen.core.decisions.focus.ask import FOCUS
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.plan import Plan, plan
from oxlen.core.hold.hand import Support
from oxlen.core.kit.phone_words import FileFormat
from oxlen.core.light.meter import Spot
from oxlen.core.review.correction import Shown, corrected
from oxlen.core.simulate.exposing import CaptureSettings
from oxlen.core.simulate.scene import Scene
from oxlen.core.simulate.tapping import focus_on_m
from oxlen.devices.standins.bench_phone import BenchPhone, Shot
from oxlen.formats.plan.writing import plan_file
from oxlen.formats.scene_file import SceneFile, scene_truth, shipped_scene
from oxlen.takes.check_writing import planned_take
from oxlen.takes.checking import (
    CheckedFile,
    check_file,
)

RAW_SCENES = {"bronze-bench", "tarred-shed", "sluice", "stars-over-slip"}
ON_TRIPOD = {"bronze-bench", "varnish-tins", "sluice", "stars-over-slip"}
ANYWHERE_STOPS = 4.0
CASES = 200
KINDS = ("light", "lamp", "distance")
WRONG_STOPS = (0.8, 3.0)
WRONG_MIRED = (45.0, 110.0)
WRONG_DIOPTRES = (0.25, 0.9)
OF_KIND = {
    "light": (
        "white-hull-sun",
        "yard-overcast",
        "bronze-bench",
        "varnish-tins",
        "tarred-shed",
        "sluice",
        "dinghy-passing",
        "lantern-evening",
        "stars-over-slip",
    ),
    "lamp": ("white-hull-sun", "yard-overcast", "varnish-tins"),
    "distance": (
        "white-hull-sun",
        "yard-overcast",
        "bronze-bench",
        "varnish-tins",
        "dinghy-passing",
    ),
}
"""Scenes whose acceptance a wrong reading of each kind can fail."""


@dataclass(frozen=True)
class Case:
    """One wrong reading, and what each take lacked: the first, and those after corrections."""

    scene: str
    kind: str
    lacked: tuple[tuple[str, ...], ...]
    changes: tuple[str, ...]

    def is_good_after(self, corrections: int) -> bool:
        """Whether one of the takes up to so many corrections has all that the scene wants."""
        return any(not lack for lack in self.lacked[: corrections + 1])


def cases(count: int, seed: int = 1) -> Iterator[Case]:
    """Seeded cases, the kinds and their scenes in turn."""
    for index in range(count):
        kind = KINDS[index % len(KINDS)]
        scenes = OF_KIND[kind]
        scene_id = scenes[(index // len(KINDS)) % len(scenes)]
        yield _case(scene_id, kind, seed=1000 * seed + index)


def _case(scene_id: str, kind: str, *, seed: int) -> Case:
    draw = np.random.default_rng(seed)
    truth, scene = scene_truth(scene_id), shipped_scene(scene_id)
    phone = _phone(truth, seed)
    support: Support = "tripod" if scene_id in ON_TRIPOD else "handheld"
    with tempfile.TemporaryDirectory() as folder:
        reference = Path(folder) / "plan.jpg"
        auto = phone.auto_settings(scene, support)
        taken = phone.take(scene, auto, "processed", taken_at="2026:10:03 12:00:00")
        reference.write_bytes(taken.jpeg or b"")
        metered, tones = _readings(truth, scene, phone)
        brief = _brief(truth, phone, support, readings=metered, tones=tones)
        brief = _as_judged(brief, truth)
        brief = _wrong(brief, kind, truth=truth, draw=draw)
        lacked, stated = [], []
        for turn in range(3):
            shot_by = replace(phone, seed=seed + 7 * turn)
            _, decision = _decided(brief)
            settings = _settings(truth, scene, shot_by, decision=decision)
            is_raw = decision.brief[FORMAT] != "processed"
            lacked.append(tuple(_judged(truth, scene, shot_by, settings=settings, is_raw=is_raw)))
            if turn == 2 or not lacked[-1]:
                break
            found, shown = _looked_at(
                truth, shot_by, scene, settings=settings, decision=decision, reference=reference
            )
            blur = found.look.blur and f"{found.look.blur.kind} {found.look.blur.px:.1f}"
            stated.append(f"{found.check.change.what}: {found.check.change.why} [{blur}]")
            brief = corrected(brief, shown)
    return Case(scene_id, kind, tuple(lacked), tuple(stated))


def _as_judged(brief: Brief, truth: SceneFile) -> Brief:
    """The brief of someone who wants just what the judge accepts, and only read something wrongly.

    Otherwise a wish that nobody's slip fulfils would count as a reading that was not mended.
    """
    wanted = {wanted_tone.name: wanted_tone for wanted_tone in truth.acceptance.tones}
    readings = []
    for reading in brief.readings_measured:
        tone = wanted.get(reading.name)
        if tone is None:
            continue
        anywhere = tone.role == "keep-dark" and tone.high - tone.low > ANYWHERE_STOPS
        is_open = tone.role == "keep-bright" or anywhere
        place = None if is_open else (tone.low + tone.high) / 2
        within = None if is_open else (tone.high - tone.low) / 2
        readings.append(replace(reading, place_stops=place, within_stops=within))
    only_dark = all(tone.role == "keep-dark" for tone in truth.acceptance.tones)
    strategy = replace(
        brief[STRATEGY],
        exposure="dark" if only_dark else "centre",
        white_share=truth.acceptance.clipped_share_max,
    )
    asked = brief.asking(STRATEGY, strategy)
    if truth.id in RAW_SCENES:
        asked = asked.asking(FORMAT, "raw")
    return replace(asked, readings_measured=tuple(readings))


def _wrong(brief: Brief, kind: str, *, truth: SceneFile, draw: np.random.Generator) -> Brief:
    """The brief with one thing read wrongly."""
    sign = float(draw.choice((-1.0, 1.0)))
    if kind == "light":
        stops = sign * draw.uniform(*WRONG_STOPS)
        readings = tuple(
            replace(reading, ev100=reading.ev100 + stops) for reading in brief.readings_measured
        )
        tones = None if brief.tones_measured is None else brief.tones_measured.lit(stops)
        return replace(brief, readings_measured=readings, tones_measured=tones)
    if kind == "lamp":
        true_k = truth.lamps[0].cct_k
        mired = 1e6 / true_k + sign * draw.uniform(*WRONG_MIRED)
        wrong = LitBy("as it was taken for", round(1e6 / max(mired, 90.0)))
        return brief.asking(LIGHT_COLOUR, LightColour(lamps=(wrong,)))
    if brief[MOTION]:
        factor = draw.uniform(1.8, 3.0)
        moving = tuple(
            replace(motion, distance_m=float(motion.mover.distance_m) * factor)
            for motion in brief[MOTION]
        )
        return brief.asking(MOTION, moving)
    there = 1 / _true_m(truth, brief)
    wrong_m = 1 / max(there + sign * draw.uniform(*WRONG_DIOPTRES), 0.05)
    return brief.asking(FOCUS, replace(brief[FOCUS], strategy="by_hand", distance_m=wrong_m))


def _true_m(truth: SceneFile, brief: Brief) -> float:
    tapped = truth.acceptance.sharp[0]
    scene = shipped_scene(truth.id)
    return focus_on_m(scene, brief.lens, brief.mode, x=tapped.x, y=tapped.y)


def _decided(brief: Brief) -> tuple[Brief, Plan]:
    decision = plan(brief, ask=True)
    if decision.conflict is not None:
        brief, decision = _first_way_out(brief, decision)
    return brief, decision


def _settings(
    truth: SceneFile, scene: Scene, phone: BenchPhone, *, decision: Plan
) -> CaptureSettings:
    slip = decision.slip or (decision.compromise.slip if decision.compromise else None)
    assert slip is not None
    dials = dials_of(() if decision.dialled is None else decision.dialled.settings)
    shot = Shot(
        slip.iso,
        slip.shutter_s,
        _tapped_m(truth, scene, phone),
        support=decision.brief[SUPPORT],
        glass_stops=glass_stops(decision.brief),
        **vars(dials),
    )
    return phone.settings_for(scene, shot)


def _looked_at(
    truth: SceneFile,
    phone: BenchPhone,
    scene: Scene,
    *,
    settings: CaptureSettings,
    decision: Plan,
    reference: Path,
) -> tuple[CheckedFile, Shown]:
    """The take compared with the plan, and what the correction builds on."""
    written = plan_file(decision)
    spots = [Spot(t.name, t.x, t.y, r=min(t.r, 0.5)) for t in truth.acceptance.tones]
    sharp = [Spot(t.name, t.x, t.y, r=min(t.r, 0.5)) for t in truth.acceptance.sharp]
    against = planned_take(
        written,
        tuple(spots),
        shutter_s=settings.shutter_s,
        by_picture=True,
        frame_px=decision.brief.mode.width_px,
    )
    assert against is not None
    # What must be sharp is where the photographer looks for blur.
    neutral = [Spot(t.name, t.x, t.y, r=min(t.r, 0.5)) for t in truth.acceptance.colour]
    against = replace(
        against,
        sharp_at=sharp[0] if sharp else None,
        neutral=neutral[0] if neutral else None,
    )
    kind: FileFormat = "processed" if decision.brief[FORMAT] == "processed" else "raw"
    taken = phone.take(scene, settings, kind, taken_at="2026:10:03 12:05:00")
    path = reference.with_name("take.dng" if taken.dng else "take.jpg")
    path.write_bytes(taken.dng or taken.jpeg or b"")
    found = check_file(path, path.name, reference=(reference, reference.name), plan=against)
    seen = found.look.blur
    blur_px = 0.0 if seen is None else seen.px * found.file_scale
    motion_px = 0.0 if written.figures is None else written.figures.motion_px
    change = found.check.change
    return found, Shown(change, blur_px, motion_px=motion_px, white_k=change.white_k)


def figures() -> Figures:
    """What is measured."""
    found = list(cases(CASES))
    for corrections, noun in ((1, "one"), (2, "two")):
        bad = sum(not case.is_good_after(corrections) for case in found) / len(found)
        yield Figure(f"corrections/not-mended-by-{noun}-%", 100 * bad)


def main() -> int:
    """Print the shares, and what went wrong where two corrections did not do."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else CASES
    found = list(cases(count))
    for corrections in (0, 1, 2):
        good = sum(case.is_good_after(corrections) for case in found)
        print(f"good after {corrections}: {good}/{len(found)} = {good / len(found):.1%}")
    bad = [case for case in found if not case.is_good_after(1)]
    print(Counter((case.scene, case.kind) for case in bad))
    for case in bad:
        print(case.scene, case.kind)
        for lacked, text in zip(case.lacked, [*case.changes, ""], strict=False):
            print("   lacked", "; ".join(lacked), " → ", text)
    return 0


if __name__ == "__main__":
    sys.exit(main())
