"""A scene whose light is known: radiance, distance, what moves, what pulses."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace

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
class SceneLamp:
    """A lamp of the scene: colour temperature and, when it pulses, how often and how deeply."""

    name: str
    cct_k: float
    duv: float = 0.0
    pulse_hz: float | None = None
    depth: float = 0.0


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

    def mask_of(self, names: tuple[str, ...]) -> NDArray[np.uint8]:
        """1 where a pixel belongs to some objects, else 0; unknown names belong to none."""
        wanted = np.zeros(256, dtype=np.uint8)
        wanted[[self.object_ids[name] for name in names if name in self.object_ids]] = 1
        return np.asarray(cv2.LUT(self.objects, wanted), dtype=np.uint8)


def in_colour(plane: Floats) -> Floats:
    """One plane (h, w) repeated for three channels (h, w, 3)."""
    return np.asarray(cv2.cvtColor(plane, cv2.COLOR_GRAY2BGR))


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
        radiance=small(scene.radiance),
        distance_m=scene.distance_m[middle::step, middle::step][:height, :width],
        objects=scene.objects[middle::step, middle::step][:height, :width],
        layers=layers,
    )
