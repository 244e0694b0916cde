"""Turning values until formulas are best: a few variants are asked for at a time, and what became of them is told.

By Optuna, which takes whole numbers, lists, conditions and several aims, and is asked and told from outside, so that
the cluster makes what it asks for; scipy.optimize calls the function itself, one value at a time. For one aim over two
or more numbers that change smoothly: CMA-ES (Hansen and Ostermeier, Evol. Comput. 9, 2001), from the best of a Sobol
set. For all else: a tree-structured Parzen estimator (Bergstra et al., NIPS 24, 2011; of several aims Ozaki et al.,
JAIR 73, 2022).
"""

from __future__ import annotations

import math
import threading
import warnings
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING, Any

import numpy as np

from reticula.core.arrays import Floats
from reticula.core.errors import GraphError, ReticulaError
from reticula.many.choices import Choice, Even, Normal, Uniform

if TYPE_CHECKING:
    from optuna import Study
    from optuna.distributions import BaseDistribution
    from optuna.trial import Trial

__all__ = ["AT_ONCE", "MOST_TRIES", "Search"]

AT_ONCE = 8
"""Tries that are asked for together: however many workers there are, so that all find the same."""
FIRST = 16
"""Tries that fill the space evenly, before any is chosen by what became of others."""
MOST_TRIES = 2000
UNMET = 1e30
"""Losses of tries that meet their conditions are below it; CMA-ES only compares."""
_loading = threading.Lock()
"""Modules of Optuna that two threads load at the same time find each other half made."""


class Search:
    """Asks for tries, the same for the same ``seed`` and the same answers.

    ``choices`` are ranges and lists by name, ``whole`` the names that take whole numbers. Raises GraphError for a
    distribution without ends, and ReticulaError where Optuna is not installed.
    """

    def __init__(
        self, choices: Mapping[str, Choice], whole: frozenset[str], *, aims: int, tries: int, seed: int = 0
    ) -> None:
        if not choices:
            raise GraphError("say what is turned")
        if not 1 <= tries <= MOST_TRIES:
            raise GraphError(f"these are {tries:,} tries; make 1 to {MOST_TRIES:,}")
        self.aims, self.left, self.seed = aims, tries, seed
        turned = {name: _turned(name, one, name in whole) for name, one in choices.items()}
        self._names = tuple(turned)
        self._fixed = {name: one.first for name, one in turned.items() if one.drawn.single()}
        self._space = {name: one for name, one in turned.items() if name not in self._fixed}
        self._evolves = aims == 1 and len(self._space) > 1 and all(one.ends for one in self._space.values())
        self._first = self._even() if self._evolves else []
        self._told: list[tuple[dict[str, Any], float]] = []
        self._study: Study | None = None
        self._asked: list[Trial] = []

    def ask(self) -> list[dict[str, Any]]:
        """Return the values of the next tries; none when all are made."""
        count = min(AT_ONCE, self.left)
        self.left -= count
        if self._first:
            return [self._values(one) for one in self._first[:count]]
        self._study = self._study or self._begun()
        space = {name: one.drawn for name, one in self._space.items()}
        self._asked = [self._study.ask(space) for _ in range(count)]
        return [self._values(trial.params) for trial in self._asked]

    def _values(self, drawn: Mapping[str, Any]) -> dict[str, Any]:
        found = {name: one.at(drawn[name]) for name, one in self._space.items()}
        return {name: self._fixed[name] if name in self._fixed else found[name] for name in self._names}

    def tell(self, losses: Floats, excess: Floats) -> None:
        """Say what became of the tries that were asked for last: losses ``(N, aims)``, NaN where there are none, and by
        how much conditions are not met ``(N,)``.
        """
        from optuna.trial import TrialState

        # Deb's order of tries (2000): any that meets its conditions before any that does not.
        met = np.where(excess > 0, UNMET * (1 + excess), losses[:, 0])
        if self._study is None:
            self._told += zip(self._first[: len(losses)], met.tolist(), strict=True)
            del self._first[: len(losses)]
            return
        for at, trial in enumerate(self._asked):
            if not self._evolves:
                trial.set_constraint("excess", float(excess[at]))
            found = [float(met[at])] if self._evolves else losses[at].tolist()
            if any(map(math.isnan, found)):
                self._study.tell(trial, state=TrialState.FAIL)
            else:
                self._study.tell(trial, found)

    def _even(self) -> list[dict[str, Any]]:
        """Return the first tries of those that evolve: a scrambled Sobol set."""
        from scipy.stats import qmc

        ends = {name: one.ends for name, one in self._space.items() if one.ends}
        parts = qmc.Sobol(len(ends), rng=np.random.default_rng(self.seed)).random(FIRST).tolist()
        return [
            {name: low + part * (high - low) for part, (name, (low, high)) in zip(row, ends.items(), strict=True)}
            for row in parts
        ]

    def _begun(self) -> Study:
        import optuna
        from optuna.samplers import BaseSampler, CmaEsSampler, TPESampler

        parzen = TPESampler(
            seed=self.seed,
            n_startup_trials=FIRST,
            multivariate=True,
            constant_liar=True,
        )
        sampler: BaseSampler = parzen
        if self._evolves:
            best = min(self._told, key=lambda one: math.inf if math.isnan(one[1]) else one[1])[0]
            sampler = CmaEsSampler(
                x0=best, seed=self.seed, n_startup_trials=0, popsize=AT_ONCE, independent_sampler=parzen
            )
        return optuna.create_study(directions=["minimize"] * self.aims, sampler=sampler)


@dataclass(frozen=True)
class _Turned:
    """A value that is turned: what Optuna draws, and of an ordered list the values that its places stand for.

    ``first`` is one of the values, ``ends`` those of one that takes any number between two.
    """

    drawn: BaseDistribution
    first: Any
    listed: Sequence[Any] | None = None
    ends: tuple[float, float] | None = None

    def at(self, place: Any) -> Any:
        """Return the value of what was drawn."""
        return place if self.listed is None else self.listed[place]


def _load() -> None:
    """Load Optuna, which takes a second; raise ReticulaError where it is not installed."""
    try:
        with _loading:
            import optuna

            optuna.logging.set_verbosity(optuna.logging.ERROR)
            warnings.filterwarnings("ignore", category=optuna.exceptions.ExperimentalWarning)
    except ImportError as error:
        raise ReticulaError(
            f"seeking needs Optuna ({error.name}): pip install 'reticula[many]', and start again"
        ) from None


def _turned(name: str, choice: Choice, whole: bool) -> _Turned:
    _load()
    from optuna.distributions import CategoricalDistribution, FloatDistribution, IntDistribution

    match choice:
        case Normal():
            raise GraphError(f"'{name}': seeking needs ends; say uniform(low, high), or a list")
        case Uniform(low, high) if not whole:
            return _Turned(FloatDistribution(float(low), float(high)), float(low), ends=(float(low), float(high)))
        case Uniform(low, high):
            if math.ceil(low) > math.floor(high):
                raise GraphError(f"'{name}': there is no whole number from {low:g} to {high:g}")
            return _Turned(IntDistribution(math.ceil(low), math.floor(high)), math.ceil(low))
        case Even():
            values = choice.listed()
        case _:
            values = list(choice.values)
    if not all(isinstance(one, (int, float)) and not isinstance(one, bool) for one in values):
        return _Turned(CategoricalDistribution(list(dict.fromkeys(values))), values[0])
    values = sorted({round(one) if whole else one for one in values})
    return _Turned(IntDistribution(0, len(values) - 1), values[0], values)
