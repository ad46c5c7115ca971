"""Modes that a phone computes by itself, named by the photographer before they are measured."""

from __future__ import annotations

import re

from oxlen.core.errors import BadInput
from oxlen.core.kit.computed_mode import ComputedKind
from oxlen.formats.phone.parts import ComputedProfile
from oxlen.formats.phone.profile import PhoneProfile
from oxlen.phones.measuring.measurement import subject_of


def with_own_mode(
    profile: PhoneProfile, name: str, kind: ComputedKind, *, lens_id: str
) -> PhoneProfile:
    """The phone with a computed mode of that name on a lens; BadInput where it has it already.

    A mode of the name on another lens is there on this one too then.
    """
    lens = subject_of(profile, lens_id, None).lens
    same = next(
        (computed for computed in profile.computed if computed.name.casefold() == name.casefold()),
        None,
    )
    if same is not None and lens.id in same.lenses:
        raise BadInput(f"{profile.name} has {same.name} on the {lens.name} lens already.", "name")
    if same is not None:
        wider = same.model_copy(update={"lenses": [*same.lenses, lens.id]})
        modes = [wider if computed is same else computed for computed in profile.computed]
    else:
        new = ComputedProfile(id=_free_id(profile, name), name=name, kind=kind, lenses=[lens.id])
        modes = [*profile.computed, new]
    return PhoneProfile.model_validate(profile.model_dump() | {"computed": modes})


def _free_id(profile: PhoneProfile, name: str) -> str:
    """An id that no mode of the phone has."""
    plain = re.sub(r"[^a-z0-9]+", "-", name.casefold()).strip("-")[:30].strip("-") or "mode"
    taken = {computed.id for computed in profile.computed}
    taken |= {mode.id for lens in profile.lenses for mode in lens.modes}
    if plain not in taken:
        return plain
    return next(f"{plain}-{n}" for n in range(2, 100) if f"{plain}-{n}" not in taken)
