"""A way out that works: an offer, solved."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from oxlen.core.decisions.frames import Exposed
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.solver.frontier import Figures
from oxlen.core.decisions.solver.outcome import SpotOutcome
from oxlen.core.decisions.solver.search import ExposureSlip
from oxlen.core.decisions.solver.snr import tone_snr


@dataclass(frozen=True)
class Trade:
    """A way out that works: what to do, what it costs, the brief after it, its slip, its figures.

    `outcome` says where every spot lands, `exposures` what is shot where it is more than one
    exposure. `outside` marks what is done in the world or by the phone itself, so that no change of
    the sheet has that field. `changes_file` marks ways to other files, even where the steps
    stay the same. `steps` counts the things done together. `on_auto` marks what the phone's auto
    mode is left to choose.
    """

    id: str
    text: str
    cost: str
    slip: ExposureSlip
    figures: Figures
    brief: Brief
    outcome: tuple[SpotOutcome, ...] = ()
    exposures: tuple[Exposed, ...] = ()
    outside: bool = False
    changes_file: bool = False
    steps: int = 1
    on_auto: bool = False

    def snr_of(self, tone_stops: float) -> float:
        """SNR at the output of a tone so many stops from mid in this frame."""
        return float(tone_snr(self.brief, np.array([self.slip.iso]), tone_stops)[0])
