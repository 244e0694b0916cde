"""A proof sheet: one result of a graph in many variants, with a small picture and some numbers of each."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import asdict, dataclass, field
from pathlib import Path
from typing import Any

from reticula.core.context import using
from reticula.core.errors import FormulaError, GraphError
from reticula.core.graph.nesting.stored_shapes import stored_shapes
from reticula.core.graph.structure.document import chosen_node
from reticula.core.graph.structure.library import MemoryLibrary
from reticula.core.graph.structure.linked import resolved
from reticula.core.language.parse import parse
from reticula.core.packages.opened import Opened
from reticula.many.aims import Seek
from reticula.many.choices import Each, OneOf, choice_of_text, value_like, variants_of
from reticula.many.part import Part
from reticula.many.parts import Parts
from reticula.many.rows import Row
from reticula.many.search import Search
from reticula.workers.making import COUNTED

__all__ = ["MOST_NUMBERS", "Plan", "Sheet"]

MOST_NUMBERS = 24


@dataclass(frozen=True)
class Plan:
    """What a sheet is to show.

    Attributes
    ----------
    vary : dict
        What each dial, or parameter as ``NODE.PARAMETER``, is turned to, as
        :func:`reticula.many.choices.choice_of_text` reads it.
    count, spread, seed
        Of what is drawn, see :func:`reticula.many.choices.variants_of`.
    numbers : dict
        What is noted of each variant, by name, see :func:`reticula.workers.making.number_of`.
    node : str, optional
        Whose result it is; what the graph looks at or ends with, if not given.
    frame : float, optional
        At which moment.
    seek : Seek, optional
        What is sought; ``count`` are the tries then, and all variants are tries.
    """

    vary: Mapping[str, str] = field(default_factory=dict)
    count: int = 16
    spread: str = "sobol"
    seed: int = 0
    numbers: Mapping[str, str] = field(default_factory=dict)
    node: str | None = None
    frame: float | None = None
    seek: Seek | None = None

    def plain(self) -> dict[str, Any]:
        """Return it as JSON can hold it."""
        return asdict(self)

    @classmethod
    def of(cls, plain: Mapping[str, Any]) -> Plan:
        """Return what :meth:`plain` made."""
        seek = plain.get("seek")
        return cls(**{**plain, "seek": Seek.of(seek) if seek else None})

    @property
    def noted(self) -> dict[str, str]:
        """What is noted of each variant, with what is sought."""
        return {**(self.seek.numbers_beside({*self.vary, *self.numbers}) if self.seek else {}), **self.numbers}

    @property
    def columns(self) -> list[str]:
        """What formulas over variants read."""
        return [*self.vary, *self.noted]


class Sheet:
    """A plan for a graph: its variants, and the parts that make them.

    ``library`` are the definitions of published operators that the graph uses, ``shapes`` the files of shapes by name.
    Raises GraphError for a text of the plan that cannot be read, and a node that is not there.
    """

    def __init__(
        self,
        document: Mapping[str, Any],
        plan: Plan,
        library: Mapping[str, Mapping[str, Any]],
        shapes: Mapping[str, Path],
    ) -> None:
        whole = dict(resolved(dict(document)))
        self.plan = plan
        self._choices = {name: choice_of_text(text) for name, text in plan.vary.items()}
        with using(library=MemoryLibrary(library)):
            wanted = stored_shapes(whole)
        listed = (one.values for one in self._choices.values() if isinstance(one, (Each, OneOf)))
        wanted |= {value for values in listed for value in values if isinstance(value, str) and value in shapes}
        found: dict[str, Path | tuple[str, bytes] | None] = {name: shapes.get(name) for name in sorted(wanted)}
        self.what = Opened(whole, dict(library), chosen_node(whole, plan.node), (), found)
        self.parts = Parts(self.what, {}, plan.noted, plan.frame, drawn=True)

    def variants(self) -> list[dict[str, Any]]:
        """Return the values of each variant, by name.

        Raises GraphError for a name that nothing has, a text that cannot be read, a number that is no formula, and too
        many variants.
        """
        self._check()
        plan = self.plan
        return variants_of(self._choices, count=plan.count, spread=plan.spread, seed=plan.seed, whole=self.what.whole)

    def search(self) -> Search:
        """Return what asks for tries, of a plan that seeks; raise GraphError as :meth:`variants` does."""
        plan, seek = self.plan, self.plan.seek
        assert seek is not None
        self._check()
        seek.check(dict.fromkeys(plan.noted, 1.0) | {name: value_like(one) for name, one in self._choices.items()})
        return Search(self._choices, self.what.whole, aims=len(seek.aims), tries=plan.count, seed=plan.seed)

    def _check(self) -> None:
        if unknown := next((name for name in self.plan.vary if not self.what.can_set(name)), None):
            raise GraphError(f"nothing is called '{unknown}'; dials are {', '.join(self.what.dials) or 'none'}")
        _check_numbers(self.plan.noted)

    def part(self, values: Mapping[str, Any]) -> Part:
        """Return what makes the variant of some values."""
        return self.parts.part(Row(0, "", values=values))


def _check_numbers(numbers: Mapping[str, str]) -> None:
    if len(numbers) > MOST_NUMBERS:
        raise GraphError(f"these are {len(numbers)} numbers; {MOST_NUMBERS} is the most")
    for name, wanted in numbers.items():
        if wanted.strip() in COUNTED:
            continue
        try:
            parse(wanted)
        except FormulaError as error:
            raise GraphError(f"number '{name}': {error}") from None
