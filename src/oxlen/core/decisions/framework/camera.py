"""Which camera of the phone takes the picture: asked by the lens, needed by every brief."""

from __future__ import annotations

from typing import Annotated

from oxlen.core.ask import Ask, Text

ANY_LENS = "any"
"""In place of a lens id when Oxlen is to choose the lens as well."""
LENS: Ask[str | None] = Ask(
    "lens", Annotated[str, Text(40)] | None, None, label="Lens, fixed aperture", of_phone=True
)
MODE: Ask[str | None] = Ask(
    "mode", Annotated[str, Text(40)] | None, None, label="Mode", of_phone=True
)
