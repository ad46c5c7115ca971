"""A phone's camera as its browser offers it: what can be read and set, and what was set."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from math import log2

from oxlen.core.labels import shutter_label, stops_label

SAME_STOPS = 0.05
"""Own choice: a twentieth of a stop is seen by nobody."""
SAME_MIRED, SAME_DIOPTRES = 3.0, 0.05
"""Own choice: half of what is seen side by side, and the depth of a phone's main lens."""


@dataclass(frozen=True)
class Dial:
    """What a camera offers of a setting, in Oxlen's unit; `can_set` where a value is taken."""

    low: float
    high: float
    can_set: bool


@dataclass(frozen=True)
class LiveCamera:
    """A camera through a browser. None where a setting cannot even be read.

    Seconds, ISO, kelvin, dioptres, and stops of compensation. `photo` is whether it takes whole
    photos; else a frame of the preview is kept.
    """

    shutter_s: Dial | None = None
    iso: Dial | None = None
    white_k: Dial | None = None
    focus_dioptres: Dial | None = None
    compensation_stops: Dial | None = None
    photo: bool = False
    points: bool = False
    torch: bool = False

    @property
    def knows_exposure(self) -> bool:
        """Whether each frame's exposure is known, so that light can be read in EV."""
        return self.shutter_s is not None and self.iso is not None


@dataclass(frozen=True)
class LiveSettings:
    """Settings in force, or wanted; None where they are unknown, or left to the phone."""

    shutter_s: float | None = None
    iso: float | None = None
    white_k: float | None = None
    focus_dioptres: float | None = None


@dataclass(frozen=True)
class Ability:
    """One thing a camera may do here; `instead` is what to do where it cannot."""

    name: str
    is_there: bool
    instead: str = ""


@dataclass(frozen=True)
class DialledLine:
    """A line of the slip after *Dial it*: what was set, and what is left to do by hand."""

    field: str
    name: str
    wanted: str
    got: str
    is_set: bool
    words: str


def abilities(camera: LiveCamera) -> tuple[Ability, ...]:
    """What a camera can do here, in the order it matters, with what to do instead."""
    by_hand = "Dial it in the camera app."
    return (
        Ability(
            "Read the exposure",
            camera.knows_exposure,
            "Take one picture with the camera app. Oxlen reads light by it for half an hour.",
        ),
        Ability("Set the shutter", _can_set(camera.shutter_s), by_hand),
        Ability("Set ISO", _can_set(camera.iso), by_hand),
        Ability("Set white balance", _can_set(camera.white_k), by_hand),
        Ability("Set focus", _can_set(camera.focus_dioptres), "Tap and lock in the camera app."),
        Ability("Take whole photos", camera.photo, "Oxlen keeps a frame of the preview."),
        Ability("Choose a point", camera.points, "Focus and exposure follow the whole frame."),
        Ability("Switch the torch", camera.torch, "Use the phone's own switch."),
    )


def dialled(wanted: LiveSettings, got: LiveSettings, camera: LiveCamera) -> tuple[DialledLine, ...]:
    """What *Dial it* set, line by line, and how far each is from the slip."""
    return tuple(_lines(wanted, got, camera))


def brighter_stops(wanted: LiveSettings, got: LiveSettings) -> float | None:
    """How much brighter a frame is as set than by the slip; None where that is unknown.

    >>> found = brighter_stops(LiveSettings(1 / 100, 50), LiveSettings(1 / 50, 50))
    >>> f"{found:.1f}"
    '1.0'
    """
    parts = [(wanted.shutter_s, got.shutter_s), (wanted.iso, got.iso)]
    if any(want is None or have is None for want, have in parts):
        return None
    return sum(log2(have / want) for want, have in parts if want and have)


def _lines(wanted: LiveSettings, got: LiveSettings, camera: LiveCamera) -> Iterator[DialledLine]:
    for field, name, want, have, dial in (
        ("iso", "ISO", wanted.iso, got.iso, camera.iso),
        ("shutter_s", "Shutter", wanted.shutter_s, got.shutter_s, camera.shutter_s),
        ("white_k", "White balance", wanted.white_k, got.white_k, camera.white_k),
        ("focus", "Focus", wanted.focus_dioptres, got.focus_dioptres, camera.focus_dioptres),
    ):
        if want is None:
            continue
        off = None if have is None else _off(field, want, have)
        is_set = _can_set(dial) and off is not None and not off
        yield DialledLine(
            field,
            name,
            wanted=_label(field, want).removeprefix("ISO "),
            got="unknown" if have is None else _label(field, have).removeprefix("ISO "),
            is_set=is_set,
            words=_words(field, want, off=off, is_set=is_set, dial=dial),
        )


def _words(field: str, want: float, *, off: str | None, is_set: bool, dial: Dial | None) -> str:
    if is_set:
        return "Set."
    if not _can_set(dial):
        return f"Dial {_label(field, want)} by hand: this browser cannot set it."
    assert dial is not None
    if off is None:
        return f"Check {_label(field, want)} by hand: this browser does not tell what it set."
    if not dial.low <= want <= dial.high:
        low, high = _label(field, dial.low), _label(field, dial.high)
        return f"This camera takes {low} to {high} here: {off}."
    return f"The camera chose another value: {off}."


def _off(field: str, want: float, have: float) -> str:
    """How far a setting is from the wanted one, in words; empty where it is the same."""
    if field == "white_k":
        mired = 1e6 / have - 1e6 / want
        return "" if abs(mired) <= SAME_MIRED else f"{abs(mired):.0f} mired off"
    if field == "focus":
        dioptres = have - want
        if abs(dioptres) <= SAME_DIOPTRES:
            return ""
        return f"{abs(dioptres):.2g} dioptres too {'near' if dioptres > 0 else 'far'}"
    if want <= 0 or have <= 0:
        return "unknown"
    stops = log2(have / want)
    if abs(stops) <= SAME_STOPS:
        return ""
    return f"{stops_label(abs(stops))} {'brighter' if stops > 0 else 'darker'}"


def _label(field: str, value: float) -> str:
    if field == "shutter_s":
        return shutter_label(value) if value > 0 else "0 s"
    if field == "white_k":
        return f"{value:.0f} K"
    if field == "focus":
        return "infinity" if value <= SAME_DIOPTRES / 2 else f"{1 / value:.2g} m"
    return f"ISO {value:.0f}"


def _can_set(dial: Dial | None) -> bool:
    return dial is not None and dial.can_set
