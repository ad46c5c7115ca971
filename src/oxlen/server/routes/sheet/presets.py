"""Presets, and the tables of usual movers, looks and uses they draw on."""

from __future__ import annotations

from fastapi import APIRouter
from pydantic import BaseModel

from oxlen.core.decisions.exposure.motion_ask import SHARP_LABELS, Sharp
from oxlen.core.decisions.framework.brief import SUBJECT
from oxlen.core.errors import BadInput
from oxlen.core.kit.uses import USES, Use
from oxlen.core.motion.looks import LOOKS, MotionLook
from oxlen.core.motion.presets import MOVERS
from oxlen.core.motion.sharpness import SHARP_BY, SharpBy
from oxlen.formats.sheet.preset import ChoicesFile, PresetFile, preset_named
from oxlen.formats.sheet.shipped_presets import shipped_presets
from oxlen.formats.sheet.upgrades import read_sheet
from oxlen.formats.strict import Name, Slug, Strict
from oxlen.server.context import RowId, Shared
from oxlen.server.permits import FOR_KIT, FOR_PHONES
from oxlen.store.kit.presets import drop_preset, keep_preset, kept_presets
from oxlen.store.sheets import sheet
from oxlen.store.takes import take

router = APIRouter(prefix="/api", tags=["presets"], dependencies=[FOR_PHONES])


class PresetView(BaseModel):
    """A preset, and whether it ships with Oxlen."""

    shipped: bool
    preset: PresetFile


class MoverView(BaseModel):
    """A usual mover; 90° crosses the frame, 0° comes straight on."""

    id: str
    name: str
    speed_m_s: float
    distance_m: float
    direction_deg: float
    width_m: float


class SharpView(BaseModel):
    """A way to say what counts as sharp: what its number measures, and the usual one."""

    by: SharpBy
    label: str
    usual: float


class Usual(BaseModel):
    """Usual things to start from."""

    movers: list[MoverView]
    looks: list[MotionLook]
    uses: list[Use]
    sharp: list[SharpView]


@router.get("/usual")
def usual() -> Usual:
    """Usual movers, looks and uses."""
    return Usual(
        movers=[MoverView(**vars(mover)) for mover in MOVERS],
        looks=list(LOOKS),
        uses=list(USES),
        sharp=[
            SharpView(by=by, label=SHARP_LABELS[by], usual=Sharp(by).in_force("value"))
            for by in SHARP_BY
        ],
    )


@router.get("/presets", dependencies=[FOR_KIT])
def presets(context: Shared) -> list[PresetView]:
    """All presets, the photographer's own first."""
    with context.library.reader() as connection:
        own = [PresetView(shipped=False, preset=preset) for preset in kept_presets(connection)]
    return own + [PresetView(shipped=True, preset=preset) for preset in shipped_presets()]


@router.put("/presets/{preset_id}", dependencies=[FOR_KIT])
def keep(preset_id: Slug, preset: PresetFile, context: Shared) -> PresetView:
    """Keep a preset of one's own; shipped ones stay as they are."""
    if preset.id != preset_id:
        raise BadInput(f"The preset's id is {preset.id}, not {preset_id}.", "id")
    if any(preset_id == shipped.id for shipped in shipped_presets()):
        raise BadInput(f"{preset_id} is built in. Save yours under another id.", "id")
    with context.library.writer() as connection:
        keep_preset(connection, preset, context.now())
    return PresetView(shipped=False, preset=preset)


@router.delete("/presets/{preset_id}", status_code=204, dependencies=[FOR_KIT])
def remove(preset_id: Slug, context: Shared) -> None:
    """Remove a preset of one's own; sheets it was applied to stay as they are."""
    with context.library.writer() as connection:
        drop_preset(connection, preset_id)


class NewPreset(Strict):
    """The name a preset is kept under."""

    name: Name


@router.post("/takes/{take_id}/preset", status_code=201, dependencies=[FOR_KIT])
def preset_of_take(take_id: RowId, new_preset: NewPreset, context: Shared) -> PresetView:
    """Keep the choices a take was planned with as a preset, for light like its own."""
    with context.library.reader() as connection:
        kept_take = take(connection, take_id)
        body = read_sheet(sheet(connection, kept_take.sheet_id).body)
        taken = {view.preset.id for view in presets(context)}
    written = body.model_dump(mode="json")
    light = [
        each.ev100
        for each in context.briefed(body).light.readings
        if each.role == SUBJECT and each.ev100 is not None
    ]
    preset = preset_named(
        new_preset.name,
        taken,
        note=" ".join(part for part in (body.intent, kept_take.why, kept_take.note) if part)[:600],
        group="From your takes",
        light_ev100=(round(light[0] - 1, 1), round(light[0] + 1, 1)) if light else None,
        choices=ChoicesFile.model_validate(
            {name: written[name] for name in ChoicesFile.model_fields if name in written}
        ),
    )
    with context.library.writer() as connection:
        keep_preset(connection, preset, context.now())
    return PresetView(shipped=False, preset=preset)
