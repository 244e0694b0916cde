"""A proof sheet: one result of a graph in many variants, with a small picture and some numbers of each."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass, field
from pathlib import Path
from typing import Any

from reticula.core.context import using
from reticula.core.errors import FormulaError, GraphError
from reticula.core.formats import format_of
from reticula.core.graph.nesting.stored_shapes import stored_shapes
from reticula.core.graph.structure.document import chosen_node
from reticula.core.graph.structure.library import MemoryLibrary
from reticula.core.graph.structure.linked import resolved
from reticula.core.language.parse import parse
from reticula.core.packages.opened import Opened
from reticula.many.aims import Seek
from reticula.many.choices import MOST_VARIANTS, Each, OneOf, choice_of_text, value_like, variants_of
from reticula.many.part import Part
from reticula.many.parts import Parts
from reticula.many.rows import Row, with_variants
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
        What each dial, or parameter as ``NODE.PARAMETER``, is turned to, and which shapes come in at each input or in
        place of a shape that the graph names, as :func:`reticula.many.choices.choice_of_text` reads it.
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
    table : str
        The table whose rows are made, each with every variant; its cells set what is called as their ``columns``, and
        those that set nothing are kept beside the result.
    ending : str
        The format of the file that is kept of each result; empty: none.
    """

    vary: Mapping[str, str] = field(default_factory=dict)
    count: int = 16
    spread: str = "sobol"
    seed: int = 0
    numbers: Mapping[str, str] = field(default_factory=dict)
    node: str | None = None
    frame: float | None = None
    seek: Seek | None = None
    table: str = ""
    columns: Sequence[str] = ()
    ending: str = ""

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
    def read(self) -> list[str]:
        """What formulas over variants read."""
        return list(dict.fromkeys([*self.vary, *self.columns, *self.noted]))


class Sheet:
    """A plan for a graph: its variants, and the parts that make them.

    ``library`` are the definitions of published operators that the graph uses, ``shapes`` the files of shapes by name,
    ``rows`` those of the plan's table. Raises GraphError for a text of the plan that cannot be read, and a node that is
    not there.
    """

    def __init__(
        self,
        document: Mapping[str, Any],
        plan: Plan,
        library: Mapping[str, Mapping[str, Any]],
        shapes: Mapping[str, Path],
        rows: Sequence[Mapping[str, Any]] = (),
    ) -> None:
        whole = dict(resolved(dict(document)))
        self.plan, self._given, self._rows = plan, shapes, rows
        self._choices = {name: choice_of_text(text) for name, text in plan.vary.items()}
        with using(library=MemoryLibrary(library)):
            wanted = stored_shapes(whole)
        inputs = tuple(port["name"] for port in whole.get("inputs", []))
        self.accepts = frozenset({*inputs, *wanted} - set(whole.get("dials", {})))
        listed = [(name, one.values) for name, one in self._choices.items() if isinstance(one, (Each, OneOf))]
        listed += [(name, (cell,)) for row in rows for name, cell in row.items()]
        set_to = {
            value for name, values in listed if name not in self.accepts for value in values if isinstance(value, str)
        }
        found: dict[str, Path | tuple[str, bytes] | None]
        found = {name: shapes.get(name) for name in sorted(wanted | (set_to & set(shapes)))}
        self.what = Opened(whole, dict(library), chosen_node(whole, plan.node), inputs, found)
        self.parts = Parts(self.what, {}, plan.noted, plan.frame, drawn=True)

    def variants(self) -> list[dict[str, Any]]:
        """Return the values of each variant, by name.

        Raises GraphError for a name that nothing has, a text that cannot be read, a number that is no formula, and too
        many variants.
        """
        self.check()
        plan = self.plan
        if not self._choices and not self._rows:
            raise GraphError("say what is turned, or give a table with rows")
        made = variants_of(self._choices, count=plan.count, spread=plan.spread, seed=plan.seed, whole=self.what.whole)
        rows = [{name: cell for name, cell in row.items() if cell is not None} for row in self._rows]
        if len(made) * max(len(rows), 1) > MOST_VARIANTS:
            raise GraphError(f"these are {len(made) * len(rows):,} variants; {MOST_VARIANTS:,} is the most")
        found = [dict(one) for one in with_variants(rows, made)] if self._choices else rows
        for one in found:
            one.update(self._shapes_of(one))
        return found

    def search(self) -> Search:
        """Return what asks for tries, of a plan that seeks; raise GraphError as :meth:`variants` does."""
        plan, seek = self.plan, self.plan.seek
        assert seek is not None
        self.check()
        return Search(self._choices, self.what.whole, aims=len(seek.aims), tries=plan.count, seed=plan.seed)

    def check(self) -> None:
        """Raise GraphError for a name that nothing has and a formula that cannot be read, FormatError for a format that
        there is not.
        """
        plan, seek = self.plan, self.plan.seek
        if unknown := next((name for name in plan.vary if not self.sets(name)), None):
            raise GraphError(f"nothing is called '{unknown}'; dials are {', '.join(self.what.dials) or 'none'}")
        _check_numbers(plan.noted)
        if plan.ending and not format_of(f"result.{plan.ending}").writes:
            raise GraphError(f"files that end in .{plan.ending} are only read")
        if seek is not None:
            if plan.table or not self._choices:
                raise GraphError("seeking turns values between ends; it takes at least one, and no table")
            seek.check(dict.fromkeys(plan.noted, 1.0) | {name: value_like(one) for name, one in self._choices.items()})

    def _shapes_of(self, values: Mapping[str, Any]) -> dict[str, str]:
        """Return the shape by name at each place where one comes in; a cell may have made a number of its name."""
        found = {name: str(value) for name, value in values.items() if name in self.accepts}
        if missing := next((name for name in found.values() if name not in self._given), None):
            raise GraphError(f"the project has no shape '{missing}'")
        return found

    def sets(self, name: str) -> bool:
        """Whether something is called like this: a dial, a parameter, an input, or a shape that the graph names."""
        return self.what.can_set(name) or name in self.accepts

    def part(self, values: Mapping[str, Any]) -> Part:
        """Return what makes the variant of some values; raise GraphError for a shape that is not there any more."""
        files = {name: str(self._given[shape]) for name, shape in self._shapes_of(values).items()}
        sets = {name: value for name, value in values.items() if name not in files and self.what.can_set(name)}
        return self.parts.part(Row(0, "", files, sets, out=self.plan.ending and f"result.{self.plan.ending}"))


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
