"""What stands behind each limit in the sheet: the fields to change it by, where it is shown."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from typing import Literal

from pydantic import BaseModel

from oxlen.core.decisions.limit import Limit
from oxlen.core.decisions.plan import Plan
from oxlen.formats.wishes_file import MoverFile
from oxlen.sheets.body import SheetBody


class Choice(BaseModel):
    """One of several values a field may take."""

    value: str
    text: str


class LimitField(BaseModel):
    """A field of the sheet: where it lies in the body, what it holds, how it may be changed.

    `path` are keys and indices from the body down. With `choices` it is one of them.
    """

    path: list[str | int]
    label: str
    unit: str
    value: float | str | None
    low: float | None = None
    high: float | None = None
    choices: list[Choice] | None = None


class LimitSettings(BaseModel):
    """The fields of a limit, and whether it can be dropped altogether."""

    fields: list[LimitField]
    drop: Literal["motion", "looks", "flicker", "output", "iso_cap"] | None = None
    index: int = 0


SUPPORTS = [
    Choice(value="handheld", text="in the hand"),
    Choice(value="braced", text="braced"),
    Choice(value="tripod", text="tripod"),
]
SHARP_BY = [
    Choice(value="circle", text="circle of confusion"),
    Choice(value="pixel", text="pixels of the file"),
    Choice(value="output", text="pixels of the output"),
]
LOOK_CHOICES = [
    Choice(value=value, text=value)
    for value in ("texture", "soft", "glass", "trails", "pan", "vanish")
]


def limit_settings(decision: Plan, body: SheetBody) -> dict[str, LimitSettings]:
    """By limit id, what of the sheet it rests on; limits of the device have nothing to change."""
    found = {}
    for limit in decision.search.limits:
        maker = MAKERS.get(limit.kind)
        if maker is not None:
            found[limit.id] = maker(decision, body, limit)
    return found


def _hold(decision: Plan, body: SheetBody, _: Limit) -> LimitSettings:
    lens, hold = decision.brief.lens, body.hold
    stabiliser = lens.stabiliser_stops if hold.stabiliser_stops is None else hold.stabiliser_stops
    return LimitSettings(
        fields=[
            LimitField(
                path=["support"], label="Held", unit="", value=body.support, choices=SUPPORTS
            ),
            _number(["hold", "stabiliser_stops"], "Stabiliser", "stops", stabiliser, (0, 10)),
            _number(["hold", "burst"], "Burst", "frames", hold.burst, (1, 200)),
        ]
    )


def _freeze(_: Plan, body: SheetBody, limit: Limit) -> LimitSettings:
    index = _index(limit)
    motion = body.motion[index]
    base: list[str | int] = ["motion", index]
    sharp = motion.sharp.by
    return LimitSettings(
        fields=[
            *_mover(base, motion),
            LimitField(
                path=[*base, "sharp", "by"],
                label="Sharp by",
                unit="",
                value=sharp,
                choices=SHARP_BY,
            ),
        ],
        drop="motion",
        index=index,
    )


def _show(_: Plan, body: SheetBody, limit: Limit) -> LimitSettings:
    index = _index(limit)
    look = body.looks[index]
    base: list[str | int] = ["looks", index]
    chosen = LimitField(
        path=[*base, "look"], label="Look", unit="", value=look.look, choices=LOOK_CHOICES
    )
    return LimitSettings(fields=[chosen, *_mover(base, look)], drop="looks", index=index)


def _mover(base: list[str | int], mover: MoverFile) -> Iterator[LimitField]:
    moving = mover.mover()
    yield _number([*base, "speed_m_s"], "Speed", "m/s", float(moving.speed_m_s), (0.001, 1000))
    yield _number([*base, "distance_m"], "Distance", "m", float(moving.distance_m), (0.05, 1e6))
    yield _number(
        [*base, "direction_deg"], "Direction, 90 across", "°", float(moving.angle_deg), (0, 180)
    )


def _flicker(_: Plan, body: SheetBody, __: Limit) -> LimitSettings:
    flicker = body.flicker
    assert flicker is not None
    accepted = _number(
        ["flicker", "tolerance"], "Pulsing accepted", "share", flicker.tolerance, (0.001, 1)
    )
    fields = [accepted]
    if flicker.driver_hz is not None:
        rate = _number(["flicker", "driver_hz"], "Driver", "Hz", flicker.driver_hz, (1, 1e5))
        fields = [rate, accepted]
    return LimitSettings(fields=fields, drop="flicker")


def _noise(decision: Plan, _: SheetBody, __: Limit) -> LimitSettings:
    floor = decision.brief.output.snr_floor or 10.0
    return LimitSettings(
        fields=[_number(["output", "snr"], "SNR asked for", "", floor, (0.5, 1000))],
        drop="output",
    )


def _cap(_: Plan, body: SheetBody, __: Limit) -> LimitSettings:
    cap = body.school.iso_cap or 100.0
    return LimitSettings(
        fields=[_number(["school", "iso_cap"], "ISO cap", "ISO", cap, (1, 1e6))], drop="iso_cap"
    )


def _number(
    path: list[str | int], label: str, unit: str, value: float, span: tuple[float, float]
) -> LimitField:
    return LimitField(path=path, label=label, unit=unit, value=value, low=span[0], high=span[1])


def _index(limit: Limit) -> int:
    """Place of a limit among those of its kind: its id's number counts from 1."""
    _, _, number = limit.id.partition("-")
    return int(number) - 1 if number else 0


Maker = Callable[[Plan, SheetBody, Limit], LimitSettings]
MAKERS: Mapping[str, Maker] = {
    "hold": _hold,
    "freeze": _freeze,
    "show": _show,
    "flicker": _flicker,
    "noise": _noise,
    "noise_dark": _noise,
    "iso_cap": _cap,
}
