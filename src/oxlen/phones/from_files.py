"""A phone's profile out of its own files; what they cannot tell is assumed, and marked so."""

from __future__ import annotations

import re
from dataclasses import dataclass

from pydantic import ValidationError

from oxlen.core.errors import BadInput
from oxlen.core.kit.nominal_steps import iso_steps, shutter_steps
from oxlen.core.kit.regularities import usual_stabiliser_stops
from oxlen.formats.phone.profile import LensProfile, PhoneProfile
from oxlen.formats.refusal import refusal
from oxlen.phones.file_facts import FileFacts
from oxlen.phones.grouping import FoundLens, Sorted, sort_files
from oxlen.phones.mode_figures import mode_of
from oxlen.phones.origins import Origins

LOWEST_ISO, HIGHEST_ISO = 50.0, 3200.0
FASTEST_S, SLOWEST_S = 1 / 8000, 10.0
AUTO_SLOWEST_S = 0.25
"""What manual and automatic modes usually reach; files that reach further say so."""
METER_SPREAD_STOPS = 0.5
USUAL_F35_MM = 26.0
USUAL_SENSOR_RATIO = 0.2
"""True over equivalent focal length of a usual phone sensor, about 9 mm across its diagonal."""
ASSUMED_STEPS = ("ladders.by-hand", "ladders.auto")


@dataclass(frozen=True)
class PhoneFound:
    """A profile made of files, and sentences on what was left out or could not be found."""

    profile: PhoneProfile
    notes: tuple[str, ...]


def phone_from(files: list[FileFacts], *, date: str | None) -> PhoneFound:
    """The profile that files of one phone tell; `date` (YYYY-MM-DD) marks its figures.

    BadInput when they are of two phones, naming them, or of none, or tell of what cannot be.
    """
    try:
        return _made(sort_files(files), date)
    except ValidationError as error:
        raise refusal(error, "These pictures describe an impossible phone") from None


def _made(found: Sorted, date: str | None) -> PhoneFound:
    origins = Origins(date)
    base_iso = min([LOWEST_ISO, *(file.iso for file in found.files if file.iso)])
    notes = list(found.notes)
    lenses = _named(found.lenses)
    made = [
        _lens(lens, lens_id, name=name, base_iso=base_iso, origins=origins, notes=notes)
        for lens, (lens_id, name) in zip(found.lenses, lenses, strict=True)
    ]
    _ladder_origins(origins)
    name = phone_name(found.make, found.model)
    origins.assumed("meter_offset_stops", METER_SPREAD_STOPS)
    profile = PhoneProfile.model_validate(
        {
            "id": _slug(name),
            "name": name,
            "make": found.make[:60],
            "model": found.model[:60],
            "meter_plus_minus_stops": METER_SPREAD_STOPS,
            "ladders": _ladders(found, base_iso),
            "lenses": [profile_lens.model_dump() for profile_lens in made],
            "handling": {"full_aspect": _aspect(found), "upright_share": _upright(found, origins)},
            "origins": {path: origin.model_dump() for path, origin in origins.found.items()},
        }
    )
    return PhoneFound(profile, tuple(dict.fromkeys(notes)))


def phone_name(make: str, model: str) -> str:
    """A phone's name as people say it: its maker is not repeated."""
    text = model if model.casefold().startswith(make.casefold()) and model else f"{make} {model}"
    return text.strip()[:60] or "My phone"


def _slug(name: str) -> str:
    return re.sub(r"[^a-z0-9]+", "-", name.casefold()).strip("-")[:40].strip("-") or "my-phone"


def _ladders(found: Sorted, base_iso: float) -> dict[str, dict[str, list[float]]]:
    isos = [file.iso for file in found.files if file.iso]
    times = [file.shutter_s for file in found.files if file.shutter_s]
    by_hand = {
        "iso": list(iso_steps(base_iso, HIGHEST_ISO)),
        "shutter_s": list(shutter_steps(min([FASTEST_S, *times]), SLOWEST_S)),
    }
    auto = {
        "iso": list(iso_steps(base_iso, max([2 * HIGHEST_ISO, *isos]))),
        "shutter_s": list(shutter_steps(min([FASTEST_S, *times]), max([AUTO_SLOWEST_S, *times]))),
    }
    return {"by-hand": by_hand, "auto": auto}


def _ladder_origins(origins: Origins) -> None:
    for name in ASSUMED_STEPS:
        origins.assumed(f"{name}.iso")
        origins.assumed(f"{name}.shutter_s")


def _aspect(found: Sorted) -> str:
    mode = found.lenses[0].modes[0]
    ratio = mode.long_px / mode.short_px
    given = {"4:3": 4 / 3, "3:2": 3 / 2, "16:9": 16 / 9, "1:1": 1.0}
    return min(given, key=lambda name: abs(given[name] - ratio))


def _upright(found: Sorted, origins: Origins) -> float | None:
    """The share of pictures taken with the phone upright."""
    stated = [file.is_upright for file in found.files if file.is_upright is not None]
    if not stated:
        return None
    origins.from_file("handling.upright_share")
    return round(sum(stated) / len(stated), 3)


def _named(lenses: tuple[FoundLens, ...]) -> list[tuple[str, str]]:
    """Ids and names, each once: by how wide a lens is, which way it looks, and its crop."""
    found: list[tuple[str, str]] = []
    main_mm = lenses[0].focal35_mm or USUAL_F35_MM
    for place, lens in enumerate(lenses):
        name = _lens_name(lens, main_mm, is_first=place == 0)
        taken = [file for file, _ in found]
        number = next(n for n in range(1, 100) if _numbered(_slug(name), n) not in taken)
        found.append((_numbered(_slug(name), number), name if number == 1 else f"{name} {number}"))
    return found


def _numbered(lens_id: str, number: int) -> str:
    return lens_id if number == 1 else f"{lens_id}-{number}"


def _lens_name(lens: FoundLens, main_mm: float, *, is_first: bool) -> str:
    focal35 = (lens.focal35_mm or main_mm) / lens.crop
    name = "Main"
    if "front" in lens.named.lower():
        name = "Front"
    elif not is_first and focal35 < 0.8 * main_mm:
        name = "Ultra-wide"
    elif not is_first and focal35 > 1.4 * main_mm:
        name = "Long"
    return name if lens.crop == 1 else f"{name} cropped {lens.crop:g}x"


def _lens(
    lens: FoundLens,
    lens_id: str,
    *,
    name: str,
    base_iso: float,
    origins: Origins,
    notes: list[str],
) -> LensProfile:
    path = f"lenses.{lens_id}"
    focal_mm, focal35_mm = _focal(lens, path, name=name, origins=origins, notes=notes)
    if lens.f_number is None:
        raise BadInput(f"No picture contains the f-number of the {name} lens.", "files")
    stabiliser = usual_stabiliser_stops(focal35_mm)
    origins.from_file(
        f"{path}.f_number", 0.05 if lens.f_number == round(lens.f_number, 1) else 0.005
    )
    origins.assumed(f"{path}.stabiliser_stops", stabiliser.plus_minus)
    optics = (focal_mm, focal35_mm)
    modes = [
        mode_of(mode, optics, path=path, base_iso=base_iso, origins=origins) for mode in lens.modes
    ]
    return LensProfile(
        id=lens_id,
        name=name,
        focal_mm=focal_mm,
        focal35_mm=focal35_mm,
        f_number=lens.f_number,
        stabiliser_stops=stabiliser.value,
        modes=modes,
    )


def _focal(
    lens: FoundLens, path: str, *, name: str, origins: Origins, notes: list[str]
) -> tuple[float, float]:
    """True and 35 mm-equivalent focal length (mm); one of them may have to be assumed."""
    focal, focal35 = lens.focal_mm, lens.focal35_mm
    if focal35 is None:
        # Without it neither the sensor nor the angle of view is known.
        focal35 = USUAL_F35_MM if focal is None else _usual_f35(focal)
        origins.assumed(f"{path}.focal35_mm", 0.3 * focal35)
        notes.append(
            f"The files do not contain the focal length of the {name} lens. {focal35:.0f} mm is "
            "assumed. Enter the sensor size to correct it."
        )
    else:
        origins.from_file(f"{path}.focal35_mm", 0.5)
    if focal is None:
        focal = USUAL_SENSOR_RATIO * focal35
        origins.assumed(f"{path}.focal_mm", 0.3 * focal)
    else:
        origins.from_file(f"{path}.focal_mm", 0.005)
    return focal, focal35


def _usual_f35(focal_mm: float) -> float:
    return focal_mm / USUAL_SENSOR_RATIO
