"""What is shown at the end of a line: what its statement gave."""

from __future__ import annotations

from reticula.core.language import ir
from reticula.core.language.live.record import Block

__all__ = ["told_line"]


def told_line(statement: ir.Statement, block: Block) -> str:
    """Return what a statement gave where ``block`` has the values that were seen; nothing if there is nothing to say.

    Loops say it in each of their rounds.
    """

    def text(value: ir.Expression) -> str:
        found = block.seen.get(value.place)
        return found.text if found else ""

    match statement:
        case ir.Assign() | ir.SetItem() | ir.Append() | ir.Write() | ir.Add() | ir.Do():
            return text(statement.value)
        case ir.If():
            return text(statement.test)
        case ir.Print():
            return " ".join(text(value) for value in statement.values)
        case ir.Return():
            return text(statement.value) if statement.value is not None else "ends here"
        case ir.Remove():
            return "is removed"
        case ir.Break():
            return "leaves the loop"
        case ir.Continue():
            return "goes on with the next round"
        case ir.For() | ir.While():
            return "" if statement.place in block.loops else "no round"
