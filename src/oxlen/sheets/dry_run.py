"""The dry run: the frame a pair of steps will give, from a known scene or the sheet's picture."""

from __future__ import annotations

import csv
import io
import json
from collections import OrderedDict
from collections.abc import Callable
from dataclasses import dataclass
from threading import Lock
from typing import Any, Literal

import numpy as np
import tifffile
from numpy.typing import NDArray
from PIL import Image
from pydantic import BaseModel

from oxlen.core.constants import MID_LINEAR
from oxlen.core.decisions.exposure.auto import auto_choice
from oxlen.core.decisions.exposure.frontier import figures_of_steps
from oxlen.core.decisions.plan import Plan, plan
from oxlen.core.errors import BadInput
from oxlen.core.labels import steps_label
from oxlen.core.light.linear_picture import LinearPicture
from oxlen.core.light.tone import linear_to_srgb
from oxlen.core.simulate.capture import Capture, capture
from oxlen.core.simulate.develop import Balance, demosaiced
from oxlen.core.simulate.exposing import Camera, CaptureSettings, binned_mode
from oxlen.core.simulate.randomness import PooledNoise
from oxlen.core.simulate.relight import Source, coarser, re_exposed, source_of
from oxlen.core.simulate.scene import Scene, reduced
from oxlen.core.simulate.shown import Shown, marked, shown_tones
from oxlen.devices.standins.bench_phone import BenchPhone, focus_on_m, varied
from oxlen.formats.phone_profile import PhoneProfile
from oxlen.formats.scene_file import shipped_scene
from oxlen.sheets.answer import brief_of_sheet
from oxlen.sheets.body import SheetBody
from oxlen.sheets.light import light_readings, mid_ev100, picture_light
from oxlen.sheets.metering import MeterRoom

Quality = Literal["coarse", "full"]
Look = Literal["processed", "raw"]
Who = Literal["slip", "auto"]
FileKind = Literal["jpeg", "png", "tiff"]

SOURCE_SIDE_PX = 960
COARSE_QUALITY, FULL_QUALITY = 80, 92
SEED = 4
COARSE_STEP = 3
"""A quick look has a third of the rows and columns."""
MAX_SOURCES = 6


class DryFigures(BaseModel):
    """What a dry run says of its frame; `from_scene` is false when it rests on the picture.

    Blur (pixels of the phone's file, share of its short side) and SNR are as the plan reckons them.
    """

    who: Literal["slip", "compromise", "auto"]
    look: Look
    label: str
    from_scene: bool
    clipped_share: float
    blocked_share: float
    blur_px: float
    blur_share: float
    snr_subject: float
    source_lost_share: float
    source_noisy_share: float
    edges_stops: list[float]
    shares: list[float]


@dataclass(frozen=True)
class DryFrame:
    """A predicted frame as a file, and its figures."""

    data: bytes
    media_type: str
    figures: DryFigures


@dataclass(frozen=True)
class Wanted:
    """Which frame is wanted: the steps (the plan's when None), whose, and how it is shown."""

    iso: float | None = None
    shutter_s: float | None = None
    who: Who = "slip"
    look: Look = "processed"
    quality: Quality = "full"
    marks: bool = False
    kind: FileKind = "jpeg"


class DryRoom:
    """Sources of dry runs at hand: pictures as light, by content hash and exposure."""

    def __init__(self, room: MeterRoom) -> None:
        self.meter = room
        self._sources: OrderedDict[tuple[str, float, str], dict[Quality, Source]] = OrderedDict()
        self._scenes: dict[tuple[str, Quality, float], Scene] = {}
        self._decided: dict[tuple[str, str], Plan] = {}
        self._lock = Lock()

    def decision(self, body: SheetBody, profile: PhoneProfile) -> Plan:
        """The plan of a sheet, kept while its dot is dragged. BadInput without any light."""
        key = (body.model_dump_json(), profile.model_dump_json())
        with self._lock:
            if key not in self._decided:
                self._decided = {key: _decision(body, profile, self.meter)}
            return self._decided[key]

    def scene(self, scene_id: str, quality: Quality, light_shift_stops: float) -> Scene:
        """A known scene by the light expected then; at a third of its size for a quick look."""
        key = (scene_id, quality, light_shift_stops)
        with self._lock:
            if key not in self._scenes:
                seen = shipped_scene(scene_id)
                if quality == "coarse":
                    seen = reduced(seen, COARSE_STEP)
                if light_shift_stops:
                    seen = varied(seen, light=2.0**light_shift_stops)
                same = {k: v for k, v in self._scenes.items() if (k[0], k[2]) == (key[0], key[2])}
                self._scenes = {**same, key: seen}
            return self._scenes[key]

    def source(
        self, sha256: str, ev100_set: float, camera: Camera, iso: float, *, quality: Quality
    ) -> Source:
        """A kept picture as light; decoded once for both qualities."""
        key = (sha256, ev100_set, camera.lens.id)
        with self._lock:
            if key not in self._sources:
                light = _even(self.meter.small_light(sha256, SOURCE_SIDE_PX))
                full = source_of(light, ev100_set, camera, iso)
                self._sources[key] = {"full": full, "coarse": coarser(full, COARSE_STEP)}
                while len(self._sources) > MAX_SOURCES:
                    self._sources.popitem(last=False)
            return self._sources[key][quality]


def dry_run(
    body: SheetBody,
    find_phone: Callable[[str], PhoneProfile],
    room: DryRoom,
    wanted: Wanted,
) -> DryFrame:
    """Predict a frame. BadInput when there is neither scene nor metered picture to go by."""
    profile = find_phone(body.phone)
    decision = room.decision(body, profile)
    frame, source = _frame(body, profile, decision, wanted=wanted, room=room)
    # A processed picture's balance is in it already.
    balance = Balance() if source is not None and source.is_balanced else frame.automatic
    develop = frame.neutral if wanted.look == "raw" else frame.developed
    codes = develop(balance)
    tones = shown_tones(codes)
    figures = _figures(decision, wanted, frame, source, tones)
    if wanted.marks:
        codes = marked(codes, None if source is None else source.lost)
    data, media_type = _encoded(codes, frame, balance, wanted)
    return DryFrame(data, media_type, figures)


def _decision(body: SheetBody, profile: PhoneProfile, room: MeterRoom) -> Plan:
    light = picture_light(body, profile, room)
    readings = light_readings(body, profile, light, room=room)
    brief = brief_of_sheet(body, profile.to_phone(), readings, light)
    if not brief.readings:
        raise BadInput("A dry run needs light to go by: a picture, or a reading.", "readings")
    return plan(brief)


def _frame(
    body: SheetBody, profile: PhoneProfile, decision: Plan, *, wanted: Wanted, room: DryRoom
) -> tuple[Capture, Source | None]:
    lens, mode = decision.brief.lens, decision.brief.mode
    iso, shutter_s = _steps(decision, wanted)
    if body.scene is not None:
        scene = room.scene(body.scene, wanted.quality, body.light_shift_stops)
        settings = _scene_settings(body, profile, decision, scene, wanted=wanted)
        return capture(scene, lens, mode, settings, PooledNoise(SEED)), None
    report = body.picture and room.meter.report(body.picture)
    if not report or report["frame"] is None:
        raise BadInput("A dry run needs a picture whose pixels can be read.", "picture")
    told = report["settings"]
    given = body.by_hand
    base_iso = told["iso"] or (given.iso if given else 100.0)
    mid = mid_ev100(body, profile, picture_light(body, profile, room.meter))
    assert body.picture is not None
    if mid is None:
        raise BadInput("A dry run needs the exposure of the sheet's picture.", "by_hand")
    small = Camera(lens, binned_mode(mode, SOURCE_SIDE_PX, SOURCE_SIDE_PX * 3 // 4))
    source = room.source(body.picture, mid, small, base_iso, quality=wanted.quality)
    height, width = source.colour.shape[:2]
    camera = Camera(lens, binned_mode(mode, width, height))
    settings = CaptureSettings(
        iso, shutter_s, support=body.support, glass_stops=decision.brief.glass_stops
    )
    raw = re_exposed(source, camera, settings, PooledNoise(SEED))
    return Capture(raw, camera, settings), source


def _whose(decision: Plan, wanted: Wanted) -> Literal["slip", "compromise", "auto"]:
    """What the frame is called: where limits collide, the plan's nearest pair is a compromise."""
    dragged = wanted.iso is not None and wanted.shutter_s is not None
    collides = decision.conflict is not None and not dragged
    return "compromise" if collides and wanted.who == "slip" else wanted.who


def _steps(decision: Plan, wanted: Wanted) -> tuple[float, float]:
    """ISO and shutter of the frame: those asked for, auto's, or the plan's."""
    if wanted.who == "auto":
        mean = decision.brief.scene_mean_ev100
        metered = decision.search.aim.ev100 if mean is None else mean
        choice = auto_choice(decision.brief, decision.search.aim.ev100, metered)
        return choice.iso, choice.shutter_s
    if wanted.iso is not None and wanted.shutter_s is not None:
        return wanted.iso, wanted.shutter_s
    slip = decision.slip or (decision.compromise.slip if decision.compromise else None)
    if slip is None:
        raise BadInput("There is no slip to try yet.", "iso")
    return slip.iso, slip.shutter_s


def _scene_settings(
    body: SheetBody, profile: PhoneProfile, decision: Plan, scene: Scene, *, wanted: Wanted
) -> CaptureSettings:
    brief = decision.brief
    if wanted.who == "auto":
        return BenchPhone(profile, brief.lens, brief.mode).auto_settings(
            scene, body.support, brief.glass_stops
        )
    iso, shutter_s = _steps(decision, wanted)
    spot = next((spot for spot in body.spots if spot.role in ("subject", "neutral")), None)
    x, y = (spot.x, spot.y) if spot else (0.5, 0.5)
    focus = focus_on_m(scene, brief.lens, brief.mode, x, y)
    pan = scene.subject_that_moves if brief.is_panned else None
    return CaptureSettings(iso, shutter_s, focus, body.support, pan, brief.glass_stops)


def _figures(
    decision: Plan, wanted: Wanted, frame: Capture, source: Source | None, tones: Shown
) -> DryFigures:
    settings = frame.settings
    given = figures_of_steps(decision.search, settings.iso, settings.shutter_s)
    return DryFigures(
        who=_whose(decision, wanted),
        look=wanted.look,
        label=steps_label(settings.iso, settings.shutter_s),
        from_scene=source is None,
        clipped_share=tones.clipped_share,
        blocked_share=tones.blocked_share,
        blur_px=given.blur_px,
        blur_share=given.blur_share,
        snr_subject=given.snr_subject,
        source_lost_share=0.0 if source is None else float(source.lost.mean()),
        source_noisy_share=0.0 if source is None else float(source.noisy.mean()),
        edges_stops=list(tones.edges_stops),
        shares=[round(share, 5) for share in tones.shares],
    )


def _encoded(
    codes: NDArray[np.uint8], frame: Capture, balance: Balance, wanted: Wanted
) -> tuple[bytes, str]:
    buffer = io.BytesIO()
    if wanted.kind == "tiff":
        tifffile.imwrite(
            buffer, _deep(frame, balance), photometric="rgb", metadata=None, software=False
        )
        return buffer.getvalue(), "image/tiff"
    image = Image.fromarray(codes)
    if wanted.kind == "png":
        image.save(buffer, "PNG")
        return buffer.getvalue(), "image/png"
    quality = COARSE_QUALITY if wanted.quality == "coarse" else FULL_QUALITY
    image.save(buffer, "JPEG", quality=quality)
    return buffer.getvalue(), "image/jpeg"


def _deep(frame: Capture, balance: Balance) -> NDArray[np.uint16]:
    """The frame neutrally developed, in 16 bits."""
    linear = demosaiced(frame.raw, balance, MID_LINEAR)
    coded = 65535 * np.asarray(linear_to_srgb(np.clip(linear, 0, 1)))
    return np.asarray(np.rint(coded), dtype=np.uint16)


def _even(light: LinearPicture) -> LinearPicture:
    """The light with an even number of rows and columns, as a mosaic needs."""
    height, width = (size // 2 * 2 for size in light.lost.shape)
    cut = light.colour[:height, :width], light.lost[:height, :width]
    return LinearPicture(*cut, light.is_balanced)


def figures_header(figures: DryFigures) -> str:
    """Figures as one line of ASCII JSON, fit for a header."""
    return json.dumps(figures.model_dump(mode="json"))


def readings_csv(rows: list[dict[str, Any]]) -> str:
    """Readings as comma-separated values with a header line."""
    buffer = io.StringIO()
    fields = [
        "id",
        "name",
        "role",
        "ev100",
        "plus_minus_stops",
        "luminance_cd_m2",
        "place",
        "state",
    ]
    writer = csv.DictWriter(buffer, fields, extrasaction="ignore")
    writer.writeheader()
    writer.writerows(rows)
    return buffer.getvalue()
