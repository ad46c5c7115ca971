"""`oxlen phone-from` and `oxlen measure-phone`: one's own phone, from its own pictures."""

from __future__ import annotations

import argparse
import dataclasses
import json
import sys
from datetime import UTC, datetime

from oxlen.cli.output import print_json, read_text
from oxlen.cli.plan import find_phone
from oxlen.core.errors import BadInput
from oxlen.formats.json_text import parse_json
from oxlen.formats.phone.answers import PhoneAnswers
from oxlen.formats.phone.file import phone_file
from oxlen.formats.phone.profile import PhoneProfile
from oxlen.formats.refusal import parse_model


def phone_from(arguments: argparse.Namespace) -> int:
    """Print the profile that pictures of one phone tell."""
    from oxlen.phones.answers import answered
    from oxlen.phones.file_facts import facts_of
    from oxlen.phones.from_files import phone_from as made_from

    read, refused = facts_of([(path, path.name) for path in arguments.files])
    if not read:
        raise BadInput(" ".join(refused), "files")
    today = _today()
    found = made_from(read, date=today)
    profile = found.profile
    if arguments.answers is not None:
        data = parse_json(read_text(arguments.answers), "The answers")
        profile = answered(profile, parse_model(PhoneAnswers, data, "The answers"), date=today)
    for note in (*refused, *found.notes):
        print(f"oxlen: {note}", file=sys.stderr)
    print_json(phone_file(profile))
    return 0


def measure_phone(arguments: argparse.Namespace) -> int:
    """Print what pictures of a guided measurement result in."""
    from oxlen.phones.measuring.catalogue import measurement
    from oxlen.phones.measuring.measured_figures import figure_path
    from oxlen.phones.measuring.measurement import subject_of
    from oxlen.phones.measuring.samples import MIDDLE

    found = measurement(arguments.kind)
    profile = _profile(arguments)
    lens_id = arguments.lens or profile.lenses[0].id
    lens = next(
        (profile_lens for profile_lens in profile.lenses if profile_lens.id == lens_id),
        profile.lenses[0],
    )
    subject = subject_of(profile, lens_id, arguments.mode or lens.modes[0].id)
    sample = found.sample
    taken = [] if sample is None else [sample(file, file.name, MIDDLE) for file in arguments.files]
    given = _given(arguments.given)
    result = found.measured(taken, given, subject)
    figures = [
        {**dataclasses.asdict(figure), "path": figure_path(figure.name, subject)}
        for figure in result.figures
    ]
    print_json({"figures": figures, "words": result.words, "doubts": list(result.doubts)})
    return 0


def _profile(arguments: argparse.Namespace) -> PhoneProfile:
    if arguments.phone.endswith(".json"):
        data = parse_json(read_text(arguments.phone), "The phone")
        return parse_model(PhoneProfile, data, "The phone")
    return find_phone(arguments.phone, arguments.data)


def _given(text: str | None) -> dict[str, float | None]:
    if text is None:
        return {}
    try:
        data = json.loads(text)
    except ValueError:
        raise BadInput(
            "What is given must be JSON, such as '{\"pulse_hz\": 100}'.", "given"
        ) from None
    if not isinstance(data, dict) or not all(isinstance(v, int | float) for v in data.values()):
        raise BadInput("--given must be numbers by name.", "given")
    return {str(name): float(value) for name, value in data.items()}


def _today() -> str:
    return datetime.now(UTC).astimezone().date().isoformat()
