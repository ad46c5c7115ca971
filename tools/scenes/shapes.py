"""Shapes as meshes: boards, hulls, ground and water, turned and bent things. Metres, z up."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np
import trimesh
from numpy.typing import NDArray

Points = NDArray[np.float64]


@dataclass
class Mesh:
    """Vertices (n, 3), faces (m, 3) and, when it is painted, texture places (n, 2)."""

    vertices: Points
    faces: NDArray[np.int64]
    uv: Points | None = None

    def moved(self, x: float = 0, y: float = 0, z: float = 0) -> Mesh:
        """The mesh shifted."""
        return Mesh(self.vertices + np.array([x, y, z]), self.faces, self.uv)

    def turned(self, degrees: float, axis: Sequence[float] = (0, 0, 1)) -> Mesh:
        """The mesh turned about an axis through the origin."""
        matrix = trimesh.transformations.rotation_matrix(np.radians(degrees), axis)[:3, :3]
        return Mesh(self.vertices @ matrix.T, self.faces, self.uv)

    def scaled(self, x: float, y: float, z: float) -> Mesh:
        """The mesh stretched."""
        return Mesh(self.vertices * np.array([x, y, z]), self.faces, self.uv)


def joined(*meshes: Mesh) -> Mesh:
    """Several meshes as one; painted only when all are."""
    offsets = np.cumsum([0] + [len(m.vertices) for m in meshes[:-1]])
    uv = None
    if all(m.uv is not None for m in meshes):
        uv = np.concatenate([m.uv for m in meshes if m.uv is not None])
    return Mesh(
        np.concatenate([m.vertices for m in meshes]),
        np.concatenate([m.faces + o for m, o in zip(meshes, offsets, strict=True)]),
        uv,
    )


def box(width: float, depth: float, height: float, *, bevel: float = 0.0) -> Mesh:
    """A box on the ground, centred in x and y; painted side by side at 1 m a texture."""
    w, d, h, b = width / 2, depth / 2, height, bevel
    faces, vertices, uv = [], [], []
    sides = [
        ((-w, -d, b), (w, -d, b), (w, -d, h - b), (-w, -d, h - b)),
        ((w, d, b), (-w, d, b), (-w, d, h - b), (w, d, h - b)),
        ((-w, d, b), (-w, -d, b), (-w, -d, h - b), (-w, d, h - b)),
        ((w, -d, b), (w, d, b), (w, d, h - b), (w, -d, h - b)),
        ((-w + b, -d + b, h), (w - b, -d + b, h), (w - b, d - b, h), (-w + b, d - b, h)),
        ((-w, d, 0), (w, d, 0), (w, -d, 0), (-w, -d, 0)),
    ]
    for corners in sides:
        start = len(vertices)
        vertices += list(corners)
        across = np.linalg.norm(np.subtract(corners[1], corners[0]))
        up = np.linalg.norm(np.subtract(corners[3], corners[0]))
        uv += [(0, 0), (across, 0), (across, up), (0, up)]
        faces += [(start, start + 1, start + 2), (start, start + 2, start + 3)]
    if b:  # the slanted rim between the sides and the top
        rim_low = [(-w, -d, h - b), (w, -d, h - b), (w, d, h - b), (-w, d, h - b)]
        rim_top = [(-w + b, -d + b, h), (w - b, -d + b, h), (w - b, d - b, h), (-w + b, d - b, h)]
        for i in range(4):
            j, start = (i + 1) % 4, len(vertices)
            vertices += [rim_low[i], rim_low[j], rim_top[j], rim_top[i]]
            uv += [(0, 0), (1, 0), (1, 0.02), (0, 0.02)]
            faces += [(start, start + 1, start + 2), (start, start + 2, start + 3)]
    return Mesh(np.array(vertices, float), np.array(faces), np.array(uv, float))


def boards(
    count: int, width: float, length: float, *, thickness: float, gap: float = 0.006, seed: int = 0
) -> Mesh:
    """Boards side by side along x, each along y, none quite like its neighbour."""
    draw = np.random.default_rng(seed)
    made = []
    for index in range(count):
        shift = draw.normal(0, 0.004)
        board = box(
            width - gap, length * (1 - 0.01 * draw.random()), thickness, bevel=min(0.004, gap)
        )
        assert board.uv is not None
        board.uv = board.uv + draw.random(2) * 7
        x = (index - (count - 1) / 2) * width
        made.append(board.turned(draw.normal(0, 0.15)).moved(x, shift, draw.normal(0, 0.0015)))
    return joined(*made)


def surface(
    height: Callable[[Points, Points], Points],
    x_span: tuple[float, float],
    y_span: tuple[float, float],
    *,
    steps: tuple[int, int],
    grow: float = 1.0,
    tile: float = 1.0,
) -> Mesh:
    """A height field over a rectangle; with `grow` rows grow wider apart with distance in y."""
    u = np.linspace(0, 1, steps[1]) ** grow
    x, y = np.meshgrid(np.linspace(*x_span, steps[0]), y_span[0] + u * (y_span[1] - y_span[0]))
    z = np.broadcast_to(height(x, y), x.shape)
    vertices = np.stack([x, y, z], axis=-1).reshape(-1, 3)
    uv = np.stack([x, y], axis=-1).reshape(-1, 2) / tile
    return Mesh(vertices, _grid_faces(steps[1], steps[0]), uv)


def swept(
    rows: Sequence[Points], *, closed: bool = False, tile: tuple[float, float] = (1, 1)
) -> Mesh:
    """A skin over rows of points, each row with as many points as the others."""
    grid = np.asarray(rows, float)
    if closed:
        grid = np.concatenate([grid, grid[:, :1]], axis=1)
    count_v, count_u = grid.shape[:2]
    along = np.linspace(0, 1, count_v)[:, None] * np.ones(count_u)
    across = np.ones(count_v)[:, None] * np.linspace(0, 1, count_u)
    uv = np.stack([along * tile[0], across * tile[1]], axis=-1).reshape(-1, 2)
    return Mesh(grid.reshape(-1, 3), _grid_faces(count_v, count_u), uv)


def turned_on_lathe(profile: Sequence[tuple[float, float]], sides: int = 64) -> Mesh:
    """A profile of (radius, height) spun about z; painted once around and once up."""
    angle = np.linspace(0, 2 * np.pi, sides + 1)
    rows = [
        np.stack([r * np.cos(angle), r * np.sin(angle), np.full_like(angle, z)], axis=-1)
        for r, z in profile
    ]
    grid = np.asarray(rows)
    lengths = np.concatenate([[0], np.cumsum(np.linalg.norm(np.diff(profile, axis=0), axis=1))])
    v = lengths / lengths[-1]
    u = np.linspace(0, 1, sides + 1)
    uv = np.stack(np.meshgrid(u, v), axis=-1).reshape(-1, 2)
    return Mesh(grid.reshape(-1, 3), _grid_faces(len(profile), sides + 1)[:, ::-1], uv)


def tube(path: Points, radius: float | Sequence[float], sides: int = 12) -> Mesh:
    """A round rope, spar or bar along a path of points."""
    path = np.asarray(path, float)
    radii = np.broadcast_to(np.asarray(radius, float), len(path))
    ahead = np.gradient(path, axis=0)
    ahead /= np.linalg.norm(ahead, axis=1, keepdims=True)
    up = np.where(np.abs(ahead[:, 2:]) > 0.9, [[1.0, 0, 0]], [[0, 0, 1.0]])
    side = np.cross(ahead, up)
    side /= np.linalg.norm(side, axis=1, keepdims=True)
    over = np.cross(side, ahead)
    angle = np.linspace(0, 2 * np.pi, sides, endpoint=False)
    rows = [
        p + r * (np.cos(angle)[:, None] * s + np.sin(angle)[:, None] * o)
        for p, r, s, o in zip(path, radii, side, over, strict=True)
    ]
    return swept(rows, closed=True, tile=(len(path) / 4, 1))


def hull(length: float = 5.2, beam: float = 1.9, depth: float = 0.95, *, strakes: int = 9) -> Mesh:
    """A clinker hull from stem to transom, bow towards +x, keel along z = 0, with lapped planks."""
    stations = np.linspace(0, 1, 56)
    rows = []
    for s in stations:
        rows.append(_station(s, length, beam, depth=depth, strakes=strakes))
    skin = swept(rows, tile=(length, 1))
    inner = swept([row * [1, 0.965, 1] + [0, 0, 0.03] for row in rows], tile=(length, 1))
    inner.faces = inner.faces[:, ::-1]
    transom = _fan(rows[0])
    rail_left = tube(np.array([row[0] for row in rows]), 0.028)
    rail_right = tube(np.array([row[-1] for row in rows]), 0.028)
    return joined(skin, inner, transom, rail_left, rail_right)


def hull_rails(length: float = 5.2, beam: float = 1.9, depth: float = 0.95) -> Mesh:
    """The rubbing strakes and stem of the same hull, a little proud of it."""
    rows = [_station(s, length, beam, depth=depth, strakes=9) for s in np.linspace(0, 1, 56)]
    left = np.array([row[1] for row in rows]) + np.array([0, 0.012, -0.01])
    right = np.array([row[-2] for row in rows]) + np.array([0, -0.012, -0.01])
    stem = np.array([rows[-1][i] for i in range(len(rows[-1]) // 2 + 1)])
    keel = np.array([row[len(row) // 2] for row in rows]) - [0, 0, 0.03]
    parts = [tube(left, 0.03), tube(right, 0.03), tube(stem, 0.035), tube(keel, 0.04)]
    thwarts = [
        box(0.22, 2 * abs(rows[i][3][1]) * 0.97, 0.03).moved(rows[i][3][0], 0, rows[i][3][2])
        for i in (14, 27, 40)
    ]
    return joined(*parts, *thwarts)


def _station(s: float, length: float, beam: float, *, depth: float, strakes: int) -> Points:
    """A cross section from one rail down round the keel to the other; s = 0 transom, 1 stem."""
    fullness = (1 - np.clip((s - 0.30) / 0.70, 0, 1) ** 2.2) * (
        0.80 + 0.20 * np.clip(s / 0.3, 0, 1)
    )
    half = max(beam / 2 * fullness, 0.012)
    sheer = depth * (1 + 0.42 * np.clip((s - 0.4) / 0.6, 0, 1) ** 2 + 0.10 * (1 - s) ** 3)
    rocker = (
        0.30 * np.clip((s - 0.72) / 0.28, 0, 1) ** 2.4 + 0.10 * (1 - np.clip(s / 0.3, 0, 1)) ** 2
    )
    points = []
    per = 4
    for index in range(strakes * per + 1):
        t = index / (strakes * per)  # 0 at the rail, 1 at the keel
        a = t * np.pi / 2
        lap = 0.010 * (1 - (index % per) / per)  # each plank is proud at its lower edge
        bulge = np.cos(a) ** 0.62
        z = rocker + (sheer - rocker) * (1 - np.sin(a) ** 1.35)
        points.append((half * bulge + (lap if half > 0.1 else 0.0), z))
    x = (s - 0.5) * length + 0.30 * np.clip((s - 0.8) / 0.2, 0, 1) * 1.0
    left = [(x + _rake(s, z), y, z) for y, z in points]
    right = [(x + _rake(s, z), -y, z) for y, z in reversed(points[:-1])]
    return np.array(left + right)


def _rake(s: float, z: float) -> float:
    return 0.30 * z * np.clip((s - 0.7) / 0.3, 0, 1) ** 2 - 0.10 * z * (1 - np.clip(s / 0.2, 0, 1))


def _fan(ring: Points) -> Mesh:
    centre = ring.mean(axis=0)
    vertices = np.concatenate([ring, centre[None]])
    last = len(ring)
    faces = [(i, i + 1, last) for i in range(len(ring) - 1)]
    return Mesh(vertices, np.array(faces), vertices[:, 1:] * 1.0)


def sail(luff: float = 5.0, foot: float = 2.3, belly: float = 0.32) -> Mesh:
    """A three-cornered sail with belly, mast along z at the origin, boom towards −x."""
    rows = []
    for v in np.linspace(0, 1, 40):
        width = foot * (1 - v) ** 0.93
        u = np.linspace(0, 1, 24)
        y = belly * np.sin(np.pi * u**0.7) * np.sin(np.pi * (0.15 + 0.85 * v)) * (1 - 0.3 * v)
        rows.append(np.stack([-width * u, y, np.full_like(u, 0.25) + v * luff], axis=-1))
    return swept(rows, tile=(6, 1))


def waves(
    seed: int, count: int, lengths_m: tuple[float, float], *, steepness: float, wind_deg: float
) -> Callable[[Points, Points], Points]:
    """A height from many directional sines, shorter ones lower."""
    draw = np.random.default_rng(seed)
    length = np.exp(draw.uniform(np.log(lengths_m[0]), np.log(lengths_m[1]), count))
    angle = np.radians(wind_deg + draw.normal(0, 32, count))
    phase = draw.uniform(0, 2 * np.pi, count)
    size = steepness * length / (2 * np.pi) / np.sqrt(count)

    def height(x: Points, y: Points) -> Points:
        z = np.zeros_like(x)
        for k, a, p, s in zip(2 * np.pi / length, angle, phase, size, strict=True):
            wave = k * (x * np.cos(a) + y * np.sin(a)) + p
            z += s * (np.sin(wave) + 0.18 * np.sin(2 * wave + 0.7))
        return z

    return height


def rough(seed: int, scale_m: float, height_m: float) -> Callable[[Points, Points], Points]:
    """Uneven ground: a few octaves of smooth noise."""
    draw = np.random.default_rng(seed)
    waves_of = [
        (2 * np.pi / (scale_m * 0.5**octave), height_m * 0.52**octave, *draw.uniform(0, 6.3, 3))
        for octave in range(6)
        for _ in range(5)
    ]

    def height(x: Points, y: Points) -> Points:
        z = np.zeros_like(x)
        for k, h, a, p, q in waves_of:
            z += h / 2.2 * np.sin(k * (x * np.cos(a) + y * np.sin(a)) + p + np.sin(k * 0.6 * y + q))
        return z

    return height


def scattered(mesh: Mesh, places: Sequence[tuple[float, float, float, float]], seed: int) -> Mesh:
    """Copies of a mesh at (x, y, z, size), each turned its own way."""
    draw = np.random.default_rng(seed)
    return joined(
        *(
            mesh.scaled(s, s * draw.uniform(0.7, 1.2), s * draw.uniform(0.5, 1))
            .turned(draw.uniform(0, 360))
            .moved(x, y, z)
            for x, y, z, s in places
        )
    )


def lump(seed: int, *, roughness: float, detail: int, fine: float = 0.0) -> Mesh:
    """A rounded lump about a metre across, to be scaled: pebbles, and crowns of trees."""
    made = trimesh.creation.icosphere(subdivisions=detail, radius=0.5)
    draw = np.random.default_rng(seed)
    at = np.asarray(made.vertices)
    swell = np.zeros(len(at))
    for octave in range(4):
        for _ in range(4):
            way = draw.normal(size=3) * 3.2 * 1.9**octave
            swell += 0.55**octave * np.sin(at @ way + draw.uniform(0, 6.3)) / 2
    factor = 1 + roughness * swell + fine * draw.normal(size=len(at))
    return Mesh(at * factor[:, None], np.asarray(made.faces), at[:, :2])


def stone(seed: int) -> Mesh:
    """A pebble of about a metre, to be scaled."""
    return lump(seed, roughness=0.28, detail=2)


def crown(seed: int) -> Mesh:
    """A tree's crown of about a metre, to be scaled."""
    return lump(seed, roughness=0.34, detail=4, fine=0.035)


def ball(radius: float, subdivisions: int = 4) -> Mesh:
    """A ball about the origin."""
    made = trimesh.creation.icosphere(subdivisions=subdivisions, radius=radius)
    return Mesh(np.asarray(made.vertices), np.asarray(made.faces), np.asarray(made.vertices)[:, :2])


def grass(count: int, span: tuple[float, float, float, float], height: float, *, seed: int) -> Mesh:
    """Tufts of blades over a rectangle (x0, x1, y0, y1)."""
    draw = np.random.default_rng(seed)
    vertices, faces = [], []
    for _ in range(count):
        x, y = draw.uniform(span[0], span[1]), draw.uniform(span[2], span[3])
        lean = draw.normal(0, 0.35, 2) * height
        tall, wide = height * draw.uniform(0.5, 1.2), 0.012
        a = draw.uniform(0, np.pi)
        dx, dy = wide * np.cos(a), wide * np.sin(a)
        start = len(vertices)
        vertices += [
            (x - dx, y - dy, 0),
            (x + dx, y + dy, 0),
            (x + lean[0] * 0.4 + dx * 0.7, y + lean[1] * 0.4 + dy * 0.7, tall * 0.6),
            (x + lean[0], y + lean[1], tall),
        ]
        faces += [(start, start + 1, start + 2), (start, start + 2, start + 3)]
    points = np.array(vertices, float)
    return Mesh(points, np.array(faces), points[:, :2])


def _grid_faces(rows: int, columns: int) -> NDArray[np.int64]:
    index = np.arange(rows * columns).reshape(rows, columns)
    a, b = index[:-1, :-1].ravel(), index[:-1, 1:].ravel()
    c, d = index[1:, 1:].ravel(), index[1:, :-1].ravel()
    return np.concatenate([np.stack([a, b, c], -1), np.stack([a, c, d], -1)])
