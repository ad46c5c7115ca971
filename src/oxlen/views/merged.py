"""Two edits of one sheet merged, and where they clash, in words."""

from __future__ import annotations

import json
from typing import Any

from pydantic import BaseModel, ValidationError

from oxlen.core.ask import Ask, Choices, hints_of, mark_of
from oxlen.core.decisions import all_asks
from oxlen.core.errors import BadInput
from oxlen.core.labels import sentence_case
from oxlen.formats.sheet.file import SheetBody
from oxlen.formats.sheet.merge import Clash, Merged, Path, merge_sheets, take_mine

NAMES = {
    "title": "Title",
    "intent": "Intent",
    "state": "State",
    "phone": "Phone",
    "picture": "Picture",
    "picture_glass_stops": "Filter the picture was shot through, stops",
    "scene": "Scene",
    "by_hand": "Exposure of the picture",
    "spots": "Spots",
    "readings": "Readings",
    "light_shift_stops": "Expected change of light, stops",
    "steps_by_hand": "Manual steps",
    "name": "name",
    "role": "role",
    "place": "wanted tone, stops",
    "x": "position across",
    "y": "position down",
    "r": "size",
}
NOTHING = "nothing"
LONGEST = 80


class ClashView(BaseModel):
    """Something both changed: its path in the body, its name, and what each made of it."""

    path: list[str]
    name: str
    before: str
    mine: str
    theirs: str


class MergedView(BaseModel):
    """Both edits in one body; where they clash it holds theirs, or mine where that was chosen.

    `version` is the one of the sheet that mine is merged with.
    """

    version: int
    body: SheetBody
    clashes: list[ClashView]


def merged_view(
    before: SheetBody, mine: SheetBody, *, theirs: SheetBody, version: int, keep_mine: list[Path]
) -> MergedView:
    """Put two edits together; BadInput when they cannot both hold."""
    states = [sheet_body.model_dump(mode="json") for sheet_body in (before, mine, theirs)]
    merged = merge_sheets(*states)
    chosen = tuple(clash for clash in merged.clashes if clash.path in keep_mine)
    clashes = [_in_words(clash, merged) for clash in merged.clashes]
    try:
        body = SheetBody.model_validate(take_mine(merged.body, chosen))
    except ValidationError as error:
        raise BadInput("These two edits contradict each other. Choose one of them.") from error
    return MergedView(version=version, body=body, clashes=clashes)


def _in_words(clash: Clash, merged: Merged) -> ClashView:
    return ClashView(
        path=list(clash.path),
        name=_name(clash.path, merged.body),
        before=_words(clash.path, clash.before),
        mine=_words(clash.path, clash.mine),
        theirs=_words(clash.path, clash.theirs),
    )


def _name(path: Path, body: dict[str, Any]) -> str:
    asks = {ask.name: ask for ask in all_asks()}
    first = asks[path[0]].label if path[0] in asks else NAMES.get(path[0], path[0])
    rest = [NAMES.get(step, step.replace("_", " ")) for step in path[1:]]
    entries = body.get(path[0])
    if len(path) > 1 and isinstance(entries, list):
        found: dict[str, Any] = next((entry for entry in entries if entry.get("id") == path[1]), {})
        rest[0] = f"“{found.get('name') or found.get('role') or path[1]}”"
    return sentence_case(", ".join([first, *rest]))


def _words(path: Path, value: Any) -> str:
    if value is None:
        return NOTHING
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, str):
        return _choice(path, value)
    if isinstance(value, dict):
        named = [str(value[key]) for key in ("name", "kind", "role") if value.get(key)]
        if named:
            return named[0]
    text = json.dumps(value, ensure_ascii=False)
    return text if len(text) <= LONGEST else f"{text[:LONGEST]}…"


def _choice(path: Path, value: str) -> str:
    """What a choice is called on the screen; any other text as it is."""
    asks: dict[str, Ask[Any]] = {ask.name: ask for ask in all_asks()}
    hint: Any = asks[path[0]].kind if path[0] in asks else None
    for key in path[1:]:
        hint = hints_of(hint).get(key) if hint is not None and hasattr(hint, "__mro__") else None
    choices = None if hint is None else mark_of(hint, Choices)
    return choices.words.get(value, value) if choices else value
