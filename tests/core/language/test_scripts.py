"""What scripts do to a geometry: writing, collisions, making, removing, carrying; and what they say when they are
wrong.
"""

from __future__ import annotations

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.errors import FormulaError
from reticula.core.language.script import Script, run_script
from tests.core.language.programs.interpreted import run_interpreted
from tests.core.language.studio import reef, sheet


def run(text: str, each: str = "point", geo: Geo | None = None, **more: object) -> Geo:
    return run_script(sheet() if geo is None else geo, text, each=each, backend="vector", **more)  # type: ignore[arg-type]


def told(notes: list[Note]) -> str:
    return " ".join(note.text for note in notes)


def test_an_element_sees_its_own_writes_and_others_as_they_were(notes: list[Note]) -> None:
    made = run("here.cover = cover + 1\nhere.own = cover\nhere.theirs = max(here.neighbours.cover)")
    before = sheet().attribute("point", "cover")
    assert (made.attribute("point", "own") == before + 1).all()
    assert made.attribute("point", "theirs").max() <= before.max()


def test_sums_add_up_and_the_last_of_several_counts(notes: list[Note]) -> None:
    made = run("for p in here.points:\n    p.n += 1\n    p.last = index", "face")
    shape = sheet().topology
    assert (made.attribute("point", "n") == np.bincount(shape.corner_point)).all()
    last = np.zeros(shape.point_count, int)
    np.maximum.at(last, shape.corner_point, shape.corner_face)
    assert (made.attribute("point", "last") == last).all()
    assert "'last' of 45 points was set by more than one element; the last one counts." in told(notes)


def test_own_writes_come_first_then_others_then_sums(notes: list[Note]) -> None:
    triangle = Geo.from_faces([[0, 0, 0], [1, 0, 0], [0, 1, 0]], [[0, 1, 2]])
    made = run("here.x = 10\nfor p in here.neighbours:\n    p.x = index\n    p.x += 100", geo=triangle)
    assert made.attribute("point", "x").tolist() == [202, 202, 201]


def test_partial_writes_keep_the_rest_and_say_so(notes: list[Note]) -> None:
    made = run("if index < 3:\n    here.cover = 9\n    here.fresh = True")
    assert made.attribute("point", "fresh").sum() == 3
    assert (made.attribute("point", "cover")[3:] == sheet().attribute("point", "cover")[3:]).all()
    assert "'fresh' is new: 46 points that the script did not set hold no." in told(notes)


def test_a_write_that_never_happens_is_a_warning(notes: list[Note]) -> None:
    run("if cover > 99:\n    here.lost = True")
    assert [note.text for note in notes if note.level == "warning"] == [
        "'here.lost' was written by no point: no condition held."
    ]


def test_well_known_attributes_begin_white_and_unturned(notes: list[Note]) -> None:
    made = run("if index == 0:\n    here.color = (1, 0, 0, 1)\n    here.rotation = (0, 1, 0, 0)")
    assert made.attribute("point", "color")[1].tolist() == [1, 1, 1, 1]
    assert made.attribute("point", "color")[0].tolist() == [1, 0, 0, 1]
    assert made.attribute("point", "rotation")[1].tolist() == [0, 0, 0, 1]


def test_made_points_copy_what_made_them(notes: list[Note]) -> None:
    made = run("if cover > 0.9:\n    p = add_point(position + (0, 1, 0))\n    p.level = 2\n    add_curve([here, p])")
    old = sheet().topology.point_count
    makers = np.flatnonzero(sheet().attribute("point", "cover") > 0.9)
    assert (made.attribute("point", "cover")[old:] == sheet().attribute("point", "cover")[makers]).all()
    assert made.attribute("point", "level").sum() == 2 * len(makers)
    assert (made.sources["point"].index[old:] == makers).all()
    assert len(np.unique(made.identity("point"))) == made.topology.point_count
    assert (made.identity("point")[:old] == sheet().identity("point")).all()


def test_points_from_nothing_have_names_of_their_own(notes: list[Note]) -> None:
    made = run("for i in range(5):\n    add_point((i, 0, 0))", "once")
    assert len(np.unique(made.identity("point"))) == made.topology.point_count
    more = run("for i in range(9):\n    add_point((i, 0, 0))", "once")
    assert (more.identity("point")[: made.topology.point_count] == made.identity("point")).all()


def test_faces_made_inherit_from_the_face_that_made_them(notes: list[Note]) -> None:
    made = run(
        "f = add_face([p for p in here.points])\nf.copy = True",
        "face",
        ops.box().with_attribute("face", "tone", np.arange(6.0)),
    )
    assert made.attribute("face", "tone").tolist() == [*range(6), *range(6)]
    assert made.attribute("face", "copy").tolist() == [False] * 6 + [True] * 6


def test_chains_join_old_and_new_points_in_order(notes: list[Note]) -> None:
    made = run(
        "a = add_point((0, 0, 0))\nb = add_point((1, 0, 0))\nadd_curve([b, a, geo.points[1]], "
        "closed=True)\nadd_segments([a, b])",
        "once",
        ops.line(segments=1),
    )
    assert made.topology.curve_point.tolist() == [0, 1, 3, 2, 1, 2, 3]
    assert made.topology.curve_closed.tolist() == [False, True, False]


def test_removing_takes_faces_and_curves_along(notes: list[Note]) -> None:
    made = run("if index == 8:\n    remove(here)", geo=ops.grid(cells=(4, 4)))
    assert made.counts["faces"] == 12
    assert "Removed 4 points, 4 faces." in told(notes)
    assert run("remove(here.edges[0])", "face", ops.box()).counts["faces"] == 0
    both = run("p = add_point(position)\nremove(p)\nremove(here)", geo=ops.line(segments=3))
    assert both.counts["points"] == 0


def test_sources_lead_back_through_making_and_removing(notes: list[Note]) -> None:
    made = run("add_point(position)\nif index < 3:\n    remove(here)", geo=Geo.of(np.zeros((5, 3))))
    assert made.sources["point"].index.tolist() == [3, 4, 0, 1, 2, 3, 4]


def test_list_attributes_and_whole_values(notes: list[Note]) -> None:
    made = run("here.ids = [p.index for p in here.points if p.cover > 0.5]\nwhole.largest = 4", "face")
    assert made.find("face", "ids").type == "integer list"
    assert made.attribute("whole", "largest").tolist() == [4]
    again = run("here.n = len(ids)\nhere.ids = ids + [7]", "face", made)
    assert again.attribute("face", "n")[0] + 1 == len(again.attribute("face", "ids")[0])


def test_each_piece_runs_on_its_first_point(notes: list[Note]) -> None:
    two = ops.join(ops.box(), ops.transform(ops.box(), move=(3, 0, 0)))
    made = run("here.first = True\nwhole.pieces += 1", "piece", two)
    assert np.flatnonzero(made.attribute("point", "first")).tolist() == [0, 8]
    assert made.attribute("whole", "pieces").tolist() == [2]


def test_once_reads_and_writes_single_elements(notes: list[Note]) -> None:
    made = run(
        "geo.points[3].mark = True\nlow = 9.0\nfor p in geo.points:\n    low = min(low, "
        "p.position.y)\nhere.lowest = low",
        "once",
    )
    assert np.flatnonzero(made.attribute("point", "mark")).tolist() == [3]
    assert made.attribute("whole", "lowest")[0] == pytest.approx(sheet().positions[:, 1].min())


def test_types_widen_where_nothing_is_lost(notes: list[Note]) -> None:
    made = run(
        "total = 0\nfor p in here.neighbours:\n    total += p.position\nhere.total = total\ncount = "
        "0\nif cover > 0.5:\n    count = 0.5\nhere.count_of = count"
    )
    assert made.find("point", "total").type == "vec3"
    assert made.find("point", "count_of").type == "number"


def test_components_can_be_set(notes: list[Note]) -> None:
    made = run("v = position\nv.y = 5\nv.xz = v.zx\nhere.position.y += 1\nhere.v = v")
    x, y, z = sheet().positions[7]
    np.testing.assert_allclose(made.attribute("point", "v")[7], [z, 5, x])
    assert made.positions[7, 1] == y + 1


def test_names_in_lists_made_from_lists_are_their_own(notes: list[Note]) -> None:
    made = run("p = 3\nsquares = [p * p for p in range(4)]\nhere.p = p + sum(squares)")
    assert set(made.attribute("point", "p").tolist()) == {3 + 14}


def test_a_list_is_a_value(notes: list[Note]) -> None:
    made = run("a = [1, 2]\nb = a\nb.append(3)\nfor x in a:\n    a.append(x)\nhere.n = len(a) * 10 + len(b)")
    assert made.attribute("point", "n")[0] == 43


def test_time_and_frame_stand_still(notes: list[Note]) -> None:
    assert run("here.t = time + frame").attribute("point", "t").max() == 0


def test_printing_shows_the_elements_asked_for() -> None:
    script = Script(
        "for p in here.neighbours:\n    print(p, cover > 0.5, position.xy, [1, 2])\nprint('done', index)", sheet()
    )
    lines = script.printed(np.array([0]))
    assert lines[0].startswith("point 1 ")
    assert lines[0].endswith("[1, 2]")
    assert lines[-1] == "done 0"
    assert Script("print(index)", sheet()).printed(np.array([3, 5])) == ["point 3: 3", "point 5: 5"]


def test_places_live_in_names(notes: list[Note]) -> None:
    text = (
        "reef: geometry\nhit = reef.closest(position)\nif cover > 0.5:\n    hit = reef.closest(position "
        "* 2)\nhere.far = hit.distance\nhere.h = hit.heat"
    )
    made = run(text, inputs={"reef": reef()})
    twice = run(
        "reef: geometry\nhere.far = reef.closest(position * 2 if cover > 0.5 else position).distance",
        inputs={"reef": reef()},
    )
    np.testing.assert_allclose(made.attribute("point", "far"), twice.attribute("point", "far"))


ERRORS = [
    ("here.a = lenght(position)", 1, 10, "no function 'lenght'; near it are length"),
    ("heigth = 1\nhere.a = heigt", 2, 10, "near it are heigth"),
    ("if cover:\n    pass", 1, 4, "yes or no is wanted here, not a number; compare it, e.g. cover > 0"),
    ("if here.neighbours:\n    pass", 1, 4, "ask len() > 0"),
    ("for i in 5:\n    pass", 1, 10, "'for' runs over a list, not an integer, e.g. range(5)"),
    ("x = 1\nx = 'a'", 2, 1, "'x' is an integer and cannot become a text; use another name"),
    ("if cover > 1:\n    x = 1\nhere.a = x", 3, 10, "'x' has no value yet on some way to this line"),
    ("here.cover = position", 1, 1, "'cover' is a number on points and cannot take a vec3"),
    ("here.index = 3", 1, 1, "'index' follows from the order"),
    ("reef.points[0].a = 1", 1, 1, "no 'reef'"),
    ("break", 1, 1, "'break' stands inside of a loop"),
    ("return 1", 1, 1, "'return' stands inside of a function"),
    ("def f(x):\n    return x\nhere.a = f()", 3, 10, "write f(x)"),
    ("def f(x):\n    if x > 0:\n        return 1\nhere.a = f(cover)", 1, 1, "gives a value on one way"),
    ("def f(x):\n    here.a = x\nf(1)", 2, 5, "a function cannot write to 'here'"),
    ("k = 3\ndef f(x):\n    return x * k\nhere.a = f(1)", 3, 16, "a function does not see 'k'; hand it over"),
    ("cover * 2", 1, 1, "works something out and does nothing with it"),
    ("values = here.neighbours\nhere.a = values.cover.x", 2, 10, "needs elements or vectors"),
    ("add_curve([position])", 1, 1, "make points of places with add_point"),
    ("add_point(3)", 1, 1, "a point is made at a vec3, not an integer"),
    ("remove(cover)", 1, 1, "remove takes one point, edge, face or curve"),
    ("a, b = position", 1, 1, "2 names cannot take a vec3"),
    ("reach: nmber(0, 1) = 1", 1, 1, "'nmber' is no kind of control; did you mean number?"),
    ("reach: number(1, 0) = 1", 1, 1, "from the lower to the higher"),
    ("reach: number(0, 1) = 5", 1, 1, "the default 5 is outside of 0 to 1"),
    ("way: choice('a') = 'b'", 1, 1, "one of a"),
    ("reach: number = 1\nreach = 2", 2, 1, "'reach' is a control; the script cannot change it"),
    ("reach: number = 1\nreach: number = 2", 2, 1, "declared twice"),
    ("while True:\n    pass\nhere.a = 1", 3, 1, "this line is never reached"),
    ("if cover > 1\n    pass", 1, 13, "a ':' is missing"),
    ("if cover > 1:\npass", 2, 1, "four spaces"),
    ("here.a = [1, 'x']", 1, 10, "a list holds values of one type, not an integer and a text"),
    ("here.a = mean(here.neighbours)", 1, 10, "mean takes numbers or vectors, not a point"),
    ("here.a = here.neighbours[0.5].cover", 1, 26, "the number in [ ] is whole"),
    ("here.position = cover > 1", 1, 1, "cannot take a flag"),
    ("profile: curve = [(0, 0), (1, 1)]\nhere.a = profile", 2, 10, "ask it at a number, e.g. profile(fraction)"),
]


@pytest.mark.parametrize(("text", "line", "column", "message"), ERRORS)
def test_errors_say_what_where_and_what_to_do(text: str, line: int, column: int, message: str) -> None:
    with pytest.raises(FormulaError) as caught:
        Script(text, sheet())
    assert message in caught.value.plain
    assert (caught.value.line, caught.value.column) == (line, column)


def test_position_of_faces_is_refused_with_a_way_out() -> None:
    with pytest.raises(FormulaError, match="go through its points"):
        Script("here.position = (0, 0, 0)", sheet(), "face")


def test_an_input_that_is_not_connected_is_named() -> None:
    with pytest.raises(FormulaError, match="nothing is connected to 'reef'"):
        Script("reef: geometry\nhere.a = reef.closest(position).distance", sheet())


def test_an_unknown_control_is_told(notes: list[Note]) -> None:
    run("here.a = 1", controls={"gone": 3})
    assert "no control 'gone'" in told(notes)


def test_a_list_that_was_given_another_name_is_not_shared(notes: list[Note]) -> None:
    text = (
        "a = [1]\na.append(2)\nb = a\nb.append(3)\na.append(7)\na[0] = 9\nhere.a = a\nhere.b = b\nfor x "
        "in a:\n    a[2] = 100\n    here.seen = x"
    )
    for made in (run(text), run_interpreted(sheet(), text)):
        assert made.attribute("point", "a")[0].tolist() == [9, 2, 7]
        assert made.attribute("point", "b")[0].tolist() == [1, 2, 3]
        assert made.attribute("point", "seen")[0] == 7


def test_a_question_is_asked_again_after_what_it_depends_on_was_written(notes: list[Note]) -> None:
    text = (
        "reef: geometry\na = reef.closest(position).distance\nif cover > 0.5:\n    here.position = "
        "position * 3\nhere.change = reef.closest(position).distance - a"
    )
    for run_it in (run, lambda text, **more: run_interpreted(sheet(), text, **more)):
        made = run_it(text, inputs={"reef": reef()})
        moved = sheet().attribute("point", "cover") > 0.5
        assert (made.attribute("point", "change")[~moved] == 0).all()
        assert (np.abs(made.attribute("point", "change")[moved]) > 1e-3).sum() > 10


def test_walking_cannot_use_what_the_script_writes() -> None:
    for text in ("here.far = cover > 0.5\nhere.a = walk(far)", "k = True\nhere.a = walk(k)"):
        with pytest.raises(FormulaError, match="cannot use what the script names or writes itself"):
            Script(text, sheet())


def test_an_attribute_has_one_type_whoever_writes_it(notes: list[Note]) -> None:
    text = "here.n = 0\nfor p in here.neighbours:\n    p.n += 0.5"
    for made in (run(text), run_interpreted(sheet(), text)):
        assert made.find("point", "n").type == "number"
        assert made.attribute("point", "n").max() == 2.0


def test_a_loop_name_that_becomes_a_number(notes: list[Note]) -> None:
    text = "total = 0.0\nfor k in range(3):\n    total += k / 2\n    k = 0.25\n    total += k\nhere.total = total"
    for made in (run(text), run_interpreted(sheet(), text)):
        assert made.attribute("point", "total")[0] == 1.5 + 0.75


def test_names_in_a_made_list_do_not_hide_attributes_in_a_loop(notes: list[Note]) -> None:
    made = run(
        "total = 0.0\nfor k in range(2):\n    total += cover + sum([cover * 2 for cover in [1.0, "
        "2.0]])\nhere.total = total"
    )
    np.testing.assert_allclose(made.attribute("point", "total"), 2 * (sheet().attribute("point", "cover") + 6))


def test_the_number_of_an_item_is_worked_out_once(notes: list[Note]) -> None:
    text = "def pick(v):\n    add_point((0, 0, 0))\n    return 1\nv = [1, 2, 3]\nv[pick(v)] += 5\nhere.v = v"
    for made in (run(text, geo=Geo.of([[0, 0, 0]])), run_interpreted(Geo.of([[0, 0, 0]]), text)):
        assert made.attribute("point", "v")[0].tolist() == [1, 7, 3]
        assert made.counts["points"] == 2


def test_lists_of_elements_that_were_just_made_are_empty(notes: list[Note]) -> None:
    geo = run("here.ids = [index, index]", geo=Geo.of(np.zeros((3, 3))))
    text = "p = add_point(position)\nhere.held = len(p.ids)\nhere.own = len(here.ids)"
    for made in (run(text, geo=geo), run_interpreted(geo, text)):
        assert made.attribute("point", "held")[:3].tolist() == [0, 0, 0]
        assert made.attribute("point", "own")[:3].tolist() == [2, 2, 2]


def test_what_was_just_made_has_nothing_around_it() -> None:
    for run_it in (run, lambda text: run_interpreted(sheet(), text)):
        with pytest.raises(FormulaError, match="nothing around it yet; use a second script"):
            run_it("p = add_point(position)\nhere.n = len(p.neighbours)")


def test_pieces_can_hold_lists(notes: list[Note]) -> None:
    two = ops.join(ops.box(), ops.transform(ops.box(), move=(3, 0, 0)))
    for made in (
        run("here.ids = [index, 5]", "piece", two),
        run_interpreted(two, "here.ids = [index, 5]", each="piece"),
    ):
        assert made.find("point", "ids").row(8) == [8, 5]
        assert made.find("point", "ids").row(9) == []


def test_numbers_that_were_none_before_are_not_the_fault_of_the_script(notes: list[Note]) -> None:
    geo = sheet().with_attribute("point", "old", np.where(np.arange(49) == 3, np.nan, 1.0))
    made = run("if index > 10:\n    here.old = 2.0", geo=geo)
    assert np.isnan(made.attribute("point", "old")[3])
    with pytest.raises(FormulaError, match="at 1 of 49 points"):
        run("if index == 20:\n    here.old = sqrt(-cover - 1)", geo=geo)


def test_points_like_points_like_points_copy_the_first(notes: list[Note]) -> None:
    text = "p = add_point((0, 0, 0), geo.points[4])\nfor i in range(5):\n    p = add_point((i, 0, 0), p)"
    made = run(text, "once")
    assert (made.attribute("point", "cover")[49:] == made.attribute("point", "cover")[4]).all()
    assert made.sources["point"].index[49:].tolist() == [4] * 6


def test_places_can_be_handed_to_functions(notes: list[Note]) -> None:
    text = (
        "reef: geometry\ndef weight(hit):\n    return hit.heat / (1 + hit.distance)\nhere.w = "
        "weight(reef.closest(position))"
    )
    first = run(text, inputs={"reef": reef()})
    second = run_interpreted(sheet(), text, inputs={"reef": reef()})
    np.testing.assert_allclose(first.attribute("point", "w"), second.attribute("point", "w"), rtol=1e-12)


@pytest.mark.slow
def test_many_names_may_widen_but_not_without_end(notes: list[Note]) -> None:
    some = "\n".join(f"v{k} = 0\nv{k} = 0.5" for k in range(60))
    assert run(some + "\nhere.a = v59").attribute("point", "a")[0] == 0.5
    Script("\n".join(f"v{k} = 0\nv{k} = 0.5" for k in range(900)), sheet())
    chain = [f"v{k} = 0" for k in range(80)] + ["for i in range(100):", "    v0 = 0.5"]
    with pytest.raises(FormulaError, match="names change their type"):
        Script("\n".join([*chain, *(f"    v{k} = v{k - 1}" for k in range(79, 0, -1))]), sheet())


def test_a_name_that_widens_hides_no_error_and_makes_none(notes: list[Note]) -> None:
    late = "n = 0\nn = 0.5\nhere.a = n\nhere.b = nowhere"
    with pytest.raises(FormulaError, match="nowhere") as caught:
        run(late)
    assert "line 4" in str(caught.value)
    text = "n = 0\nn = 0.5\nm = 1\nm = n\nvalues = []\nvalues.append(1)\nvalues.append(m)\nhere.a = values[1]"
    assert run(text).attribute("point", "a")[0] == 0.5


def test_reading_places_of_made_points_in_a_long_loop_is_not_slow(notes: list[Note]) -> None:
    text = "p = add_point((0, 0, 0))\nfor i in range(3000):\n    p = add_point(p.position + (1, 0, 0))"
    assert run(text, "once", Geo.empty()).positions[-1, 0] == 3000


def test_inputs_are_seen_in_the_space_of_the_first() -> None:
    """As operators and graphs do: a mesh that stands 3 m away is 3 m away, also for one that stands turned."""
    sheet, ball = ops.grid(), ops.set_place(ops.sphere(radius=0.001), move=(0, 3, 0))
    text = "ball: geometry\nhere.far = ball.closest(position).distance"
    far = run_script(sheet, text, inputs={"ball": ball}).attribute("point", "far")
    np.testing.assert_allclose(far, np.sqrt(9 + (sheet.positions**2).sum(axis=1)), atol=2e-3)
    stood = run_script(ops.set_place(sheet, move=(0, 3, 0)), text, inputs={"ball": ball}).attribute("point", "far")
    np.testing.assert_allclose(stood, np.linalg.norm(sheet.positions, axis=1), atol=2e-3)
