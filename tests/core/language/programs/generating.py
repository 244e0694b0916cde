"""Random programs that mean the same in Python and in the language: typed, ending, without aliases of lists."""

from __future__ import annotations

import random
from dataclasses import dataclass, field

NUMBERS = ("0.5", "2.0", "-1.25", "3.0", "0.1")
WHOLES = ("0", "1", "2", "3", "-2", "7")


@dataclass
class Writer:
    """Writes one program. ``names`` are the locals that have a value here, by type."""

    dice: random.Random
    lines: list[str] = field(default_factory=list)
    names: dict[str, list[str]] = field(
        default_factory=lambda: {"number": [], "integer": [], "flag": [], "vec3": [], "list": []}
    )
    functions: list[str] = field(default_factory=list)
    count: int = 0
    calls: bool = True

    def fresh(self, type: str) -> str:
        self.count += 1
        return f"{type[:2]}{self.count}"

    def pick(self, *ways: str) -> str:
        return self.dice.choice(ways)

    def local(self, type: str) -> str | None:
        known = self.names[type]
        return self.dice.choice(known) if known and self.dice.random() < 0.6 else None

    # ---- expressions

    def number(self, depth: int) -> str:
        known = self.local("number")
        if depth <= 0:
            return known or self.pick("heat", "position.x", "position.y", *NUMBERS)
        way = self.dice.randrange(12)
        a, b = (lambda: self.number(depth - 1)), (lambda: self.number(depth - 1))
        match way:
            case 0 | 1 | 2:
                return f"({a()} {self.pick('+', '-', '*')} {b()})"
            case 3:
                return f"({a()} / ({b()} * {b()} + 1.0))"
            case 4:
                return f"{self.pick('sin', 'cos')}({a()})"
            case 5:
                return f"{self.pick('min', 'max')}({a()}, {b()})"
            case 6:
                return f"({a()} if {self.flag(depth - 1)} else {b()})"
            case 7:
                return f"mix({a()}, {b()}, {self.pick(*NUMBERS)})"
            case 8:
                return f"length({self.vector(depth - 1)})"
            case 9:
                return f"number({self.integer(depth - 1)})"
            case 10 if self.names["list"]:
                name = self.dice.choice(self.names["list"])
                return f"({name}[{self.integer(0)} % len({name})] if len({name}) > 0 else {a()})"
            case 11 if self.functions and self.calls:
                return f"{self.dice.choice(self.functions)}({a()}, {self.integer(depth - 1)})"
        return f"{self.pick('sum', 'mean')}(here.neighbours.heat)" if False else f"fract({a()})"

    def integer(self, depth: int) -> str:
        known = self.local("integer")
        if depth <= 0:
            return known or self.pick("index", *WHOLES)
        a, b = (lambda: self.integer(depth - 1)), (lambda: self.integer(depth - 1))
        match self.dice.randrange(7):
            case 0 | 1:
                return f"({a()} {self.pick('+', '-')} {b()})"
            case 2:
                return f"(({a()}) % 1000 * (({b()}) % 1000))"
            case 3:
                return f"({a()} {self.pick('//', '%')} {self.pick('2', '3', '-5', '7')})"
            case 4:
                return f"({a()} if {self.flag(depth - 1)} else {b()})"
            case 5 if self.names["list"]:
                return f"len({self.dice.choice(self.names['list'])})"
        return f"clamp({a()}, -50, 50)"

    def flag(self, depth: int) -> str:
        if depth <= 0:
            return self.local("flag") or self.pick("crest", "index % 2 == 0", "True", "False")
        match self.dice.randrange(5):
            case 0:
                return f"({self.number(depth - 1)} {self.pick('<', '>', '<=', '>=')} {self.number(depth - 1)})"
            case 1:
                return f"({self.integer(depth - 1)} {self.pick('==', '!=', '<')} {self.integer(depth - 1)})"
            case 2:
                return f"({self.flag(depth - 1)} {self.pick('and', 'or')} {self.flag(depth - 1)})"
            case 3:
                return f"(not {self.flag(depth - 1)})"
        return f"(0 <= {self.integer(depth - 1)} < 4)"

    def vector(self, depth: int) -> str:
        known = self.local("vec3")
        if depth <= 0:
            return known or "position"
        match self.dice.randrange(4):
            case 0:
                return f"({self.vector(depth - 1)} {self.pick('+', '-')} {self.vector(depth - 1)})"
            case 1:
                return f"({self.vector(depth - 1)} * {self.number(depth - 1)})"
            case 2:
                return f"{self.vector(depth - 1)}.{self.pick('zyx', 'xxy', 'yzx')}"
        return f"({self.number(depth - 1)}, {self.number(0)}, {self.number(0)})"

    def value(self, type: str, depth: int = 2) -> str:
        return {"number": self.number, "integer": self.integer, "flag": self.flag, "vec3": self.vector}[type](depth)

    # ---- statements

    def add(self, indent: int, line: str) -> None:
        self.lines.append("    " * indent + line)

    def block(self, indent: int, size: int, depth: int, *, loop: bool = False) -> None:
        """Statements whose new names end with the block."""
        before = {type: list(names) for type, names in self.names.items()}
        for _ in range(size):
            self.statement(indent, depth, loop=loop)
        self.names = before

    def statement(self, indent: int, depth: int, *, loop: bool) -> None:
        match self.dice.randrange(11 if depth > 0 else 5):
            case 0 | 1:
                type = self.pick("number", "integer", "flag", "vec3")
                value = self.value(type)
                name = self.fresh(type)
                self.add(indent, f"{name} = {value}")
                self.names[type].append(name)
            case 2 if self.names["number"] or self.names["vec3"]:
                type = "number" if self.names["number"] else "vec3"
                name = self.dice.choice(self.names[type])
                self.add(indent, f"{name} {self.pick('=', '+=', '-=')} {self.value(type)}")
            case 3:
                name, first = self.fresh("list"), self.number(1)
                self.add(indent, f"{name} = [{first}, {self.number(0)}]")
                self.names["list"].append(name)
            case 4 if self.names["list"]:
                name = self.dice.choice(self.names["list"])
                self.add(indent, f"{name}.append({self.number(1)})")
            case 5 | 6:
                self.add(indent, f"if {self.flag(2)}:")
                self.block(indent + 1, 2, depth - 1, loop=loop)
                if self.dice.random() < 0.5:
                    self.add(indent, "else:")
                    self.block(indent + 1, 2, depth - 1, loop=loop)
            case 7:
                name = self.fresh("integer")
                self.add(indent, f"for {name} in range({self.pick('3', '4', 'index % 5')}):")
                before = list(self.names["integer"])
                self.names["integer"].append(name)
                self.block(indent + 1, 2, depth - 1, loop=True)
                self.names["integer"] = before
            case 8:
                name = self.fresh("integer")
                self.add(indent, f"{name} = 0")
                self.add(indent, f"while {name} < {self.pick('3', 'index % 4')}:")
                self.add(indent + 1, f"{name} += 1")
                self.block(indent + 1, 2, depth - 1, loop=True)
            case 9:
                name = self.fresh("element")
                self.add(indent, f"for {name} in here.neighbours:")
                self.add(indent + 1, f"total += {name}.heat * {self.number(1)}")
                self.add(indent + 1, f"if {name}.index > {self.integer(1)}:")
                self.add(indent + 2, self.pick("break", "continue"))
                self.add(indent + 1, "steps += 1")
            case 10 if loop:
                self.add(indent, f"if {self.flag(1)}:")
                self.add(indent + 1, self.pick("break", "continue"))
            case _:
                self.add(indent, f"total += {self.number(1)}")


def program(seed: int) -> str:
    """Return the text of one random program that writes ``total``, ``steps``, ``hit`` and ``way``."""
    writer = Writer(random.Random(seed))
    for number in range(writer.dice.randrange(3)):
        inner = Writer(writer.dice, calls=False)
        inner.names = {"number": ["a"], "integer": ["k"], "flag": [], "vec3": [], "list": []}
        inner.add(0, f"def f{number}(a, k):")
        inner.add(1, "total = a")
        inner.add(1, "steps = k")
        inner.block(1, 2, 1)
        inner.add(1, f"if {inner.flag(1)}:")
        inner.add(2, f"return {inner.number(1)}")
        inner.add(1, "return total + number(steps)")
        writer.lines += inner.lines
        writer.functions.append(f"f{number}")
    writer.add(0, "total = 0.0")
    writer.add(0, "steps = 0")
    writer.names["number"].append("total")
    writer.names["integer"].append("steps")
    for _ in range(5):
        writer.statement(0, 2, loop=False)
    writer.add(0, f"here.total = total + {writer.number(2)}")
    writer.add(0, f"here.steps = steps + {writer.integer(2)}")
    writer.add(0, f"if {writer.flag(2)}:")
    writer.add(1, "here.hit = True")
    writer.add(0, f"here.way = {writer.vector(2)}")
    return "\n".join(writer.lines) + "\n"
