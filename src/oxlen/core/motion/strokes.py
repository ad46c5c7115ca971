"""Words and shapes as strokes of a lamp: what is lit, what is passed in the dark, how long."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from oxlen.core.errors import BadInput
from oxlen.core.units import require_positive

Points = NDArray[np.float64]
HIGH, WIDE, SPACE = 6.0, 4.0, 1.6
"""Letters are drawn on a grid six high and four wide, with so much between them. Own choice."""
NARROW = {"I": 0.0, "1": 1.5, "!": 0.0, ".": 0.0, "'": 0.5}
"""Own choice: width of letters narrower than the grid."""
NEAR_SHARE = 0.3
"""A cut so near the end of a stroke, as a share of the part, is made there. Own choice."""
CORNER_DEG = 50.0
"""A turn so sharp is a corner that is paced: the hand must know when it is there. Own choice."""

# Each stroke is a run of places, column then row from the top, as a pen would draw it.
_LETTERS: Mapping[str, str] = {
    "A": "06 20 46/14 34",
    "B": "06 00 30 41 42 33 03/33 44 45 36 06",
    "C": "41 30 10 01 05 16 36 45",
    "D": "06 00 20 42 44 26 06",
    "E": "40 00 06 46/03 33",
    "F": "40 00 06/03 33",
    "G": "41 30 10 01 05 16 36 45 43 23",
    "H": "00 06/03 43/40 46",
    "I": "00 06",
    "J": "40 45 36 16 05",
    "K": "00 06/40 03 46",
    "L": "00 06 46",
    "M": "06 00 23 40 46",
    "N": "06 00 46 40",
    "O": "10 01 05 16 36 45 41 30 10",
    "P": "06 00 30 41 42 33 03",
    "Q": "10 01 05 16 36 45 41 30 10/24 46",
    "R": "06 00 30 41 42 33 03/23 46",
    "S": "41 30 10 01 02 13 33 44 45 36 16 05",
    "T": "00 40/20 26",
    "U": "00 05 16 36 45 40",
    "V": "00 26 40",
    "W": "00 16 23 36 40",
    "X": "00 46/40 06",
    "Y": "00 23 40/23 26",
    "Z": "00 40 06 46",
    "0": "10 01 05 16 36 45 41 30 10",
    "1": "01 20 26",
    "2": "01 10 30 41 42 06 46",
    "3": "00 40 22 42 45 36 16 05",
    "4": "36 30 04 44",
    "5": "40 00 03 33 44 45 36 06",
    "6": "40 12 04 05 16 36 45 44 33 03",
    "7": "00 40 16",
    "8": "13 02 01 10 30 41 42 33 13 04 05 16 36 45 44 33",
    "9": "43 13 02 01 10 30 41 42 34 16",
    "-": "13 33",
    "!": "00 04/06 06",
    ".": "06 06",
    "'": "00 01",
    "&": "46 11 10 20 21 03 05 16 26 43",
}


@dataclass(frozen=True)
class Strokes:
    """Strokes (n, 2) in shares of the height, x right and y down, in the order they are drawn."""

    lit: tuple[Points, ...]

    @property
    def width(self) -> float:
        """Width for a height of 1."""
        xs = np.concatenate([line[:, 0] for line in self.lit])
        return float(np.ptp(xs))

    @property
    def lit_length(self) -> float:
        """Way with the lamp on, for a height of 1."""
        return float(sum(_length(line) for line in self.lit))

    @property
    def dark_length(self) -> float:
        """Way between strokes with the lamp off, for a height of 1."""
        ends = zip(self.lit[:-1], self.lit[1:], strict=True)
        return float(sum(np.hypot(*(after[0] - before[-1])) for before, after in ends))

    @property
    def length(self) -> float:
        """The whole way of the hand, for a height of 1."""
        return self.lit_length + self.dark_length

    def in_parts(self, count: int) -> tuple[Strokes, ...]:
        """The same strokes in parts of about the same way, cut between strokes where one is near.

        A stroke across a cut is drawn on from there in the next part.
        """
        ends = np.cumsum([_length(line) for line in self.lit])
        whole = ends[-1] / count
        cuts = [whole * place for place in range(1, count)]
        near = [ends[np.argmin(np.abs(ends - cut))] for cut in cuts]
        slack = NEAR_SHARE * whole
        cuts = [
            float(end) if abs(end - cut) <= slack else cut
            for cut, end in zip(cuts, near, strict=True)
        ]
        borders = [0.0, *cuts, float(ends[-1])]
        return tuple(
            Strokes(tuple(self._between(first, last))) for first, last in pairwise(borders)
        )

    def _between(self, first: float, last: float) -> Iterator[Points]:
        """The part of the strokes between two lengths of the lit way."""
        at = 0.0
        for line in self.lit:
            length = _length(line)
            begin, end = max(first - at, 0.0), min(last - at, length)
            if end - begin > 1e-9:
                along = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(line, axis=0).T))])
                inner = along[(along > begin) & (along < end)]
                places = np.concatenate([[begin], inner, [end]])
                yield np.column_stack([np.interp(places, along, line[:, axis]) for axis in (0, 1)])
            at += length

    def corners(self) -> Points:
        """How far along the way (n, 2: at, stroke) sharp corners are, for a height of 1."""
        found, at = [], 0.0
        for number, stroke in enumerate(self.lit):
            steps = np.diff(stroke, axis=0)
            lengths = np.hypot(*steps.T)
            angles = np.degrees(np.unwrap(np.arctan2(steps[:, 1], steps[:, 0])))
            along = at + np.cumsum(lengths)
            for place in range(len(steps) - 1):
                if abs(angles[place + 1] - angles[place]) >= CORNER_DEG:
                    found.append((along[place], number))
            at += float(lengths.sum())
            if number + 1 < len(self.lit):
                at += float(np.hypot(*(self.lit[number + 1][0] - stroke[-1])))
        return np.array(found, dtype=float).reshape(-1, 2)


def strokes_of(what: str) -> Strokes:
    """The strokes of a shape by its name, else of a word in capitals.

    BadInput for a letter that is not known, and where there is nothing to draw.

    >>> f"{strokes_of('circle').lit_length:.2f}"
    '3.14'
    """
    text = what.strip()
    # In capitals it is the word that is meant: BOAT is four letters, boat is a hull and a sail.
    shape = None if text.isupper() else SHAPES.get(text.lower())
    if shape is not None:
        return Strokes(shape)
    lit: list[Points] = []
    left = 0.0
    for letter in text.upper():
        if letter == " ":
            left += WIDE
            continue
        drawn = _LETTERS.get(letter)
        if drawn is None:
            raise BadInput(f"There are no strokes for “{letter}”.", "what")
        lit += [(line + np.array([left, 0.0])) / HIGH for line in _read(drawn)]
        left += NARROW.get(letter, WIDE) + SPACE
    if not lit:
        raise BadInput("Enter a word, or a shape such as circle, heart or star.", "what")
    return Strokes(tuple(lit))


def image_speed_mm_s(speed_m_s: float, distance_m: float, focal_mm: float) -> float:
    """Speed of a lamp's image on the sensor (mm/s): v·f/D, for a hand that moves across the view.

    Takes positive figures. By similar triangles. [RAY2002]

    >>> f"{image_speed_mm_s(0.6, 4.0, 6.8):.2f}"
    '1.02'
    """
    require_positive("speed", speed_m_s, "m/s")
    return 1000 * speed_m_s * focal_mm / (1000 * float(require_positive("D", distance_m, "m")))


def globe_luminance_cd_m2(flux_lm: float, diameter_m: float) -> float:
    """Luminance (cd/m²) of a globe that shines alike every way: Φ/(π²·d²).

    Its intensity Φ/4π over the disc that is seen. Takes positive figures. By geometry.

    >>> f"{globe_luminance_cd_m2(20.0, 0.02):.0f}"
    '5066'
    """
    require_positive("flux", flux_lm, "lm")
    across = float(require_positive("diameter", diameter_m, "m"))
    return float(flux_lm / (np.pi * across) ** 2)


def _read(drawn: str) -> list[Points]:
    return [
        np.array([(int(place[0]), int(place[1])) for place in part.split()], dtype=float)
        for part in drawn.split("/")
    ]


def _length(stroke: Points) -> float:
    return float(np.hypot(*np.diff(stroke, axis=0).T).sum())


def _turned(count: int, from_deg: float, to_deg: float) -> Points:
    angle = np.radians(np.linspace(from_deg, to_deg, count))
    return np.column_stack([0.5 + 0.5 * np.cos(angle), 0.5 + 0.5 * np.sin(angle)])


def _star() -> Points:
    return _turned(6, -90, -90 + 2 * 360)


def _heart() -> Points:
    t = np.linspace(0, 2 * np.pi, 60)
    x = 16 * np.sin(t) ** 3
    y = 13 * np.cos(t) - 5 * np.cos(2 * t) - 2 * np.cos(3 * t) - np.cos(4 * t)
    points = np.column_stack([x, -y])
    points -= points.min(axis=0)
    return np.asarray(points / points[:, 1].max())


def _spiral() -> Points:
    turns = np.linspace(0.02, 1, 120)
    angle = 2 * np.pi * 3 * turns
    return np.column_stack([0.5 + 0.5 * turns * np.cos(angle), 0.5 + 0.5 * turns * np.sin(angle)])


def _boat() -> tuple[Points, ...]:
    hull = np.array([(0, 0.7), (0.25, 1), (0.95, 1), (1.2, 0.7), (0, 0.7)])
    sail = np.array([(0.55, 0.65), (0.55, 0), (1.0, 0.6), (0.55, 0.6)])
    return hull, sail


SHAPES: Mapping[str, tuple[Points, ...]] = {
    "circle": (_turned(61, -90, 270),),
    "heart": (_heart(),),
    "star": (_star(),),
    "spiral": (_spiral(),),
    "boat": _boat(),
}
