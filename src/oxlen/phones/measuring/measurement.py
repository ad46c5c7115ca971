"""What a guided measurement is: what to do, what is asked, what is read, its result."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field

from oxlen.core.errors import BadInput, NotFound
from oxlen.core.measures.measured import Measured
from oxlen.formats.phone.parts import ComputedProfile
from oxlen.formats.phone.profile import LensProfile, ModeProfile, PhoneProfile
from oxlen.phones.measuring.samples import Sample, Sampler


@dataclass(frozen=True)
class Question:
    """A number asked besides the pictures: its range, unit, and what is put in to begin with."""

    id: str
    label: str
    unit: str
    low: float
    high: float
    usual: float | None = None


@dataclass(frozen=True)
class Subject:
    """What is measured: a phone, and one of its lenses in one of its modes.

    `computed` is the mode the phone computes, where it is that which is measured.
    """

    profile: PhoneProfile
    lens: LensProfile
    mode: ModeProfile
    computed: ComputedProfile | None = None


def subject_of(profile: PhoneProfile, lens_id: str, mode_id: str | None) -> Subject:
    """A lens and mode of a phone, its first mode for None; NotFound where it has none so named.

    The mode is one of the lens's pixel counts, or one that the phone computes on that lens.
    """
    lens = next(
        (profile_lens for profile_lens in profile.lenses if profile_lens.id == lens_id), None
    )
    if lens is None:
        raise NotFound(f"{profile.name} has no lens {lens_id}.")
    mode = next((lens_mode for lens_mode in lens.modes if mode_id in (lens_mode.id, None)), None)
    if mode is not None:
        return Subject(profile, lens, mode)
    on_lens = (
        computed_mode for computed_mode in profile.computed if lens_id in computed_mode.lenses
    )
    computed = next(
        (computed_mode for computed_mode in on_lens if computed_mode.id == mode_id), None
    )
    if computed is None:
        raise NotFound(f"{profile.name} has no mode {mode_id} of a lens {lens_id}.")
    return Subject(profile, lens, lens.modes[0], computed=computed)


Given = Mapping[str, float]
Work = Callable[[Sequence[Sample], Given, Subject], Measured]


@dataclass(frozen=True)
class Measurement:
    """A measurement of a phone, in plain steps.

    `sharpens` names the figures it finds, below lens and mode; `about` which of its own quantities
    a sample shows in the list of pictures. `of_computed` where a mode that the phone computes is
    what is measured.
    """

    id: str
    name: str
    minutes: int
    why: str
    steps: tuple[str, ...]
    sharpens: tuple[str, ...]
    work: Work
    sample: Sampler | None = None
    least_files: int = 0
    questions: tuple[Question, ...] = ()
    about: tuple[str, ...] = field(default=("iso", "shutter_s"))
    of_computed: bool = False

    def answers(self, given: Mapping[str, float | None]) -> dict[str, float]:
        """Its questions answered; BadInput names the first that is missing or out of its range."""
        found = {}
        for question in self.questions:
            value = given.get(question.id)
            value = question.usual if value is None else value
            if value is None:
                raise BadInput(f"{question.label} is missing.", question.id)
            if not question.low <= value <= question.high:
                ends = f"{question.low:g} and {question.high:g} {question.unit}"
                raise BadInput(f"{question.label} must be between {ends}.", question.id)
            found[question.id] = value
        return found

    def measured(
        self, samples: Sequence[Sample], given: Mapping[str, float | None], subject: Subject
    ) -> Measured:
        """The result of samples and answers; BadInput says what is missing."""
        if len(samples) < self.least_files:
            short = self.least_files - len(samples)
            raise BadInput(f"{short} more picture{'s' * (short > 1)} needed.", "files")
        return self.work(samples, self.answers(given), subject)
