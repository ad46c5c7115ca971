"""The figures of one pixel count of a lens: from its files where they tell, else assumed."""

from __future__ import annotations

import math
import re
from collections.abc import Iterator
from dataclasses import asdict
from statistics import median

from oxlen.core.kit.file_optics import Pitch, pitch_of_written
from oxlen.core.kit.regularities import (
    HEADROOM_SPREAD_STOPS,
    PRNU_SPREAD,
    PROCESSED_HEADROOM,
    RAW_HEADROOM,
    READOUT_S,
    READOUT_SPREAD,
    USUAL_PRNU,
    usual_full_well_e,
    usual_read_noise_e,
)
from oxlen.core.sensor.noise_profile import base_well_e, declared_noise
from oxlen.formats.phone.figures import RAW_FIGURES
from oxlen.formats.phone.parts import FilesProfile, RawProfile
from oxlen.formats.phone.profile import HeadroomProfile, ModeProfile
from oxlen.phones.file_facts import FileFacts
from oxlen.phones.grouping import FoundMode
from oxlen.phones.origins import Origins

RAW_MID_STOPS = math.log2(1 / 0.18)
"""Stops from mid to white of a raw file that lifts nothing."""
DECLARED_SPREAD = 0.03
"""How far a phone's own noise model may be off, as a share."""
PITCH_SPREAD = 0.01
ASSUMED_ISOS = (1, 2, 4, 16, 64)
RAW_MB_PER_MP, PROCESSED_MB_PER_MP = 2.0, 0.35
FILE_SPREAD = 0.4


def mode_of(
    found: FoundMode,
    optics: tuple[float, float],
    *,
    path: str,
    base_iso: float,
    origins: Origins,
) -> ModeProfile:
    """A mode's profile; `optics` are the lens's true and 35 mm-equivalent focal lengths in mm."""
    mode_id = re.sub(r"[^0-9a-z]+", "-", f"{found.megapixels:.3g}mp")
    place = f"{path}.{mode_id}"
    pitch = _pitch(found, optics, place=place, origins=origins)
    well_e, noise = _noise(found, pitch.pitch_um, base_iso=base_iso, place=place, origins=origins)
    for side in ("width_px", "height_px"):
        origins.from_file(f"{place}.{side}", 0.0)
    origins.assumed(f"{place}.base_iso")
    origins.assumed(f"{place}.prnu_share", PRNU_SPREAD)
    readout = READOUT_S * math.sqrt(max(1.0, found.megapixels / 12))
    origins.assumed(f"{place}.readout_s", READOUT_SPREAD * readout)
    return ModeProfile(
        id=mode_id,
        name=f"{found.megapixels:.3g} MP",
        width_px=found.long_px,
        height_px=found.short_px,
        pixel_pitch_um=pitch.pitch_um,
        full_well_e=well_e,
        base_iso=base_iso,
        prnu_share=USUAL_PRNU,
        read_noise_e=noise,
        headroom_stops=_headroom(found.files, place, origins),
        readout_s=readout,
        manual="by-hand",
        auto="auto",
        files=_files(found, place, origins),
        raw=_raw(found.files, place, origins),
    )


def _raw(files: list[FileFacts], place: str, origins: Origins) -> RawProfile | None:
    """How its raw files are laid out; None where there are none that tell."""
    reported = next((file.levels for file in files if file.levels is not None), None)
    if reported is None:
        return None
    raw = RawProfile.model_validate(asdict(reported))
    for name in RAW_FIGURES:
        if getattr(raw, name):
            origins.from_file(f"{place}.raw.{name}")
    return raw


def _pitch(found: FoundMode, optics: tuple[float, float], *, place: str, origins: Origins) -> Pitch:
    """From a file's focal plane where it has one, else by both focal lengths."""
    values = [
        file.pitch_um
        for file in found.files
        if file.pitch_um and file.pitch_of_px in (None, file.long_px)
    ]
    if values:
        pitch_um = median(values)
        pitch = Pitch(pitch_um, PITCH_SPREAD * pitch_um)
    else:
        pitch = pitch_of_written(*optics, width_px=found.long_px, height_px=found.short_px)
    origins.from_file(f"{place}.pixel_pitch_um", pitch.plus_minus_um)
    return pitch


def _noise(
    found: FoundMode, pitch_um: float, *, base_iso: float, place: str, origins: Origins
) -> tuple[float, list[tuple[float, float]]]:
    """Full well (e⁻ at base ISO) and read noise (ISO, e⁻), as the raw files declare them."""
    declared = sorted(_declared(found.files))
    if not declared:
        usual = usual_full_well_e(pitch_um)
        origins.assumed(f"{place}.full_well_e", usual.plus_minus)
        isos = [base_iso * step for step in ASSUMED_ISOS]
        noises = [usual_read_noise_e(iso, base_iso) for iso in isos]
        origins.assumed(f"{place}.read_noise_e", noises[0].plus_minus)
        return usual.value, [
            (iso, noise_e.value) for iso, noise_e in zip(isos, noises, strict=True)
        ]
    well = median([base_well_e(white, iso, base_iso) for iso, white, _ in declared])
    origins.from_file(f"{place}.full_well_e", DECLARED_SPREAD * well)
    by_iso: dict[float, list[float]] = {}
    for iso, _, noise in declared:
        by_iso.setdefault(iso, []).append(noise)
    table = [(iso, median(values)) for iso, values in by_iso.items()]
    origins.from_file(f"{place}.read_noise_e", DECLARED_SPREAD * table[0][1])
    return well, table


def _declared(files: list[FileFacts]) -> Iterator[tuple[float, float, float]]:
    """ISO, electrons at white and read noise (e⁻) of each raw file that declares its noise."""
    for file in files:
        if file.noise is not None and file.iso:
            noise = declared_noise(*file.noise)
            yield file.iso, noise.white_e, max(noise.read_noise_e, 0.05)


def _headroom(files: list[FileFacts], place: str, origins: Origins) -> HeadroomProfile:
    """Stops from mid to clipping: of RAW as its files say, of processed as is usual."""
    values = [file.baseline_stops for file in files if file.baseline_stops is not None]
    if values:
        origins.from_file(f"{place}.headroom_stops.raw", HEADROOM_SPREAD_STOPS / 4)
        raw = RAW_MID_STOPS + median(values)
    else:
        origins.assumed(f"{place}.headroom_stops.raw", HEADROOM_SPREAD_STOPS)
        raw = RAW_HEADROOM
    origins.assumed(f"{place}.headroom_stops.processed", HEADROOM_SPREAD_STOPS)
    return HeadroomProfile(processed=PROCESSED_HEADROOM, raw=raw)


def _files(found: FoundMode, place: str, origins: Origins) -> FilesProfile:
    """What its files weigh, from those that are here."""
    weights = {"raw": RAW_MB_PER_MP, "processed": PROCESSED_MB_PER_MP}
    sizes: dict[str, float] = {}
    for kind, per_mp in weights.items():
        values = [
            file.megabytes for file in found.files if file.kind == kind and file.megabytes > 0
        ]
        figure = f"{place}.files.{kind}_mb"
        if values:
            sizes[kind] = median(values)
            origins.from_file(figure, FILE_SPREAD * sizes[kind])
        else:
            sizes[kind] = per_mp * found.megapixels
            origins.assumed(figure, FILE_SPREAD * sizes[kind])
    return FilesProfile(processed_mb=max(sizes["processed"], 0.01), raw_mb=max(sizes["raw"], 0.01))
