"""The plan: every registered decision in turn, and all that a screen wants to know about it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property

from oxlen.core import decisions
from oxlen.core.decisions.exposure.auto.choice import AutoChoice, auto_choice
from oxlen.core.decisions.exposure.auto.steps import AutoSteps, auto_steps
from oxlen.core.decisions.exposure.words.slip import Reason, exposure_reason
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.framework.setting import Exposure, Setting, Slip
from oxlen.core.decisions.scene.facts import scene_facts
from oxlen.core.decisions.sequence.bracket import TonalSpan, tonal_span
from oxlen.core.decisions.solver.conflict import Conflict
from oxlen.core.decisions.solver.frontier import (
    Alternative,
    Compromise,
    Figures,
    alternatives,
    compromise,
    figures_at,
)
from oxlen.core.decisions.solver.outcome import SpotOutcome, outcome
from oxlen.core.decisions.solver.predict import predict
from oxlen.core.decisions.solver.search import ExposureSlip, Search, search_for
from oxlen.core.decisions.solver.snr import output_gain
from oxlen.core.decisions.solver.solution import Solution, solve
from oxlen.core.decisions.surroundings.cautions import caution_words
from oxlen.core.decisions.trade import Trade
from oxlen.core.decisions.trades import trades_for
from oxlen.core.decisions.upstream import Upstream


@dataclass(frozen=True)
class Window:
    """The stretch of steps along the wanted exposure that every limit leaves open."""

    shutter_min_s: float
    shutter_max_s: float
    iso_min: float
    iso_max: float


@dataclass(frozen=True)
class Plan:
    """The decision and everything it rests on.

    `slip` keeps every limit, and may miss the aim when `conflict` is given; None when every pair
    breaks something or spoils the picture: `compromise` then gives up least. `dialled` is the slip
    as lines, over every exposure; without a slip those lines that do not depend on it, and no
    exposure. `cautions` go with the situation, slip or none. `outcome` is where each spot lands in
    it. `slack_stops` is the room the slip leaves to each limit. `solution` holds the search with
    every pair of steps, so that a map can be drawn without deciding anything again.
    """

    solution: Solution
    dialled: Slip
    asks_ways: bool = False

    # All below is worked out when it is first read: tables of slips ask for few of it.

    @cached_property
    def figures(self) -> Figures | None:
        """What the slip gives in figures; None without one."""
        return figures_of(self.solution)

    @cached_property
    def slack_stops(self) -> Mapping[str, float]:
        """The room the slip leaves to each limit (stops), by its id."""
        pair = self.solution.pair
        return {} if pair is None else self.search.slack_stops(pair)

    @cached_property
    def window(self) -> Window | None:
        """The steps that every limit leaves open; None where there are none."""
        return _window(self.search)

    @cached_property
    def compromise(self) -> Compromise | None:
        """Without a slip, what gives up least; beside the Sun nothing is nearly an answer."""
        if self.slip is not None or scene_facts(self.brief).is_glaring:
            return None
        return compromise(self.search)

    @cached_property
    def alternatives(self) -> tuple[Alternative, ...]:
        """Other slips that keep every limit."""
        return alternatives(self.search)

    @cached_property
    def span(self) -> TonalSpan | None:
        """How far the tones are apart, against what the sensor holds."""
        iso = self.slip.iso if self.slip else self.brief.mode.manual.iso[0]
        return tonal_span(self.brief, iso)

    @cached_property
    def auto(self) -> AutoChoice | None:
        """What the phone's own automatic would choose; None where the frame's mean is not known."""
        return _auto(self.search)

    @cached_property
    def auto_steps(self) -> AutoSteps:
        """The way to the slip on a phone without a manual mode."""
        return auto_steps(self.search)

    @cached_property
    def reasons(self) -> tuple[Reason, ...]:
        """Why the exposure, and each line of the slip."""
        return (exposure_reason(self.brief, self.search.aim), *_reasons(self.dialled))

    @cached_property
    def outcome(self) -> tuple[SpotOutcome, ...]:
        """Where each spot lands in what is dialled."""
        return outcome_of(self.brief, self.dialled) if self.dialled.exposures else ()

    @cached_property
    def cautions(self) -> tuple[str, ...]:
        """What the situation warns of, slip or none."""
        return caution_words(self.brief)

    @cached_property
    def trades(self) -> tuple[Trade, ...]:
        """Ways out where it collides, or where they are asked for; looked for when first read."""
        if self.conflict is None and not self.asks_ways:
            return ()
        return trades_for(self.search, self.conflict)

    @property
    def search(self) -> Search:
        """The search the plan came from."""
        return self.solution.search

    @property
    def brief(self) -> Brief:
        """The brief decided on; what it left open has been chosen in it."""
        return self.search.brief

    @property
    def slip(self) -> ExposureSlip | None:
        """Lens, ISO and shutter of the main exposure."""
        return self.solution.slip

    @property
    def snr_pixel(self) -> float | None:
        """SNR predicted of the subject for each pixel of the file; None without a slip."""
        if self.figures is None or not self.figures.snr_subject:
            return None
        return self.figures.snr_subject / output_gain(self.brief)

    @property
    def conflict(self) -> Conflict | None:
        """What blocks a slip, when nothing fits."""
        return self.solution.conflict

    @property
    def binding(self) -> frozenset[str]:
        """Ids of the limits that the slip rests on."""
        return self.solution.binding


def solved(brief: Brief) -> Solution:
    """The exposure alone: its slip or what collides, as `plan` has it, at a third of the time."""
    filled, kinds = brief, decisions.limit_kinds()
    for decision in decisions.DECISIONS:
        filled = decision.fill(filled, kinds)
    return solve(filled, kinds)


def searched(brief: Brief) -> Search:
    """The search for a brief as it is, under every kind of limit. BadInput without a reading."""
    return search_for(brief, decisions.limit_kinds())


def plan(brief: Brief, *, ask: bool = False) -> Plan:
    """Decide everything for a brief; `ask` for trades even when nothing collides.

    A slip never breaks a limit and never leaves the phone's manual ladders. When no pair of steps
    meets every limit within half a step of the aim, `conflict` says which two collide, and the slip
    is the nearest that still breaks none, or None. Raises BadInput without a reading, NotFound for
    an unknown lens or mode.
    """
    solution = solved(brief)
    return Plan(solution, _dialled(brief, solution), asks_ways=ask)


def figures_of(solution: Solution) -> Figures | None:
    """What the slip of a solution gives in figures; None without one."""
    if solution.pair is None:
        return None
    return figures_at(predict(solution.search.problem, solution.pair), 0)


def outcome_of(brief: Brief, dialled: Slip) -> tuple[SpotOutcome, ...]:
    """Where every spot lands in what is dialled."""
    return outcome(brief, [exposure.ev100_set for exposure in dialled.exposures])


def _dialled(asked: Brief, solution: Solution) -> Slip:
    """The lines of every decision in working order, and the exposures they are shot at.

    Each decision is given the brief as it was asked, so that it can tell a choice from a gap. What
    does not depend on the exposure is decided also where that collides; no exposure is given then.
    """
    settings: tuple[Setting, ...] = ()
    for decision in decisions.DECISIONS:
        settings += decision.decide(asked, Upstream(solution, settings))
    upstream = Upstream(solution, settings)
    if solution.slip is None:
        return Slip(settings, ())
    exposures: tuple[Exposure, ...] = (_single(solution.slip, settings),)
    for decision in decisions.DECISIONS:
        exposures = decision.exposures(solution.search.brief, upstream) or exposures
    return Slip(settings, exposures)


def _single(slip: ExposureSlip, settings: tuple[Setting, ...]) -> Exposure:
    return Exposure(settings, slip.ev100_set, slip.residual_stops)


def _reasons(dialled: Slip) -> tuple[Reason, ...]:
    """The reason of each line, by the field it is for."""
    return tuple(
        Reason(setting.field, setting.because, setting.reason) for setting in dialled.settings
    )


def _window(search: Search) -> Window | None:
    open_pairs = search.open
    if not open_pairs.row.size:
        return None
    ladder = search.brief.mode.manual
    rows, columns = open_pairs.row, open_pairs.column
    return Window(
        ladder.shutter_s[int(columns.min())],
        ladder.shutter_s[int(columns.max())],
        ladder.iso[int(rows.min())],
        iso_max=ladder.iso[int(rows.max())],
    )


def _auto(search: Search) -> AutoChoice | None:
    mean = search.brief.scene_mean_ev100
    return None if mean is None else auto_choice(search.brief, search.aim.ev100, mean)
