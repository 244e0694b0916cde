"""What a program does, seen from outside: whether it makes elements, loops, or calls itself."""

from __future__ import annotations

from typing import Any

from reticula.core.language import ir
from reticula.core.language.types import kind_of

__all__ = ["calls_itself", "changes_list", "kinds_made", "loops", "makes_elements"]


def parts_of_program(program: ir.Program) -> list[Any]:
    """Every expression and statement of a program."""
    return parts_within((program.body, *(routine.body for routine in program.routines.values()), program.result))


def parts_within(whole: tuple[Any, ...]) -> list[Any]:
    found: list[Any] = []
    stack: list[Any] = [whole]
    while stack:
        part = stack.pop()
        if isinstance(part, tuple):
            stack.extend(part)
        elif isinstance(part, (ir.ExpressionNode, ir.StatementNode)):
            found.append(part)
            stack.extend(vars(part).values())
    return found


def makes_elements(program: ir.Program) -> bool:
    return any(isinstance(part, (ir.MakePoint, ir.MakeChain)) for part in parts_of_program(program))


def kinds_made(program: ir.Program) -> set[str]:
    kinds = set()
    for part in parts_of_program(program):
        if isinstance(part, ir.MakePoint):
            kinds.add("point")
        elif isinstance(part, ir.MakeChain):
            kinds.add(kind_of(part.type))
        elif isinstance(part, ir.Remove):
            kinds.add("remove")
    return kinds


def calls_itself(program: ir.Program) -> bool:
    """Whether any function of a program calls itself, at once or through others."""
    calls = {
        name: {part.routine for part in parts_within(routine.body) if isinstance(part, ir.Call)}
        for name, routine in program.routines.items()
    }
    reached = dict(calls)
    for _ in calls:
        reached = {name: known.union(*(calls[one] for one in known)) for name, known in reached.items()}
    return any(name in known for name, known in reached.items())


def loops(body: tuple[ir.Statement, ...]) -> bool:
    """Whether statements hold a loop, a call or a list that is gone through."""
    slow = (ir.For, ir.While, ir.Call, ir.Comprehension, ir.Reduce)
    return any(isinstance(part, slow) for part in parts_within(body))


def changes_list(body: tuple[ir.Statement, ...], name: str) -> bool:
    """Whether statements change a local list."""
    stack: list[Any] = [*body]
    while stack:
        part = stack.pop()
        if isinstance(part, (ir.Assign, ir.Append, ir.SetItem)) and part.name == name:
            return True
        if isinstance(part, (ir.If, ir.For, ir.While)):
            stack += [*part.body, *(part.otherwise if isinstance(part, ir.If) else ())]
    return False
