"""From the samples of pictures to their results, one function for each measurement."""

from __future__ import annotations

import base64
from collections.abc import Sequence

import numpy as np

from oxlen.core.colour.temperature import mired
from oxlen.core.errors import BadInput
from oxlen.core.hold.hand import Support
from oxlen.core.measures.bands import readout
from oxlen.core.measures.blur_spectrum import sharpest, smear_px
from oxlen.core.measures.computed_run import ComputedPicture, computed_run
from oxlen.core.measures.flat_pairs import FlatFrame, flat_pairs
from oxlen.core.measures.hand_curve import HandShot, hand_measured
from oxlen.core.measures.headroom import WallFrame, headroom
from oxlen.core.measures.level import battery, file_weight, kelvin_dial, meter_offset
from oxlen.core.measures.measured import Measured
from oxlen.core.measures.pace import Stamp, pace
from oxlen.phones.measuring.measurement import Given, Subject
from oxlen.phones.measuring.samples import Sample

FLOOR_PX = 1.5
"""Smears shorter than this hide among the pixels."""
CIRCLES_A_DIAGONAL = 1500


def noise(samples: Sequence[Sample], given: Given, subject: Subject) -> Measured:  # noqa: ARG001
    """Gain, full well and read noise."""
    frames = [
        FlatFrame(
            sample["iso"],
            sample["shutter_s"],
            black_dn=sample["black_dn"],
            white_dn=sample["white_dn"],
            patch=_patch(sample),
        )
        for sample in samples
    ]
    mode = subject.mode
    return flat_pairs(frames, base_iso=mode.base_iso, pixel_pitch_um=mode.pixel_pitch_um)


def _patch(sample: Sample) -> np.ndarray[tuple[int, int], np.dtype[np.float64]]:
    flat = np.frombuffer(base64.b64decode(sample["patch"]), dtype="<u2")
    return flat.reshape(sample["shape"]).astype(np.float64)


def wall_headroom(samples: Sequence[Sample], given: Given, subject: Subject) -> Measured:  # noqa: ARG001
    """Headroom of processed files and of RAW."""
    frames = [
        WallFrame(sample["exposure_stops"], sample["level"], sample["is_raw"]) for sample in samples
    ]
    return headroom(frames)


def meter(samples: Sequence[Sample], given: Given, subject: Subject) -> Measured:  # noqa: ARG001
    """The meter's offset against a light that is known."""
    readings = [sample["ev100"] for sample in samples]
    return meter_offset(readings, given["known_ev100"], given["known_plus_minus"])


def in_the_hand(samples: Sequence[Sample], given: Given, subject: Subject) -> Measured:  # noqa: ARG001
    """How long the hand holds still."""
    return _held(samples, "handheld", subject)


def braced(samples: Sequence[Sample], given: Given, subject: Subject) -> Measured:  # noqa: ARG001
    """What a rest adds to the hand."""
    return _held(samples, "braced", subject)


def on_tripod(samples: Sequence[Sample], given: Given, subject: Subject) -> Measured:  # noqa: ARG001
    """How long a tripod holds still, if it has a limit at all."""
    return _held(samples, "tripod", subject)


def _held(samples: Sequence[Sample], support: Support, subject: Subject) -> Measured:
    wall = sharpest([sample["detail"] for sample in samples])
    shots = [HandShot(sample["shutter_s"], smear_px(sample["detail"], wall)) for sample in samples]
    lens = subject.lens
    return hand_measured(
        shots,
        support=support,
        focal35_mm=lens.focal35_mm,
        stabiliser_stops=lens.stabiliser_stops,
        sharp_px=float(np.median([sample["diagonal_px"] for sample in samples]))
        / CIRCLES_A_DIAGONAL,
        floor_px=FLOOR_PX,
    )


def rolling(samples: Sequence[Sample], given: Given, subject: Subject) -> Measured:  # noqa: ARG001
    """The rolling shutter's readout."""
    longest = max(sample["shutter_s"] for sample in samples)
    if longest * given["pulse_hz"] > 0.8:
        raise BadInput("Use a shutter shorter than the lamp's pulse, 1/500 s or less.", "files")
    return readout([sample["rows"] for sample in samples], given["pulse_hz"])


def run(samples: Sequence[Sample], given: Given, subject: Subject) -> Measured:  # noqa: ARG001
    """Gaps and frames a second."""
    return pace(
        [Stamp(**{name: sample[name] for name in Stamp.__dataclass_fields__}) for sample in samples]
    )


def dial(samples: Sequence[Sample], given: Given, subject: Subject) -> Measured:  # noqa: ARG001
    """How far the Kelvin dial is off."""
    lamp = float(mired(given["lamp_k"]))
    used = [sample for sample in samples if sample["taken_at_k"] is not None]
    if not used:
        raise BadInput("No picture contains its kelvin.", "files")
    expected = [lamp - float(mired(star["taken_at_k"])) for star in used]
    return kelvin_dial([star["cast_mired"] for star in used], expected)


def weight(samples: Sequence[Sample], given: Given, subject: Subject) -> Measured:  # noqa: ARG001
    """What a frame weighs."""
    kinds = {sample["kind"] for sample in samples}
    if len(kinds) > 1:
        raise BadInput("Add RAW and processed files separately.", "files")
    return file_weight([sample["megabytes"] for sample in samples], kind=kinds.pop())


def charge(samples: Sequence[Sample], given: Given, subject: Subject) -> Measured:  # noqa: ARG001
    """Battery a minute."""
    return battery(given["start_percent"], given["end_percent"], given["minutes"])


def computed(samples: Sequence[Sample], given: Given, subject: Subject) -> Measured:
    """Frames and gaps of a computed mode."""
    if subject.computed is None:
        raise BadInput("Choose the computed mode.", "mode")
    pictures = [
        ComputedPicture(tuple(sample["columns"]), sample["noise_share"]) for sample in samples
    ]
    return computed_run(pictures, subject.computed.id, took_s=given["took_s"])
