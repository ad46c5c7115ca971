"""The result of stacked frames, as JSON."""

from __future__ import annotations

from pydantic import BaseModel

from oxlen.core.frames.gain import SetGain


class LeftOutFile(BaseModel):
    """A file that is not in the result, and why."""

    name: str
    why: str


class StackFile(BaseModel):
    """Frames in the result, those left out, and what they amount to.

    `light_s` is the light in seconds of one frame's exposure, `time_s` how long the set took,
    `virtual_nd_stops` the ND that one frame of that time would have needed,
    `land_moved_px` how far frames of the foreground were off those of the sky, `land_sky_share` how
    much just below the line is as light as the sky.
    """

    frames: int
    left_out: list[LeftOutFile]
    light_s: float
    time_s: float
    noise_gain_stops: float
    virtual_nd_stops: float
    width: int
    height: int
    used: list[str] = []
    land_moved_px: float = 0.0
    land_sky_share: float = 0.0


def stack_result(
    gain: SetGain,
    *,
    used: list[str],
    left_out: list[tuple[str, str]],
    size: tuple[int, int],
    land_moved_px: float = 0.0,
    land_sky_share: float = 0.0,
) -> StackFile:
    """The file of what a set came to, its size (width, height) as people see it."""
    return StackFile(
        frames=len(used),
        left_out=[LeftOutFile(name=name, why=why) for name, why in left_out],
        light_s=gain.light_s,
        time_s=gain.time_s,
        noise_gain_stops=gain.noise_gain_stops,
        virtual_nd_stops=gain.virtual_nd_stops,
        width=size[0],
        height=size[1],
        used=used,
        land_moved_px=land_moved_px,
        land_sky_share=land_sky_share,
    )
