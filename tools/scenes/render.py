"""Rendering a place: radiance in cd/m², distance, object numbers, movers as layers."""

from __future__ import annotations

import json
import os
import time
from dataclasses import dataclass, field, replace
from pathlib import Path
from typing import Any

import numpy as np

os.environ.setdefault("DRJIT_LIBLLVM_PATH", "/usr/lib/x86_64-linux-gnu/libLLVM-19.so")

from tools.scenes.shapes import Mesh

WIDTH, HEIGHT = 960, 720
LUMA = np.array([0.2126, 0.7152, 0.0722], np.float32)


@dataclass(eq=False)
class Thing:
    """A named part of a place: its shape and what it is made of; what moves belongs to a layer."""

    name: str
    mesh: Mesh
    look: dict[str, Any]
    layer: str | None = None


@dataclass(eq=False)
class Lamp:
    """A shape that gives light; one that moves belongs to a layer."""

    shape: dict[str, Any]
    layer: str | None = None

    @property
    def unlit(self) -> dict[str, Any]:
        """The same shape giving no light."""
        return {key: value for key, value in self.shape.items() if key != "emitter"}


@dataclass
class Place:
    """A scene to render.

    `eye`, `target` in metres; `hfov_deg` of the frame's width. With `card_lux` the light is scaled
    so that a level white card at `card_at` receives that; otherwise radiances are cd/m² already.
    """

    id: str
    name: str
    things: list[Thing]
    emitters: list[dict[str, Any]]
    eye: tuple[float, float, float]
    target: tuple[float, float, float]
    hfov_deg: float
    truth: dict[str, Any]
    card_lux: float | None = None
    card_at: tuple[float, float, float] = (0, 6, 3)
    lamps: list[Lamp] = field(default_factory=list)
    max_depth: int = 8
    haze: tuple[float, tuple[float, float, float]] | None = None

    @property
    def layer_names(self) -> list[str]:
        """Layers of the place from the back to the front: lamps before things."""
        members: list[Thing | Lamp] = [*self.lamps, *self.things]
        return list(dict.fromkeys(member.layer for member in members if member.layer is not None))


@dataclass
class Seen:
    """What one render shows: light (h, w, 3) in cd/m², distance (h, w) in metres, numbers."""

    light: np.ndarray
    depth: np.ndarray
    index: np.ndarray


@dataclass
class Cut:
    """A layer cut out of a render: its name, light, cover (h, w) from 0 to 1, and distance."""

    name: str
    light: np.ndarray
    cover: np.ndarray
    distance_m: float


def render_place(place: Place, folder: Path, samples: int, *, seed: int) -> dict[str, Any]:
    """Render a place and write `<id>.tif` and `<id>.json`; returns its line of the manifest."""
    started = time.time()
    scale = 1.0 if place.card_lux is None else place.card_lux / _card_lux(place)

    def seen(things: list[Thing], lamps: list[Lamp], seed: int) -> Seen:
        return _seen(place, things, lamps, samples=samples, seed=seed, scale=scale)

    still = [thing for thing in place.things if thing.layer is None]
    fixed = [lamp for lamp in place.lamps if lamp.layer is None]
    hung = [lamp for lamp in place.lamps if lamp.layer is not None]
    whole = seen(place.things, place.lamps, seed)
    behind = whole if not place.layer_names else seen(still, place.lamps, seed + 1)
    cuts = [_cut(place, name, whole) for name in place.layer_names]
    if hung:
        # Behind a lamp that moves is what is there without it; all else is as its light has it.
        unlit = seen(still, fixed, seed + 2)
        names = {lamp.layer for lamp in hung}
        covers = [cut.cover for cut in cuts if cut.name in names]
        behind = _patched(behind, unlit, np.max(covers, axis=0))
    cuts = [_parted(cut, behind.light) for cut in cuts]
    _write(folder, place, behind, cuts=cuts)
    return {
        "id": place.id,
        "samples": samples,
        "seed": seed,
        "seconds": round(time.time() - started, 1),
        "scale": float(scale),
    }


def _seen(
    place: Place, things: list[Thing], lamps: list[Lamp], *, samples: int, seed: int, scale: float
) -> Seen:
    import mitsuba as mi

    scene = mi.load_dict(_scene_dict(place, things, lamps, samples=samples))
    light, normals, albedo = _radiance(scene, samples, seed)
    depth, index = _geometry(scene)
    clean = _denoised(light * scale, normals, albedo)
    if place.haze is not None:
        clean = _hazed(clean, depth, place.haze)
    return Seen(clean, depth, index)


def _cut(place: Place, name: str, whole: Seen) -> Cut:
    cover = _covered(place, name)
    inside = cover > 0.9 if (cover > 0.9).any() else cover > 0.3
    return Cut(name, whole.light, cover, distance_m=float(np.median(whole.depth[inside])))


def _parted(cut: Cut, behind: np.ndarray) -> Cut:
    """A layer's own light, what shows through at its edge taken off."""
    cover = cut.cover[..., None]
    own = (cut.light - (1 - cover) * behind) / np.maximum(cover, 0.05)
    return replace(cut, light=np.where(cover > 0.05, np.maximum(own, 0), cut.light))


def _patched(lit: Seen, unlit: Seen, cover: np.ndarray) -> Seen:
    """A render with the places of its lamps, and two pixels about them, from another."""
    from scipy.ndimage import binary_dilation

    near = binary_dilation(cover > 0.002, np.ones((5, 5)))
    return Seen(np.where(near[..., None], unlit.light, lit.light), unlit.depth, unlit.index)


def _scene_dict(
    place: Place, things: list[Thing], lamps: list[Lamp], *, samples: int
) -> dict[str, Any]:
    import mitsuba as mi

    camera = {
        "type": "perspective",
        "fov": place.hfov_deg,
        "fov_axis": "x",
        "near_clip": 0.02,
        "far_clip": 5000.0,
        "to_world": mi.ScalarTransform4f().look_at(
            origin=list(place.eye), target=list(place.target), up=[0, 0, 1]
        ),
        "film": {
            "type": "hdrfilm",
            "width": WIDTH,
            "height": HEIGHT,
            "pixel_format": "rgb",
            "rfilter": {"type": "box"},  # the denoiser wants pixels that do not share samples
        },
        "sampler": {"type": "multijitter", "sample_count": samples},
    }
    made: dict[str, Any] = {"type": "scene", "sensor": camera}
    made["integrator"] = {"type": "path", "max_depth": place.max_depth}
    for thing in things:
        made[_key(place, thing)] = _shape(thing)
    for lamp in lamps:
        made[f"b{place.lamps.index(lamp):03d}"] = lamp.shape
    for number, emitter in enumerate(place.emitters):
        made[f"e{number:03d}"] = emitter
    return made


def _key(place: Place, thing: Thing) -> str:
    """The renderer's id of a thing: the same whichever others are left out."""
    return f"a{place.things.index(thing):03d}"


def _shape(thing: Thing) -> Any:
    import mitsuba as mi

    mesh = thing.mesh
    properties = mi.Properties()
    properties["bsdf"] = mi.load_dict(thing.look)
    made = mi.Mesh(
        thing.name,
        vertex_count=len(mesh.vertices),
        face_count=len(mesh.faces),
        has_vertex_normals=False,
        has_vertex_texcoords=mesh.uv is not None,
        props=properties,
    )
    values = mi.traverse(made)
    values["vertex_positions"] = np.ravel(mesh.vertices.astype(np.float32))
    values["faces"] = np.ravel(mesh.faces.astype(np.uint32))
    if mesh.uv is not None:
        values["vertex_texcoords"] = np.ravel(mesh.uv.astype(np.float32))
    values.update()
    return made


def _radiance(scene: Any, samples: int, seed: int) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """Radiance with fireflies clamped, shading normals and albedo, in passes that fit in memory."""
    import mitsuba as mi

    integrator = mi.load_dict(
        {
            "type": "aov",
            "aovs": "nn:sh_normal,al:albedo",
            "img": {"type": "path", "max_depth": 9},
        }
    )
    passes = max(1, samples // 16)
    parts = []
    for index in range(passes):
        image = mi.render(
            scene, spp=min(16, samples), seed=seed * 100 + index, integrator=integrator
        )
        parts.append(np.array(image, dtype=np.float32))
    stack = np.stack(parts)
    light = stack[..., :3]
    if passes >= 4:  # a sample far over its fellows at the same pixel is a firefly
        level = light @ LUMA
        typical = np.median(level, axis=0)
        top = np.maximum(6 * typical, 1e-6)[None]
        light = light * np.minimum(1, top / np.maximum(level, 1e-9))[..., None]
    mean = stack.mean(axis=0)
    return light.mean(axis=0), mean[..., 3:6], mean[..., 6:9]


def _geometry(scene: Any) -> tuple[np.ndarray, np.ndarray]:
    """Distance in metres (inf for sky) and shape number (255 for sky), one ray a pixel."""
    import drjit as dr
    import mitsuba as mi

    sensor = scene.sensors()[0]
    y, x = np.mgrid[0:HEIGHT, 0:WIDTH]
    place = mi.Point2f((x.ravel() + 0.5) / WIDTH, (y.ravel() + 0.5) / HEIGHT)
    ray, _ = sensor.sample_ray(0.0, 0.5, place, mi.Point2f(0.5, 0.5))
    hit = scene.ray_intersect(ray)
    depth = np.where(np.array(hit.is_valid()), np.array(hit.t), np.inf)
    numbers = np.full(depth.shape, 255, np.uint8)
    shapes = scene.shapes()
    for at, shape in enumerate(shapes):
        if not shape.id().startswith("a"):
            continue  # a lamp: seen, but no object of the place
        number = int(shape.id()[1:])
        same = dr.reinterpret_array(mi.UInt32, hit.shape) == dr.reinterpret_array(
            mi.UInt32, mi.ShapePtr(shapes[at])
        )
        numbers[np.array(same & hit.is_valid())] = number
    return depth.reshape(HEIGHT, WIDTH).astype(np.float32), numbers.reshape(HEIGHT, WIDTH)


def _card_lux(place: Place) -> float:
    """Illuminance (in the renderer's units times π) of a level white card in the place's light."""
    import mitsuba as mi

    x, y, z = place.card_at
    card = {
        "type": "rectangle",
        "to_world": mi.ScalarTransform4f().translate([x, y, z]).scale([0.05, 0.05, 1]),
        "bsdf": {"type": "diffuse", "reflectance": {"type": "rgb", "value": [1.0, 1.0, 1.0]}},
    }
    camera = {
        "type": "perspective",
        "fov": 20.0,
        "to_world": mi.ScalarTransform4f().look_at(
            origin=[x, y, z + 0.2], target=[x, y, z], up=[0, 1, 0]
        ),
        "film": {"type": "hdrfilm", "width": 16, "height": 16, "pixel_format": "rgb"},
    }
    made: dict[str, Any] = {"type": "scene", "sensor": camera, "card": card}
    made["integrator"] = {"type": "path", "max_depth": 2}
    for number, emitter in enumerate(place.emitters):
        made[f"e{number}"] = emitter
    image = np.array(mi.render(mi.load_dict(made), spp=4096))
    return float(np.pi * (image @ LUMA).mean())


def _denoised(light: np.ndarray, normals: np.ndarray, albedo: np.ndarray) -> np.ndarray:
    import mitsuba_oidn as oidn

    out = oidn.denoise(
        np.ascontiguousarray(light, np.float32),
        albedo=np.ascontiguousarray(np.clip(albedo, 0, 1), np.float32),
        normal=np.ascontiguousarray(normals, np.float32),
        hdr=True,
    )
    return np.maximum(np.asarray(out), 0).astype(np.float32)


def _hazed(light: np.ndarray, depth: np.ndarray, haze: tuple[float, Any]) -> np.ndarray:
    """Air between the eye and far things: `haze` is a distance in metres and a colour in cd/m²."""
    reach_m, air = haze
    share = np.where(np.isfinite(depth), 1 - np.exp(-np.minimum(depth, 1e5) / reach_m), 0.0)[
        ..., None
    ]
    return (light * (1 - share) + np.array(air, np.float32) * share).astype(np.float32)


def _covered(place: Place, name: str) -> np.ndarray:
    """How much of each pixel a layer covers."""
    import mitsuba as mi

    things = [thing for thing in place.things if thing.layer == name]
    lamps = [Lamp(lamp.unlit) for lamp in place.lamps if lamp.layer == name]
    made = _scene_dict(place, things, [], samples=16)
    made.update({f"c{number:03d}": lamp.shape for number, lamp in enumerate(lamps)})
    made["integrator"] = {"type": "path", "max_depth": 2, "hide_emitters": True}
    made["sensor"]["film"]["pixel_format"] = "rgba"
    image = np.array(mi.render(mi.load_dict(made), spp=64))
    return np.clip(image[..., 3], 0, 1).astype(np.float32)


def _write(folder: Path, place: Place, seen: Seen, *, cuts: list[Cut]) -> None:
    """One TIFF of half floats (radiance, distance, object numbers, layers) and its JSON."""
    import tifffile

    folder.mkdir(parents=True, exist_ok=True)
    packing = {
        "compression": "zlib",
        "compressionargs": {"level": 9},
        "metadata": None,
        "software": False,
    }
    with tifffile.TiffWriter(folder / f"{place.id}.tif") as file:
        file.write(
            _half(seen.light), photometric="rgb", predictor=3, description="cd/m2", **packing
        )
        file.write(
            _half(np.where(np.isfinite(seen.depth), seen.depth, 60000.0)),
            photometric="minisblack",
            predictor=3,
            description="m",
            **packing,
        )
        file.write(
            seen.index.astype(np.uint8),
            photometric="minisblack",
            predictor=2,
            description="objects",
            **packing,
        )
        for cut in cuts:
            box = _box_of(cut.cover)
            part = np.concatenate([cut.light, cut.cover[..., None]], axis=-1)[box]
            file.write(
                _half(part),
                photometric="rgb",
                extrasamples=["unassalpha"],
                predictor=3,
                description=f"layer {cut.name}",
                **packing,
            )
    facts = {
        "format": "oxlen-scene/2",
        "id": place.id,
        "name": place.name,
        "width": WIDTH,
        "height": HEIGHT,
        "hfov_deg": place.hfov_deg,
        "objects": {thing.name: number for number, thing in enumerate(place.things)},
        "layers": [
            {
                "name": cut.name,
                "left": int(_box_of(cut.cover)[1].start),
                "top": int(_box_of(cut.cover)[0].start),
                "distance_m": cut.distance_m,
            }
            for cut in cuts
        ],
        **place.truth,
    }
    (folder / f"{place.id}.json").write_text(json.dumps(facts, indent=1, ensure_ascii=False) + "\n")


def _half(values: np.ndarray) -> np.ndarray:
    """Half floats; their 65504 cd/m² is enough for all but the sun, which is written as that."""
    return np.clip(values, 0, 65504).astype(np.float16)


def _box_of(alpha: np.ndarray) -> tuple[slice, slice]:
    rows, columns = np.nonzero(alpha > 0.004)
    return slice(rows.min(), rows.max() + 1), slice(columns.min(), columns.max() + 1)
