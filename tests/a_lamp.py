"""A decision that Oxlen does not have: a continuous lamp's power. Run as a program, it registers it
in its own process alone and prints, as JSON, what every part of Oxlen then makes of it.
"""

import asyncio
import contextlib
import io
import json
import sys
import tempfile
from collections.abc import Iterable
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Annotated, Any

from oxlen.core import decisions
from oxlen.core.ask import Ask, Checked, Quantity
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.framework.decision import Decision
from oxlen.core.decisions.framework.dial import Dial, SeriesPart
from oxlen.core.decisions.framework.limit import SHUTTER, Concern, EditedField, Limit, LimitKind
from oxlen.core.decisions.framework.offer import Offer, Tier
from oxlen.core.decisions.framework.setting import Setting
from oxlen.core.decisions.upstream import Upstream


# 1. What may be asked for.
@dataclass(frozen=True)
class PoweredLamp(Checked):
    """A lamp at a share of its full power; it burns `burns_s` at full, longer when turned down."""

    power: Annotated[float, Quantity(0.01, 1, "× full", label="Power")] = 1.0
    burns_s: Annotated[float, Quantity(0.001, 60, "s", label="Burns at full power")] = 60.0


LAMP = Ask("lamp", PoweredLamp, PoweredLamp(), label="Lamp")


# 2. The line of the slip.
def decide(brief: Brief, _upstream: Upstream) -> tuple[Setting, ...]:
    """The lamp's power, whenever it is not simply on."""
    power = brief[LAMP].power
    return (
        Setting(
            "lamp_power",
            "Lamp",
            power,
            label=f"{power:g} × full",
            unit="",
            reason="as wanted",
            because="lamp",
        ),
    )


# 3. The limit it sets, and the field that edits it.
def burning(problem) -> Iterable[Limit]:
    """Shutters no longer than the lamp burns."""
    lamp = problem.brief[LAMP]
    longest = lamp.burns_s / lamp.power
    reason = f"the lamp burns {longest:g} s"
    return (
        Limit(
            BURNING,
            SHUTTER,
            None,
            high=longest,
            name="Lamp",
            reason=reason,
            source="Lamp's own card",
        ),
    )


# 4. The way out.
def half_power(search, _conflict) -> Iterable[Offer]:
    """The lamp at half the power, which burns twice as long."""
    lamp = search.brief[LAMP]
    turned_down = search.brief.asking(LAMP, replace(lamp, power=lamp.power / 2))
    yield Offer(
        "lamp-half",
        "Lamp at half power",
        "less lamplight",
        brief=turned_down,
        tier=Tier.OTHER_LIGHT,
    )


BURNING = LimitKind(
    "burning",
    Concern.LAMPS,
    burning,
    edited_by=(EditedField(LAMP, ("power",)),),
    ways_out=half_power,
)

# 5. One line of registration.
DECISION = Decision(
    "lamp",
    (LAMP,),
    decide,
    limit_kinds=(BURNING,),
    instrument="lamp",
    dials=(Dial("lamp_power", "Turn the lamp to"),),
    series_part=SeriesPart("lamp", "Lamp"),
    locked=(LAMP,),
)


def found() -> dict[str, Any]:
    """What brief, preset, sheet, slip, plan, API and command line make of the decision."""
    # Only now: the models of the files are made from what is registered.
    import httpx

    from oxlen.cli.main import main
    from oxlen.formats.schemas import SCHEMAS
    from oxlen.server.app import create_app
    from oxlen.store.library import open_library

    brief = {
        "phone": "wherry-3",
        "support": "tripod",
        "readings": [{"role": "subject", "ev100": 0.0, "place": 0}],
        "strategy": {"iso": "floor", "iso_cap": 50},
        "lamp": {"power": 0.8, "burns_s": 3},
    }
    with tempfile.TemporaryDirectory() as folder:
        file, reported = Path(folder) / "brief.json", io.StringIO()
        file.write_text(json.dumps(brief), "utf-8")
        with contextlib.redirect_stdout(reported):
            main(["plan", str(file)])
        app = create_app(open_library(Path(folder) / "data"))
        address = {"transport": httpx.ASGITransport(app=app), "base_url": "http://127.0.0.1"}
        answers = asyncio.run(over_http(brief, lambda: httpx.AsyncClient(**address)))
    schemas = {name: model.model_json_schema() for name, model in SCHEMAS.items()}
    return {"schemas": schemas, "plan": json.loads(reported.getvalue()), **answers}


async def over_http(brief, client):
    """What the API answers to a preset, sheets and questions about the decision."""
    async with client() as http:
        outing = (await http.post("/api/outings", json={"title": "Lantern evening"})).json()["id"]
        reading = {"id": "a", "source": {"kind": "ev", "ev100": 0.0}}
        wishes = {name: brief[name] for name in ("support", "strategy", "lamp")}
        preset = {"id": "mine", "name": "Mine", "choices": {"lamp": {"power": 0.5}}}
        body = {"title": "Lantern", "readings": [reading], **wishes}
        by_hand = {**body, "steps_by_hand": {"iso": 50, "shutter_s": 2}}
        sheets = f"/api/outings/{outing}/sheets"
        answers = {
            "preset": await http.put("/api/presets/mine", json=preset),
            "sheet": await http.post(sheets, json=body),
            "by_hand": await http.post(sheets, json=by_hand),
            "bare": await http.post(sheets, json={"title": "Bare", "readings": [reading]}),
            "refused": await http.post(sheets, json={**body, "lamp": {"power": 2}}),
            "asks": await http.get("/api/asks"),
            "openapi": await http.get("/api/openapi.json"),
        }
        found = {name: answer.json() for name, answer in answers.items()}
        first, second = (f"/api/sheets/{found[name]['id']}" for name in ("sheet", "bare"))
        card = await http.get(f"{first}/card.html")
        series = {"title": "Lit", "sheets": [found["bare"]["id"]], "locked": ["lamp"]}
        await http.post(f"{first}/series", json=series)
        return {**found, "card": card.text, "locked": (await http.get(second)).json()}


if __name__ == "__main__":
    decisions.DECISIONS = (*decisions.DECISIONS, DECISION)
    json.dump(found(), sys.stdout)
