"""What stands at the end of each kind of line."""

from __future__ import annotations

from reticula.core.language.live import live_script
from reticula.core.language.script import Script
from tests.core.language.studio import sheet


def lines(source: str, element: int = 0) -> dict[int, str]:
    return live_script(Script(source, sheet(), "point"), element).block.lines


def test_each_line_says_what_it_gave() -> None:
    text = """amount: number(0, 9) = 2.5
items = [1.0]
items.append(index + 0.5)
items[0] = 7
if index == 0:
    print('here', index)
else:
    never = 1
for i in range(0):
    never = 2
p = add_point(position)
p.cover = 0.75
here.cover += amount
remove(here)
"""
    assert lines(text) == {
        1: "2.5",
        2: "[1]",
        3: "0.5",
        4: "7",
        5: "yes",
        6: "'here' 0",
        9: "no round",
        11: "new point 1",
        12: "0.75",
        13: lines("here.cover = cover + 2.5")[1],
        14: "is removed",
    }


def test_a_function_says_what_it_returns_and_loops_how_they_end() -> None:
    source = """def f(a):
    if a > 1:
        return a
    return 0
for i in range(3):
    if i == 1:
        break
    continue
here.a = f(5)"""
    block = live_script(Script(source, sheet(), "point"), 0).block
    loops = list(block.loops.values())
    rounds = [inside.lines for _, inside in loops[0].rounds]
    assert rounds == [
        {5: "i = 0", 6: "no", 8: "goes on with the next round"},
        {5: "i = 1", 6: "yes", 7: "leaves the loop"},
    ]
    assert loops[1].rounds[0][1].lines == {2: "yes", 3: "5"}
