"""The dry run: the frame a pair of steps will give, from a known scene or the sheet's picture."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

from pydantic import BaseModel

from oxlen.core.decisions.dialled import dials_of
from oxlen.core.decisions.exposure.ask import SUPPORT, glass_stops, is_panned
from oxlen.core.decisions.exposure.auto.capture import auto_capture
from oxlen.core.decisions.exposure.auto.choice import auto_choice
from oxlen.core.decisions.plan import Plan
from oxlen.core.decisions.solver.frontier import figures_of_steps
from oxlen.core.errors import BadInput
from oxlen.core.kit.phone import Mode
from oxlen.core.labels import steps_label
from oxlen.core.simulate.capture import Capture, capture
from oxlen.core.simulate.develop import Balance
from oxlen.core.simulate.exposing import Camera, CaptureSettings, binned_mode
from oxlen.core.simulate.randomness import PooledNoise
from oxlen.core.simulate.relight import Source, re_exposed
from oxlen.core.simulate.scene import Scene
from oxlen.core.simulate.shown import Shown, marked, shown_tones
from oxlen.core.simulate.tapping import focus_on_m
from oxlen.formats.phone.profile import PhoneProfile
from oxlen.formats.sheet.file import SheetBody, tapped_spot
from oxlen.metering.light import SheetLight
from oxlen.preview.cache import SOURCE_SIDE_PX, PreviewCache, Quality
from oxlen.preview.encoding import FileKind, encoded

Rendition = Literal["processed", "raw"]
"""How a frame is shown: as the phone's processed file, or its raw data plainly developed."""
Chooser = Literal["slip", "auto"]
"""Whose steps a frame is taken with."""
SEED = 4


class FrameFigures(BaseModel):
    """What a dry run says of its frame; `from_scene` is false when it rests on the picture.

    Blur (pixels of the phone's file, share of its short side) and SNR are as the plan reckons them.
    """

    chooser: Literal["slip", "compromise", "auto"]
    rendition: Rendition
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
class PredictedFrame:
    """A predicted frame as a file, and its figures."""

    data: bytes
    media_type: str
    figures: FrameFigures


@dataclass(frozen=True)
class FrameRequest:
    """Which frame is wanted: the steps (the plan's when None), whose, and how it is shown."""

    iso: float | None = None
    shutter_s: float | None = None
    chooser: Chooser = "slip"
    rendition: Rendition = "processed"
    quality: Quality = "full"
    marks: bool = False
    kind: FileKind = "jpeg"


def dry_run(
    body: SheetBody,
    find_phone: Callable[[str], PhoneProfile],
    cache: PreviewCache,
    *,
    request: FrameRequest,
) -> PredictedFrame:
    """Predict a frame. BadInput when there is neither scene nor metered picture to start from."""
    light, decision = cache.decided(body, find_phone(body.phone))
    frame, source = taken(body, light, decision, request=request, cache=cache)
    balance = balance_of(frame, source)
    develop = frame.neutral if request.rendition == "raw" else frame.developed
    codes = develop(balance)
    figures = _figures(decision, request, frame, source=source, tones=shown_tones(codes))
    if request.marks:
        codes = marked(codes, None if source is None else source.lost)
    data, media_type = encoded(codes, frame, balance, kind=request.kind, quality=request.quality)
    return PredictedFrame(data, media_type, figures)


def taken(
    body: SheetBody,
    light: SheetLight,
    decision: Plan,
    *,
    request: FrameRequest,
    cache: PreviewCache,
    mode: Mode | None = None,
    seed: int = SEED,
) -> tuple[Capture, Source | None]:
    """The frame before it is developed, and the picture it rests on where no scene is known.

    `mode` is another of the lens's than the one planned with. BadInput as for `dry_run`.
    """
    mode = mode or decision.brief.mode
    if body.scene is not None:
        scene = cache.scene(body.scene, request.quality, body.light_shift_stops)
        return _of_scene(body, decision, scene, request=request, mode=mode, seed=seed), None
    return _of_picture(body, light, decision, request=request, cache=cache, mode=mode, seed=seed)


def balance_of(frame: Capture, source: Source | None) -> Balance:
    """White balance of a frame: a processed picture's is in it already."""
    return Balance() if source is not None and source.is_balanced else frame.balance


def _of_scene(
    body: SheetBody,
    decision: Plan,
    scene: Scene,
    *,
    request: FrameRequest,
    mode: Mode,
    seed: int,
) -> Capture:
    brief = decision.brief
    settings = (
        auto_capture(brief, scene)
        if request.chooser == "auto"
        else _slip_settings(body, decision, scene, request=request)
    )
    return capture(scene, brief.lens, mode, settings=settings, random=PooledNoise(seed))


def _slip_settings(
    body: SheetBody, decision: Plan, scene: Scene, *, request: FrameRequest
) -> CaptureSettings:
    brief, (iso, shutter_s) = decision.brief, _steps(decision, request)
    spot = tapped_spot(body)
    x, y = (spot.x, spot.y) if spot else (0.5, 0.5)
    dials = dials_of(decision.dialled.settings)
    focus = dials.focused_m(brief) or focus_on_m(scene, brief.lens, brief.mode, x=x, y=y)
    pan = scene.subject_that_moves if is_panned(brief) else None
    return CaptureSettings(
        iso,
        shutter_s,
        focus,
        support=brief[SUPPORT],
        pan_with=pan,
        glass_stops=glass_stops(brief),
        white_k=dials.white_k,
        tint_duv=dials.tint_duv(brief),
    )


def _of_picture(
    body: SheetBody,
    light: SheetLight,
    decision: Plan,
    *,
    request: FrameRequest,
    cache: PreviewCache,
    mode: Mode,
    seed: int,
) -> tuple[Capture, Source]:
    brief = decision.brief
    if body.picture is None or light.picture is None or light.picture.report.frame is None:
        raise BadInput("A dry run needs a picture whose pixels can be read.", "picture")
    if light.mid_ev100 is None:
        raise BadInput("A dry run needs the exposure of the sheet's picture.", "by_hand")
    iso, shutter_s = _steps(decision, request)
    small = Camera(brief.lens, binned_mode(mode, SOURCE_SIDE_PX, SOURCE_SIDE_PX * 3 // 4))
    mid = light.mid_ev100 + brief.light_shift_stops
    own_iso = light.picture.report.settings.iso or (body.by_hand.iso if body.by_hand else 100.0)
    source = cache.source(body.picture, mid, small, iso=own_iso, quality=request.quality)
    height, width = source.colour.shape[:2]
    camera = Camera(brief.lens, binned_mode(mode, width, height))
    settings = CaptureSettings(
        iso, shutter_s, support=brief[SUPPORT], glass_stops=glass_stops(brief)
    )
    raw = re_exposed(source, camera, settings, random=PooledNoise(seed))
    return Capture(raw, camera, settings), source


def _steps(decision: Plan, request: FrameRequest) -> tuple[float, float]:
    """ISO and shutter of the frame: those asked for, auto's, or the plan's."""
    if request.chooser == "auto":
        mean, aim = decision.brief.scene_mean_ev100, decision.search.aim.ev100
        choice = auto_choice(decision.brief, aim, aim if mean is None else mean)
        return choice.iso, choice.shutter_s
    if request.iso is not None and request.shutter_s is not None:
        return request.iso, request.shutter_s
    slip = decision.slip or (decision.compromise.slip if decision.compromise else None)
    if slip is None:
        raise BadInput(
            "No exposure meets every limit. Choose a way out, or drag the dot on the map.", "iso"
        )
    return slip.iso, slip.shutter_s


def _chooser(decision: Plan, request: FrameRequest) -> Literal["slip", "compromise", "auto"]:
    """What the frame is called: where limits collide, the plan's nearest pair is a compromise."""
    dragged = request.iso is not None and request.shutter_s is not None
    collides = decision.conflict is not None and not dragged
    return "compromise" if collides and request.chooser == "slip" else request.chooser


def _figures(
    decision: Plan, request: FrameRequest, frame: Capture, *, source: Source | None, tones: Shown
) -> FrameFigures:
    settings = frame.settings
    given = figures_of_steps(decision.search, settings.iso, settings.shutter_s)
    return FrameFigures(
        chooser=_chooser(decision, request),
        rendition=request.rendition,
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


def figures_header(figures: FrameFigures) -> str:
    """Figures as one line of ASCII JSON, fit for a header."""
    return figures.model_dump_json(ensure_ascii=True)
