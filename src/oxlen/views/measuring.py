"""Guided measurements as the screen shows them: pictures read so far, and their results."""

from __future__ import annotations

import dataclasses
from collections.abc import Sequence
from typing import Any

from oxlen.core.errors import OxlenError
from oxlen.core.labels import time_label
from oxlen.core.measures.measured import Figure, Measured
from oxlen.formats.phone.profile import PhoneProfile
from oxlen.phones.measuring.catalogue import measurement
from oxlen.phones.measuring.measured_figures import figure_path, value_at
from oxlen.phones.measuring.measurement import Measurement, Subject, subject_of
from oxlen.store.kit.measurements import KeptMeasurement, KeptSample

NAMES = {
    "full_well_e": "Full well",
    "read_noise_e": "Read noise",
    "headroom_stops.processed": "Headroom, processed",
    "headroom_stops.raw": "Headroom, RAW",
    "readout_s": "Readout",
    "stabiliser_stops": "Handheld, better than the rule",
    "braced_stops": "Braced, better than handheld",
    "tripod_stops": "Tripod, better than the rule",
    "meter_offset_stops": "Meter offset",
    "white.offset_mired": "Kelvin dial's error",
    "files.frame_gap_s": "Gap between frames",
    "files.processed_fps": "Frames a second, processed",
    "files.raw_fps": "Frames a second, RAW",
    "files.processed_burst": "Frames until a burst stalls, processed",
    "files.raw_burst": "Frames until a burst stalls, RAW",
    "files.processed_mb": "Size of a processed frame",
    "files.raw_mb": "Size of a RAW frame",
    "handling.battery_percent_per_min": "Battery",
}
COMPUTED_NAMES = {
    "frames": "Frames stacked",
    "gap_s": "Gap",
    "longest_s": "Longest",
}


@dataclasses.dataclass(frozen=True)
class FoundFigure:
    """A figure found, beside the one that is kept now, both as people read them."""

    path: str
    name: str
    now: str | None
    found: str
    plus_minus: str


@dataclasses.dataclass(frozen=True)
class ReadPicture:
    """A picture of a measurement, and what was read of it in a few words."""

    id: int
    name: str
    read: str


@dataclasses.dataclass(frozen=True)
class MeasuringView:
    """A measurement under way: its pictures, its result, or what is still missing."""

    pictures: list[ReadPicture]
    missing: str | None
    result: Measured | None
    figures: list[FoundFigure]


def measuring_view(
    kept: KeptMeasurement, samples: Sequence[KeptSample], profile: PhoneProfile
) -> MeasuringView:
    """A measurement as it is now."""
    kind = measurement(kept.kind)
    pictures = [
        ReadPicture(sample.id, sample.name, _read_words(kind, sample.sample)) for sample in samples
    ]
    subject = subject_of(profile, kept.lens, kept.mode)
    try:
        result = kind.measured([sample.sample for sample in samples], kept.given, subject)
    except OxlenError as error:
        return MeasuringView(pictures, error.message, None, figures=[])
    return MeasuringView(
        pictures, None, result, figures=[_found(figure, subject) for figure in result.figures]
    )


def outcome_data(view: MeasuringView) -> dict[str, Any]:
    """What is kept of a measurement that ended: its figures, old and new, and its words."""
    words = None if view.result is None else view.result.words
    return {"words": words, "figures": [dataclasses.asdict(figure) for figure in view.figures]}


def _read_words(kind: Measurement, sample: dict[str, Any]) -> str:
    sentences = [_about(name, sample.get(name)) for name in kind.about]
    return " · ".join(words for words in sentences if words)


def _about(name: str, value: Any) -> str:
    if value is None:
        return ""
    if name == "shutter_s":
        return time_label(float(value))
    shapes = {
        "iso": "ISO {:g}",
        "level": "level {:.3f}",
        "ev100": "EV {:.2f}",
        "megabytes": "{:.1f} MB",
        "taken_at_k": "{:g} K",
        "cast_mired": "{:+.0f} mired",
        "noise_share": "noise {:.2%}",
    }
    text = shapes.get(name, "{}").format(value)
    return text.replace("-0.000", "0.000").replace("-", "−")


def _found(figure: Figure, subject: Subject) -> FoundFigure:
    path = figure_path(figure.name, subject)
    present = value_at(subject.profile, path)
    return FoundFigure(
        path,
        NAMES.get(figure.name) or COMPUTED_NAMES[figure.name.rsplit(".", 1)[1]],
        None if present is None else value_words(present, figure.unit),
        found=value_words(figure.value, figure.unit),
        plus_minus=f"± {_digits(float(f'{figure.plus_minus:.2g}'))} {figure.unit}",
    )


def value_words(value: Any, unit: str) -> str:
    """A figure as people read it; of a table its first and last entries."""
    if isinstance(value, list | tuple):
        first, last = value[0], value[-1]
        return f"{_digits(first[1])} {unit} at ISO {first[0]:g}" + (
            f", {_digits(last[1])} at ISO {last[0]:g}" if len(value) > 1 else ""
        )
    return f"{_digits(float(value))} {unit}"


def _digits(value: float) -> str:
    if abs(value) >= 1000:
        return f"{value:,.0f}"
    return f"{value:.3g}".replace("-", "−")
