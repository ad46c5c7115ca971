"""A scene whose light is known: radiance, distance, what moves, what pulses."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property

import cv2
import numpy as np
from numpy.typing import NDArray

from oxlen.core.errors import BadInput

Floats = NDArray[np.float32]
FAR_M = 50_000.0


@dataclass(frozen=True)
class Layer:
    """Something that moves as a whole: colour (h, w, 3) in cd/m² and cover (h, w) from 0 to 1.

    `left` and `top` are its place in the frame in pixels.
    """

    name: str
    colour: Floats
    cover: Floats
    left: int
    top: int

    @cached_property
    def covering(self) -> Floats:
        """Its colour as far as it covers, and its cover, shape (h, w, 4)."""
        return np.dstack([self.colour * in_colour(self.cover), self.cover])


@dataclass(frozen=True)
class SceneMover:
    """A known motion: speed (m/s) at a distance, and its way on the picture (0° right, 90° down).

    With `objects` it is a texture that flows within them; otherwise it moves the layer of its name.
    """

    name: str
    speed_m_s: float
    distance_m: float
    image_angle_deg: float
    objects: tuple[str, ...] = ()


@dataclass(frozen=True)
class Swing:
    """Lamps on strings (m), swinging by an amplitude (degrees), seen at a distance (m).

    `layers` are the names of their pictures; each has its own beginning.
    """

    string_m: float
    amplitude_deg: float
    distance_m: float
    layers: tuple[str, ...]


@dataclass(frozen=True)
class Carried:
    """A globe of light that a mover carries: where it is at mid exposure, in pixels.

    `colour` is its radiance (cd/m² per primary, linear sRGB). `mirror_y_px` is where still water
    would show it, and `mirror_share` how much of its light; None where there is no water.
    """

    mover: str
    x_px: float
    y_px: float
    diameter_m: float
    distance_m: float
    colour: tuple[float, float, float]
    water: str | None = None
    mirror_y_px: float = 0.0
    mirror_share: float = 0.0


@dataclass(frozen=True)
class SceneLamp:
    """A lamp of the scene: colour temperature; how it pulses and how it moves, when it does."""

    name: str
    cct_k: float
    duv: float = 0.0
    pulse_hz: float | None = None
    depth: float = 0.0
    swing: Swing | None = None
    carried: Carried | None = None


@dataclass(frozen=True)
class Star:
    """A star by its direction (degrees, J2000), magnitude and colour index."""

    right_ascension_deg: float
    declination_deg: float
    magnitude: float
    colour_index: float = 0.6


@dataclass(frozen=True)
class StarField:
    """Where the camera looks, and the stars there: the axis and the frame's up, by sky angles."""

    axis_ra_deg: float
    axis_dec_deg: float
    roll_deg: float
    stars: tuple[Star, ...]


@dataclass(frozen=True)
class Scene:
    """Scene light: linear sRGB primaries scaled so that Y is cd/m², shape (h, w, 3).

    `distance_m` and `objects` have shape (h, w); `object_ids` gives the numbers by name.
    """

    id: str
    name: str
    radiance: Floats
    distance_m: Floats
    objects: NDArray[np.uint8]
    hfov_deg: float
    object_ids: Mapping[str, int] = field(default_factory=dict)
    layers: tuple[Layer, ...] = ()
    movers: tuple[SceneMover, ...] = ()
    lamps: tuple[SceneLamp, ...] = ()
    star_field: StarField | None = None

    def __post_init__(self) -> None:
        shape = self.radiance.shape[:2]
        if self.radiance.ndim != 3 or self.radiance.shape[2] != 3:
            raise BadInput("A scene's radiance has rows, columns and three colours.", "radiance")
        if self.distance_m.shape != shape or self.objects.shape != shape:
            raise BadInput("A scene's distance and objects must fit its radiance.", "distance_m")

    @property
    def height_px(self) -> int:
        """Rows of the scene."""
        return int(self.radiance.shape[0])

    @property
    def width_px(self) -> int:
        """Columns of the scene."""
        return int(self.radiance.shape[1])

    @property
    def pixels_per_radian(self) -> float:
        """Pixels from the axis for a unit of tangent: the focal length counted in pixels."""
        return float(self.width_px / 2 / np.tan(np.radians(self.hfov_deg) / 2))

    @property
    def subject_that_moves(self) -> str | None:
        """Name of the nearest mover drawn as a layer: what a pan would follow."""
        drawn = {layer.name for layer in self.layers}
        moving = [m for m in self.movers if m.name in drawn]
        return min(moving, key=lambda m: m.distance_m).name if moving else None

    def mask_of(self, names: tuple[str, ...]) -> NDArray[np.uint8]:
        """1 where a pixel belongs to some objects, else 0; unknown names belong to none."""
        wanted = np.zeros(256, dtype=np.uint8)
        wanted[[self.object_ids[name] for name in names if name in self.object_ids]] = 1
        return np.asarray(cv2.LUT(self.objects, wanted), dtype=np.uint8)


def in_colour(plane: Floats) -> Floats:
    """One plane (h, w) repeated for three channels (h, w, 3)."""
    return np.asarray(cv2.cvtColor(plane, cv2.COLOR_GRAY2BGR))


def shifted(lamps: tuple[SceneLamp, ...], right_px: float, down_px: float) -> tuple[SceneLamp, ...]:
    """Lamps as a frame begun so many pixels further right and down sees them."""
    return tuple(_placed(lamp, 1.0, right_px, down_px=down_px) for lamp in lamps)


def _placed(lamp: SceneLamp, scale: float, right_px: float, *, down_px: float) -> SceneLamp:
    if lamp.carried is None:
        return lamp
    carried_lamp = lamp.carried
    return replace(
        lamp,
        carried=replace(
            carried_lamp,
            x_px=(carried_lamp.x_px - right_px) * scale,
            y_px=(carried_lamp.y_px - down_px) * scale,
            mirror_y_px=(carried_lamp.mirror_y_px - down_px) * scale,
        ),
    )


def reduced(scene: Scene, step: int) -> Scene:
    """The scene with one row and column for every `step`, for a quick look: means of areas."""
    width, height = scene.width_px // step, scene.height_px // step

    def small(values: Floats) -> Floats:
        size = (values.shape[1] // step or 1, values.shape[0] // step or 1)
        return np.asarray(cv2.resize(values, size, interpolation=cv2.INTER_AREA))

    layers = tuple(
        replace(
            layer,
            colour=small(layer.colour),
            cover=small(layer.cover),
            left=layer.left // step,
            top=layer.top // step,
        )
        for layer in scene.layers
    )
    middle = step // 2
    return replace(
        scene,
        lamps=tuple(_placed(lamp, 1 / step, 0.0, down_px=0.0) for lamp in scene.lamps),
        radiance=small(scene.radiance),
        distance_m=scene.distance_m[middle::step, middle::step][:height, :width],
        objects=scene.objects[middle::step, middle::step][:height, :width],
        layers=layers,
    )
