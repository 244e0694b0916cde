"""Live values are those that the program works out: beside plain Python, part by part, for random programs."""

from __future__ import annotations

import random
from collections import Counter
from typing import Any

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import collecting
from reticula.core.language.live import Live, live_run, live_script
from reticula.core.language.live.watcher import Watcher
from reticula.core.language.script import Script, run_script
from tests.core.language.programs.generating import program
from tests.core.language.programs.interpreted import run_interpreted
from tests.core.language.programs.watched import watched
from tests.core.language.studio import reef, sheet
from tests.helpers import examples


def plain(value: Any) -> Any:
    """A value that can be counted: vectors as tuples of numbers, lists too."""
    if isinstance(value, (list, tuple)):
        return tuple(plain(part) for part in value)
    return float(value) + 0.0 if isinstance(value, (int, float)) else value


def every_value(live: Live) -> dict[tuple[int, int, int], Counter[Any]]:
    found: dict[tuple[int, int, int], Counter[Any]] = {}
    for block in live.block.every():
        for place, seen in block.seen.items():
            found.setdefault(tuple(place), Counter())[plain(seen.value)] += 1
    return found


def run(source: str, element: int, geo: Geo | None = None, **inputs: Geo) -> Live:
    return live_script(Script(source, geo or sheet(), "point", inputs=inputs or {"reef": reef()}), element)


@pytest.mark.parametrize("part", range(2))
def test_every_part_of_random_programs_is_what_python_says(field: Geo, part: int) -> None:
    told = 0
    for seed in range(part * 10**6, part * 10**6 + examples(120)):
        source, point = program(seed), random.Random(seed).randrange(field.topology.point_count)
        try:
            wanted = watched(field, source, point)
        except (OverflowError, ValueError, ZeroDivisionError):
            continue
        live = run(source, point, field)
        if live.cut:
            continue
        assert live.error is None, f"program {seed}: {live.error}\n{source}"
        found = every_value(live)
        for place, values in wanted.items():
            # `and` and `or` are worked out whole, where Python stops early: what is seen may be more.
            lacking = Counter(plain(value) for value in values) - found.get(place, Counter())
            assert not lacking, f"program {seed}, at {place}: {lacking} not in {found.get(place)}\n{source}"
        told += 1
    assert told > examples(120) * 0.8


def test_what_is_written_in_the_end_is_what_both_back_ends_write(field: Geo) -> None:
    for seed in range(7000, 7000 + examples(40)):
        source = program(seed)
        last = source.count("\n")
        with collecting():
            made = [run_script(field, source, backend="vector"), run_interpreted(field, source)]
        for point in (0, 5, 11):
            live = run(source, point, field)
            for geo in made:
                text = f"({', '.join(f'{part + 0.0:.6g}' for part in geo.attribute('point', 'way')[point])})"
                assert live.block.lines[last] == text, f"program {seed}, point {point}"


def test_one_element_is_worked_out_and_no_more(monkeypatch: pytest.MonkeyPatch) -> None:
    rows: list[int] = []
    visit = Watcher.visit

    def counted(self: Watcher, expression: Any) -> Any:
        rows.append(self.size)
        return visit(self, expression)

    monkeypatch.setattr(Watcher, "visit", counted)
    big = ops.grid(cells=(300, 300))
    run("a = position * 2\nb = [q.position.x for q in here.neighbours]\nhere.c = sum(b) + length(a)", 40_000, big)
    assert max(rows) <= 4, "four neighbours; never the mesh of 90,000"


def test_loops_keep_their_rounds_and_calls_too() -> None:
    live = run(
        "def half(a):\n    return a / 2\ntotal = 0.0\nfor i in range(3):\n    total += half(i)\nn = 5\n"
        "while n > 1:\n    n -= 2\nhere.t = total",
        0,
    )
    block = live.block
    loops = {loop.name or loop.what: loop for loop in block.loops.values()}
    assert [inside.lines for _, inside in loops["i"].rounds] == [
        {4: "i = 0", 5: "0"},
        {4: "i = 1", 5: "0.5"},
        {4: "i = 2", 5: "1.5"},
    ]
    (calls,) = loops["i"].rounds[2][1].loops.values()
    assert (calls.what, calls.name, calls.rounds[0][1].lines) == ("call", "half", {2: "1"})
    assert [inside.lines[8] for _, inside in loops["while"].rounds] == ["3", "1"]
    assert block.lines[9] == "1.5"


def test_lists_that_are_made_show_each_item() -> None:
    source = "a = [p.index * 10 for p in here.neighbours if p.index > 1]\nhere.n = len(a)"
    live = run(source, 1)
    loops = {place[1] - 1: loop for place, loop in live.block.loops.items()}
    condition, value = loops[source.index("p.index > 1")], loops[source.index("p.index * 10")]
    near = sheet().topology
    assert condition.total == near.point_neighbours[0][2] - near.point_neighbours[0][1]
    assert value.total < condition.total
    assert (value.what, value.name) == ("items", "p")


def test_what_stops_a_program_is_told_with_all_that_came_before() -> None:
    live = run("a = 3\nb = a // (index - 2)\nhere.c = b", 2)
    assert live.block.lines == {1: "3"}
    assert live.error is not None
    assert (live.error["line"], live.error["column"]) == (2, 5)


def test_questions_say_what_they_found_and_where() -> None:
    live = run(
        "reef: geometry\nhit = reef.ray(position + (0, 9, 0), (0, -1, 0))\n"
        "near = reef.near(position, 100, most=3)\nhere.d = hit.distance",
        0,
    )
    ray, near = live.block.marks
    assert (ray.question, near.question, len(near.ends)) == ("ray", "near", 3)
    assert ray.begin[1] == sheet().positions[0][1] + 9
    assert np.allclose(near.begin, sheet().positions[0])


def test_a_ray_that_misses_ends_at_its_reach() -> None:
    live = run("reef: geometry\nhere.f = reef.ray(position, (0, 1, 0) * -1, 0.5).found", 0)
    (mark,) = live.block.marks
    assert not mark.found
    assert np.allclose(np.subtract(mark.ends[0], mark.begin), (0, -0.5, 0))


def test_readings_name_whose_value_was_read() -> None:
    live = run("reef: geometry\nhere.c = cover + reef.nearest(position).heat + sum(here.neighbours.cover)", 3)
    read = {(one.owner, one.name) for one in live.readings}
    assert read >= {("", "cover"), ("reef", "heat")}
    assert {one.element for one in live.readings if one.owner == ""} > {3}


def test_very_many_values_are_cut_and_said_so(monkeypatch: pytest.MonkeyPatch) -> None:
    # What is too much is meant, not what takes too long on a busy machine.
    monkeypatch.setattr(live_run, "MOST_SECONDS", 120.0)
    live = run("n = 0.0\nfor i in range(9000):\n    n += sin(i * 0.1) * cos(i)\nhere.n = n", 0)
    assert live.cut
    (loop,) = live.block.loops.values()
    assert loop.total == 9000
    assert [number for number, _ in loop.rounds][-1] == 8999
