"""What files of one mode weigh, and how fast the phone writes them."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, field

from oxlen.core.kit.phone_words import FileFormat


@dataclass(frozen=True)
class WrittenFiles:
    """Megabytes (10⁶ bytes) of a frame by format, frames a second, and frames until a burst stalls.

    `frame_gap_s` is how long the phone needs between two frames of a series, None where nobody
    knows. `raw_packed_mb` is a RAW file compressed with loss, None where the phone has no such
    choice; `raw_mb` None where this mode writes no RAW. `plus_minus` says how far a figure of that
    name may be off.
    """

    processed_mb: float = 5.0
    raw_mb: float | None = 25.0
    raw_packed_mb: float | None = None
    processed_fps: float = 10.0
    raw_fps: float = 3.0
    processed_burst: int = 100
    raw_burst: int = 10
    frame_gap_s: float | None = None
    plus_minus: Mapping[str, float] = field(default_factory=dict)

    def frame_mb(self, file_format: FileFormat, *, packed: bool = False) -> float:
        """Megabytes of one frame as it is saved."""
        raw = self.raw_packed_mb if packed and self.raw_packed_mb is not None else self.raw_mb
        raw_mb = 0.0 if raw is None else raw
        return {
            "processed": self.processed_mb,
            "raw": raw_mb,
            "both": self.processed_mb + raw_mb,
        }[file_format]

    def frame_plus_minus_mb(self, file_format: FileFormat) -> float:
        """How far that may be off for one picture: busy ones weigh more."""
        processed, raw = (self.plus_minus.get(name, 0.0) for name in ("processed_mb", "raw_mb"))
        both = math.hypot(processed, raw)
        return {"processed": processed, "raw": raw, "both": both}[file_format]

    def fps(self, file_format: FileFormat) -> float:
        """Frames a second it keeps up until the burst stalls."""
        return self.processed_fps if file_format == "processed" else self.raw_fps

    def burst(self, file_format: FileFormat) -> int:
        """Frames of a burst until it stalls."""
        return self.processed_burst if file_format == "processed" else self.raw_burst

    def fits(self, file_format: FileFormat, free_mb: float, *, packed: bool = False) -> int:
        """How many frames the free storage takes."""
        each = self.frame_mb(file_format, packed=packed)
        return math.floor(free_mb / each) if each > 0 else 0
