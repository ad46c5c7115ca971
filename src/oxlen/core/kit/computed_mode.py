"""What a phone computes from several frames: filter, night, merged RAW, soft background."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from oxlen.core.kit.phone_words import FileFormat

ComputedKind = Literal["filter", "night", "merged", "stacked", "background"]


@dataclass(frozen=True)
class ComputedMode:
    """A computed mode: on which lenses, how strong, how long, of how many frames, what it writes.

    `gap_s` is between its frames. `strengths_stops` are the stops of a *filter*. A
    *background* mode blurs the background as an aperture of `looks_like_f` would, from
    `nearest_m` to `farthest_m` of subject.
    """

    id: str
    name: str
    kind: ComputedKind
    lenses: tuple[str, ...]
    writes: FileFormat = "processed"
    strengths_stops: tuple[float, ...] = ()
    shortest_s: float | None = None
    longest_s: float | None = None
    frames: int | None = None
    gap_s: float | None = None
    looks_like_f: float | None = None
    nearest_m: float | None = None
    farthest_m: float | None = None
