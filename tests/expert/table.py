"""A table of briefs with an expert's verdict, and the terms a verdict is written in.

A case holds `id`, `about`, `brief` (as `oxlen plan` takes it), `expect` and `why`. `expect` is a
list of single-key objects, each a term of `TERMS`. Words are looked for without case at the start
of a word; "a & b" wants both in the same place.
"""

import json
import re
from pathlib import Path

from oxlen.core.checklist.steps import run_list
from oxlen.core.decisions.plan import plan
from oxlen.formats.phone.shipped import shipped_profile
from oxlen.formats.plan.brief import BriefFile
from oxlen.formats.plan.writing import plan_file

HERE = Path(__file__).parent


def cases(name):
    """The cases of a table."""
    return json.loads((HERE / f"{name}.json").read_text("utf-8"))


class Seen:
    """The answer to a case's brief: the plan as it is published, and its checklist."""

    def __init__(self, brief):
        decided = plan(BriefFile.model_validate(brief).to_brief(shipped_profile))
        self.plan = plan_file(decided).model_dump(mode="json")
        self.run = [f"{step.part}: {step.text} {step.detail}" for step in run_list(decided)]

    @property
    def ways(self):
        """Every way out with its words."""
        return [f"{way['id']}: {way['text']}; {way['cost']}".lower() for way in self.plan["trades"]]

    def line(self, field):
        """A line of the slip; KeyError where there is none."""
        return {setting["field"]: setting for setting in self.plan["settings"]}[field]

    def said(self, field):
        """All words of a line."""
        line = self.line(field)
        return " ".join([str(line["label"]), line["reason"], *line["notes"]]).lower()


def has(words, text):
    """Whether every part of "a & b" begins a word of the text."""
    parts = (re.escape(part.strip().lower()) for part in words.split("&"))
    return all(re.search(rf"(?<![a-z]){part}", text.lower()) for part in parts)


def any_has(words, texts):
    """Whether one of some words is in one of some texts."""
    return any(has(each, text) for each in words for text in texts)


def within(value, bounds):
    """Whether a number is within bounds, to a thousandth of them."""
    return bounds[0] * 0.999 <= value <= bounds[1] * 1.001


def lands(seen, value):
    """Whether a spot lands between two tones."""
    spot = next(step for step in seen.plan["outcome"] if step["name"] == value["name"])
    return value["stops"][0] <= spot["lands_stops"] <= value["stops"][1]


def conflict(seen, value):
    """Whether limits collide."""
    return (seen.plan["conflict"] is not None) == value


def auto_avoids(seen, value):
    """No step on auto says any of some words."""
    return not any_has(value, seen.plan["auto_steps"]["steps"])


def says(seen, value):
    """A line of the slip says one of some words."""
    return any_has(value["any"], [seen.said(value["line"])])


def never_says(seen, value):
    """A line of the slip says none of some words."""
    return not any_has(value["any"], [seen.said(value["line"])])


TERMS = {
    "conflict": conflict,
    "lens": lambda seen, value: seen.plan["slip"]["lens"] in value,
    "iso": lambda seen, value: within(seen.plan["slip"]["iso"], value),
    "shutter": lambda seen, value: within(seen.plan["slip"]["shutter_s"], value),
    "spot": lands,
    "way": lambda seen, value: any_has(value, seen.ways),
    "no_way": lambda seen, value: not any_has(value, seen.ways),
    "ways": lambda seen, value: len(seen.ways) >= value,
    "caution": lambda seen, value: any_has(value, seen.plan["cautions"]),
    "no_caution": lambda seen, value: not any_has(value, seen.plan["cautions"]),
    "checklist": lambda seen, value: any_has(value, seen.run),
    "auto_avoids": auto_avoids,
    "says": says,
    "never_says": never_says,
    "kelvin": lambda seen, value: within(float(seen.line("white")["value"]), value),
    "save": lambda seen, value: seen.line("format")["value"] in value,
}


def misses(case):
    """Every term of a case that does not hold, with what was found."""
    seen, found = Seen(case["brief"]), []
    for term in case["expect"]:
        ((name, value),) = term.items()
        try:
            holds = TERMS[name](seen, value)
        except (KeyError, TypeError, StopIteration) as missing:
            holds, value = False, f"{value}: {missing!r}"
        if not holds:
            found.append(f"{name} {value}")
    if found:
        slip, collides = seen.plan["slip"], seen.plan["conflict"]
        found.append("; ".join(seen.ways) or "no way")
        found.append("none" if slip is None else f"ISO {slip['iso']:g} {slip['shutter_s']:.4g} s")
        found.append("" if collides is None else collides["sentence"])
    return found
