"""What is noted of a run: rounds from both ends of long loops, as plain data."""

from __future__ import annotations

from reticula.core.language.live.record import KEPT_ROUNDS, Block, Loop, Mark, Seen
from reticula.core.language.parse import Place


def test_of_many_rounds_the_first_and_the_last_are_kept() -> None:
    loop = Loop("for", "i")
    for number in range(1000):
        loop.begin_round().lines[1] = str(number)
    numbers = [number for number, _ in loop.rounds]
    assert loop.total == 1000
    assert numbers == [*range(KEPT_ROUNDS), *range(1000 - KEPT_ROUNDS, 1000)]
    assert all(inside.lines[1] == str(number) for number, inside in loop.rounds)


def test_a_loop_that_runs_again_goes_on_counting() -> None:
    block = Block()
    first = block.loop(Place((2, 1, 3)), "while", "")
    first.begin_round()
    assert block.loop(Place((2, 1, 3)), "while", "") is first


def test_it_becomes_plain_data_with_all_inside() -> None:
    block = Block()
    block.seen[Place((1, 2, 3))] = Seen("0.5", 0.5, "number")
    block.marks.append(Mark("ray", Place((1, 2, 3)), (0.0, 1.0, 2.0), ((3.0, 4.0, 5.0),), True))
    block.loop(Place((2, 1, 3)), "for", "i").begin_round().lines[3] = "yes"
    told = block.describe()
    assert told["seen"] == [[1, 2, 3, "0.5", "number"]]
    assert told["marks"][0]["ends"] == [[3.0, 4.0, 5.0]]
    assert told["loops"][0]["rounds"] == [
        {"number": 0, "block": {"seen": [], "lines": [[3, "yes"]], "loops": [], "marks": []}}
    ]
    assert len(list(block.every())) == 2
