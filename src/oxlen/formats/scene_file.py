"""The open scene, `oxlen-scene/2`: a TIFF of half floats and a JSON beside it."""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache
from importlib.resources import as_file, files
from pathlib import Path
from typing import Annotated, Any, Literal

import numpy as np
import tifffile
from numpy.typing import NDArray
from pydantic import Field

from oxlen.core.errors import BadInput, NotFound
from oxlen.core.simulate.night_sky import NightSky, under_night
from oxlen.core.simulate.scene import (
    Carried,
    Layer,
    Scene,
    SceneLamp,
    SceneMover,
    Star,
    StarField,
    Swing,
)
from oxlen.formats.outing.night_variants import night_variants, variant_ids
from oxlen.formats.strict import Strict


class RegionFile(Strict):
    """A named disc of the frame."""

    name: str
    x: float
    y: float
    r: float


class SwingFile(Strict):
    """How suspended lamps swing: their string, how far, from where they are seen, their layers."""

    string_m: Annotated[float, Field(gt=0)]
    amplitude_deg: Annotated[float, Field(ge=0, le=60)]
    distance_m: Annotated[float, Field(gt=0)]
    layers: list[str]


class CarriedFile(Strict):
    """A globe of light that a mover carries: its place in shares of the frame at mid exposure.

    `radiance_cd_m2` is of each linear sRGB primary; `mirror_y` is where still water would show the
    lamp, `mirror_share` how much of its light.
    """

    mover: str
    x: float
    y: float
    diameter_m: Annotated[float, Field(gt=0)]
    distance_m: Annotated[float, Field(gt=0)]
    radiance_cd_m2: tuple[float, float, float]
    water: str | None = None
    mirror_y: float = 0.0
    mirror_share: Annotated[float, Field(ge=0, le=1)] = 0.0


class LampFile(Strict):
    """A lamp that lights the scene, as far as it is known."""

    name: str
    cct_k: float
    duv: float = 0.0
    cri: float | None = None
    pulse_hz: float | None = None
    depth: float = 0.0
    luminance_cd_m2: float | None = None
    swing: SwingFile | None = None
    carried: CarriedFile | None = None


class MoverFileTruth(Strict):
    """A true motion of the scene, in metres and on the picture."""

    name: str
    speed_m_s: float
    distance_m: float
    image_angle_deg: float
    direction_deg: float = 90.0
    layer: bool = False
    objects: list[str] = []  # noqa: RUF012  copied by Pydantic
    kind: str | None = None


class ToneWanted(RegionFile):
    """A tone a good picture of the scene must have, in stops from mid."""

    role: Literal["subject", "keep-bright", "keep-dark", "neutral"]
    low: float
    high: float


class SharpWanted(RegionFile):
    """What must be sharp, to so many pixels."""

    max_blur_px: float


class ColourWanted(RegionFile):
    """How warm (positive) or cool a neutral may be, in mired."""

    low_mired: float
    high_mired: float


class FreezeWanted(Strict):
    """A mover that must be frozen."""

    mover: str
    max_blur_px: float


class StreakWanted(Strict):
    """A mover that must draw a streak, as shares of the frame's height."""

    mover: str
    low: float
    high: float


class AcceptanceFile(Strict):
    """What a good picture of the scene must have."""

    tones: list[ToneWanted]
    sharp: list[SharpWanted] = []  # noqa: RUF012  copied by Pydantic
    colour: list[ColourWanted] = []  # noqa: RUF012  copied by Pydantic
    freeze: list[FreezeWanted] = []  # noqa: RUF012  copied by Pydantic
    streak: list[StreakWanted] = []  # noqa: RUF012  copied by Pydantic
    bands_max: float | None = None
    stars_max_trail_px: float | None = None
    clipped_share_max: float = 0.05


class LayerFile(Strict):
    """Where a layer of the TIFF is in the frame."""

    name: str
    left: int
    top: int
    distance_m: float


class StarsFile(Strict):
    """Where the camera looks in the sky, and the stars there: RA, Dec (°), magnitude, B−V."""

    axis_ra_deg: float
    axis_dec_deg: float
    roll_deg: float
    list: list[tuple[float, float, float, float]]


class SceneFile(Strict):
    """All that is true of a scene but its light."""

    format: Literal["oxlen-scene/2"]
    id: str
    name: str
    situation: str
    width: int
    height: int
    hfov_deg: Annotated[float, Field(gt=1, lt=170)]
    objects: dict[str, int]
    layers: list[LayerFile]
    neutral: list[RegionFile]
    lamps: list[LampFile]
    movers: list[MoverFileTruth]
    acceptance: AcceptanceFile
    stars: StarsFile | None = None


def scene_ids() -> list[str]:
    """Ids of the scenes that ship, in order of name."""
    folder = files("oxlen") / "data" / "scenes"
    names = (entry.name for entry in folder.iterdir())
    return sorted(name[:-4] for name in names if name.endswith(".tif"))


def scene_truth(scene_id: str) -> SceneFile:
    """What is true of a shipped scene; NotFound says which there are."""
    variant = night_variants().get(scene_id)
    if variant is not None:
        based = scene_truth(variant.based_on)
        return based.model_copy(update={"id": scene_id, "name": variant.name})
    if scene_id not in scene_ids():
        known = ", ".join([*scene_ids(), *variant_ids()])
        raise NotFound(f"Unknown scene {scene_id}. Use one of {known}.", scene=scene_id)
    folder = files("oxlen") / "data" / "scenes"
    return SceneFile.model_validate_json((folder / f"{scene_id}.json").read_text("utf-8"))


@lru_cache(maxsize=3)
def shipped_scene(scene_id: str) -> Scene:
    """A shipped scene with its light, kept at hand while it is in use; NotFound otherwise."""
    truth = scene_truth(scene_id)
    variant = night_variants().get(scene_id)
    if variant is not None:
        night = NightSky(**variant.night.model_dump())
        under = under_night(shipped_scene(variant.based_on), night)
        return replace(under, id=scene_id, name=variant.name)
    with as_file(files("oxlen") / "data" / "scenes" / f"{scene_id}.tif") as path:
        return read_scene(path, truth)


def read_scene(path: Path, truth: SceneFile) -> Scene:
    """The light of a scene from its TIFF; BadInput when it does not fit its description."""
    with tifffile.TiffFile(path) as file:
        pages = [page.asarray() for page in file.pages]
    if len(pages) != 3 + len(truth.layers) or pages[0].shape[:2] != (truth.height, truth.width):
        raise BadInput(f"{path.name} does not match its JSON.", "scene")
    layers = [_layer(page, file) for page, file in zip(pages[3:], truth.layers, strict=True)]
    return Scene(
        truth.id,
        truth.name,
        np.ascontiguousarray(pages[0].astype(np.float32)),
        distance_m=pages[1].astype(np.float32),
        objects=pages[2],
        hfov_deg=truth.hfov_deg,
        object_ids=truth.objects,
        layers=tuple(layers),
        movers=tuple(_mover(mover) for mover in truth.movers),
        lamps=tuple(_lamp(lamp, truth) for lamp in truth.lamps),
        star_field=_stars(truth.stars),
    )


def _layer(page: NDArray[Any], file: LayerFile) -> Layer:
    values = page.astype(np.float32)
    return Layer(file.name, values[..., :3], values[..., 3], left=file.left, top=file.top)


def _lamp(file: LampFile, truth: SceneFile) -> SceneLamp:
    swing = None if file.swing is None else _swing(file.swing)
    carried = None if file.carried is None else _carried(file.carried, truth)
    return SceneLamp(
        file.name,
        file.cct_k,
        file.duv,
        pulse_hz=file.pulse_hz,
        depth=file.depth,
        swing=swing,
        carried=carried,
    )


def _swing(file: SwingFile) -> Swing:
    return Swing(file.string_m, file.amplitude_deg, file.distance_m, layers=tuple(file.layers))


def _carried(file: CarriedFile, truth: SceneFile) -> Carried:
    return Carried(
        file.mover,
        file.x * truth.width,
        file.y * truth.height,
        diameter_m=file.diameter_m,
        distance_m=file.distance_m,
        colour=file.radiance_cd_m2,
        water=file.water,
        mirror_y_px=file.mirror_y * truth.height,
        mirror_share=file.mirror_share,
    )


def _mover(file: MoverFileTruth) -> SceneMover:
    return SceneMover(
        file.name,
        file.speed_m_s,
        file.distance_m,
        image_angle_deg=file.image_angle_deg,
        objects=tuple(file.objects),
    )


def _stars(file: StarsFile | None) -> StarField | None:
    if file is None:
        return None
    stars = tuple(Star(*values) for values in file.list)
    return StarField(file.axis_ra_deg, file.axis_dec_deg, file.roll_deg, stars=stars)
