"""Point, dial, shoot, correct: takes whose light was read from the live preview alone.

`python -m bench.live [COUNT]`. Every case reads one preview frame of a varied scene on auto, dials
the slip, shoots, compares the take with the plan, and dials the one change that is offered.
"""

from __future__ import annotations

import sys
import tempfile
from collections.abc import Iterator
from dataclasses import dataclass, replace
from pathlib import Path

import numpy as np

from bench.corrections import ON_TRIPOD, _as_judged, _decided, _looked_at, _settings
from bench.first_take import LIGHT_STOPS, Metered, _brief, _judged, _marked, _phone
from bench.harness.measure import Figure, Figures
from oxlen.core.decisions.exposure.ask import FORMAT
from oxlen.core.decisions.framework.brief import Brief, SceneTones
from oxlen.core.hold.hand import Support
from oxlen.core.light.meter import Spot
from oxlen.core.review.correction import corrected
from oxlen.core.simulate.exposing import CaptureSettings
from oxlen.core.simulate.scene import Scene
from oxlen.core.simulate.variation import varied
from oxlen.devices.standins.bench_live import small_jpeg
from oxlen.devices.standins.bench_phone import BenchPhone
from oxlen.formats.scene_file import SceneFile, scene_ids, scene_truth, shipped_scene
from oxlen.metering.live_frame import LIVE, LiveFrame, codes_of_frame
from oxlen.pictures.exposure_tags import Exposure

CASES = 60
ACTIONS_BEFORE = 2
"""Start the camera and dial; a shot and a correction are two more each."""


@dataclass(frozen=True)
class LiveCase:
    """What the takes of a case lacked, one after another: nothing where one is as wanted."""

    scene_id: str
    lacked: tuple[tuple[str, ...], ...]

    @property
    def is_good(self) -> bool:
        """Whether the first take, or the one after a correction, has all that the scene wants."""
        return any(not lack for lack in self.lacked)

    @property
    def actions(self) -> int:
        """Taps from the opened sheet to the last take."""
        return ACTIONS_BEFORE + 2 * len(self.lacked) - 1


def cases(count: int, seed: int = 30) -> Iterator[LiveCase]:
    """Seeded variations of every scene that is not of stars, in turn."""
    scenes = [scene_id for scene_id in scene_ids() if scene_id != "stars-over-slip"]
    for index in range(count):
        yield _case(scenes[index % len(scenes)], seed=1000 * seed + index)


def _case(scene_id: str, *, seed: int) -> LiveCase:
    draw = np.random.default_rng(seed)
    truth = scene_truth(scene_id)
    scene = varied(shipped_scene(scene_id), light=2.0 ** draw.uniform(-LIGHT_STOPS, LIGHT_STOPS))
    phone = _phone(truth, seed)
    support: Support = "tripod" if scene_id in ON_TRIPOD else "handheld"
    lacked: list[tuple[str, ...]] = []
    with tempfile.TemporaryDirectory() as folder:
        reference = Path(folder) / "plan.jpg"
        auto = phone.auto_settings(scene, support)
        taken = phone.take(scene, auto, "processed", taken_at="2026:10:03 12:00:00")
        reference.write_bytes(taken.jpeg or b"")
        brief = _pointed(truth, scene, phone, support=support)
        for turn in range(2):
            shot_by = replace(phone, seed=seed + 7 * turn)
            _, decision = _decided(brief)
            settings = _settings(truth, scene, shot_by, decision=decision)
            is_raw = decision.brief[FORMAT] != "processed"
            lacked.append(tuple(_judged(truth, scene, shot_by, settings=settings, is_raw=is_raw)))
            if not lacked[-1]:
                break
            _, shown = _looked_at(
                truth, shot_by, scene, settings=settings, decision=decision, reference=reference
            )
            brief = corrected(brief, shown)
    return LiveCase(scene_id, tuple(lacked))


def _pointed(truth: SceneFile, scene: Scene, phone: BenchPhone, *, support: Support) -> Brief:
    """What is asked once the spots are tapped on auto's preview."""
    auto = phone.auto_settings(scene, support)
    readings, tones = _live_readings(truth, scene, phone, settings=auto)
    return _as_judged(_brief(truth, phone, support, readings=readings, tones=tones), truth)


def _live_readings(
    truth: SceneFile, scene: Scene, phone: BenchPhone, *, settings: CaptureSettings
) -> tuple[dict[str, Metered], SceneTones | None]:
    """Light of each wanted spot and of the frame, from one small preview frame."""
    jpeg = small_jpeg(phone.expose(scene, settings).developed())
    f_number = phone.lens.f_number
    exposure = Exposure(iso=settings.iso, shutter_s=settings.shutter_s, f_number=f_number)
    frame = LiveFrame(codes_of_frame(jpeg), exposure, None)
    report, light = frame.report(LIVE), frame.frame_light(LIVE)
    mid = report.settings.ev100
    if mid is None or light is None or report.frame is None:
        return {}, None
    found = {}
    for wanted in _marked(truth):
        spot = Spot(wanted.name, wanted.x, wanted.y, r=max(wanted.r, 0.02))
        tone = frame.spot_tone(LIVE, spot)
        found[wanted.name] = Metered(mid + tone.stops_from_mid, tone.channel_stops)
    edges = tuple((light.edges_stops + mid).tolist())
    return found, SceneTones(edges, tuple(light.shares.tolist()), report.frame.clipped_share)


def figures() -> Figures:
    """Takes by live light that have not all their scene wants, and the taps they cost."""
    found = list(cases(CASES))
    bad = sum(not case.is_good for case in found) / len(found)
    yield Figure("live/not-good-after-one-%", 100 * bad)
    yield Figure("live/taps", sum(case.actions for case in found) / len(found))


def main() -> int:
    """Every case, and what the ones that failed lacked."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else CASES
    found = list(cases(count))
    for case in found:
        if not case.is_good:
            print(f"  {case.scene_id}: {' | '.join(lack[0] for lack in case.lacked)}")
    good = sum(case.is_good for case in found) / len(found)
    first = sum(not case.lacked[0] for case in found) / len(found)
    actions = sum(case.actions for case in found) / len(found)
    print(f"first take {first:.0%}, after one correction {good:.0%}, {actions:.1f} taps")
    return 0


if __name__ == "__main__":
    sys.exit(main())
