"""What random programs do not reach: both back ends agree on questions, making, lists of attributes, texts,
matrices.
"""

from __future__ import annotations

import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.language.script import run_script
from tests.core.language.programs.interpreted import run_interpreted
from tests.core.language.studio import reef, same, sheet

PROGRAMS = {
    "closest": (
        "point",
        (
            "h = reef.closest(position, 0.7)\n"
            "here.a = h.distance\n"
            "here.b = h.normal\n"
            "here.c = h.heat\n"
            "here.d = h.zone\n"
            "here.e = h.tone\n"
            "here.f = h.uv\n"
            "here.g = h.face\n"
            "here.h = h.found\n"
            "here.i = h.position"
        ),
    ),
    "nearest": (
        "point",
        (
            "h = reef.nearest(position)\n"
            "here.a = h.distance\n"
            "here.b = h.normal\n"
            "here.c = h.heat\n"
            "here.d = h.index\n"
            "here.e = h.position"
        ),
    ),
    "ray": (
        "point",
        (
            "h = reef.ray(position + (0, 2, 0), (0, -1, 0.1), 2.4)\n"
            "here.a = h.distance\n"
            "here.b = h.normal\n"
            "here.c = h.heat\n"
            "here.d = h.found\n"
            "here.e = h.uv"
        ),
    ),
    "near": (
        "point",
        (
            "n = reef.near(position, 0.5, 9)\n"
            "here.a = len(n)\n"
            "here.b = sum(n.heat)\n"
            "m = reef.near(position, 0.6)\n"
            "here.c = len(m)\n"
            "here.d = [p.index for p in m if p.heat > 0.3]\n"
            "here.e = m[0].position if len(m) > 0 else vec3(0)"
        ),
    ),
    "inside": ("point", "here.a = reef.inside(position * 0.8)\nhere.b = reef.winding(position)"),
    "marching": (
        "point",
        (
            "p = position + (0, 1, 0)\n"
            "steps = 0\n"
            "while steps < 20:\n"
            "    far = reef.closest(p).distance\n"
            "    if far < 0.05:\n"
            "        break\n"
            "    p.y -= far * 0.5\n"
            "    steps += 1\n"
            "here.steps = steps\n"
            "here.position = p"
        ),
    ),
    "around": (
        "face",
        (
            "here.a = mean(here.points.cover)\n"
            "here.b = max(here.points.position)\n"
            "here.c = len(here.neighbours)\n"
            "here.d = any(here.neighbours.crest)\n"
            "here.e = median(here.points.cover)\n"
            "here.f = deviation(here.points.cover)\n"
            "here.g = all(here.neighbours.crest)"
        ),
    ),
    "corner": ("corner", "here.a = here.point.cover * here.face.area\nhere.b = here.face.index == index // 4"),
    "edge": (
        "edge",
        (
            "a = here.points[0]\n"
            "b = here.points[-1]\n"
            "here.slope = (b.position.y - a.position.y) / length\n"
            "here.sides = len(here.faces)"
        ),
    ),
    "adding": (
        "face",
        (
            "for p in here.points:\n"
            "    p.heat += area\n"
            "    p.last = index\n"
            "    p.seen = True\n"
            "whole.total += area\n"
            "whole.last = index\n"
            "whole.high = max(here.points.position)"
        ),
    ),
    "making": (
        "point",
        (
            "if cover > 0.5:\n"
            "    tip = add_point(position + (0, 0.1, 0), here)\n"
            "    tip.kind = 'tip'\n"
            "    c = add_curve([here, tip])\n"
            "    c.size = cover\n"
            "    here.tip_height = tip.position.y\n"
            "if cover < 0.1:\n"
            "    remove(here)"
        ),
    ),
    "making faces": (
        "face",
        (
            "top = [add_point(p.position + (0, 0.2, 0), p) for p in here.points]\n"
            "if len(top) > 3:\n"
            "    f = add_face(top)\n"
            "    f.raised = True\n"
            "    f.raised_from = index\n"
            "remove(here)"
        ),
    ),
    "lists": (
        "point",
        (
            "values = [cover, 1, 2.5]\n"
            "values[1] = cover * 2\n"
            "values.append(7)\n"
            "more = values + [position.x]\n"
            "total = 0\n"
            "for x in more:\n"
            "    values.append(x)\n"
            "    total += x\n"
            "here.total = total\n"
            "here.last = values[-1]\n"
            "here.held = values\n"
            "here.small = [x for x in more if x < 1]\n"
            "here.places = max([p.position.zyx for p in here.neighbours])"
        ),
    ),
    "texts": (
        "point",
        (
            "name = 'rim' if border else 'middle'\n"
            "if cover > 0.7:\n"
            "    name = 'crown of the reef'\n"
            "here.zone_name = name\n"
            "here.same = name == 'rim'\n"
            "here.other = reef.nearest(position).kind\n"
            "here.words = [name, 'x']"
        ),
    ),
    "matrices": (
        "point",
        (
            "m = turn((0, 1, 0), cover) * mat3((1, 0, 0), (0, 2, 0), (0.5, 0, 1))\n"
            "here.m = m\n"
            "here.position = m * position\n"
            "here.d = determinant(m)\n"
            "here.back = inverse(m) * here.position\n"
            "here.n = transpose(m) * normal"
        ),
    ),
    "functions": (
        "point",
        (
            "def gcd(a, b):\n"
            "    if b == 0:\n"
            "        return a\n"
            "    return gcd(b, a % b)\n"
            "def wave(p, n):\n"
            "    out = [0.0]\n"
            "    for k in range(n):\n"
            "        out.append(sin(p.x * k))\n"
            "    return out\n"
            "w = wave(position, 4)\n"
            "here.g = gcd(index, 12)\n"
            "here.w = sum(w)\n"
            "here.n = len(w)"
        ),
    ),
    "profiles": (
        "point",
        (
            "profile: curve(0, 1) = [(0, 0), (0.4, 1), (1, 0.2)]\n"
            "steps: curve(0, 1) = [(0, 1, 'constant'), (0.3, 0), (0.3, 0.7, 'straight'), (0.6, 1), (1, 0), (1, 2)]\n"
            "shades: gradient = [(0, 0, 0, 0), (0.5, 1, 0.5, 0, 'smooth'), (0.7, 0, 1, 0), (1, 1, 1, 1)]\n"
            "here.a = profile(cover) + steps(cover * 1.4 - 0.2)\n"
            "here.color = shades(cover * 1.4 - 0.2)"
        ),
    ),
    "random": (
        "point",
        (
            "here.a = random(3)\n"
            "here.b = random(2, index // 5)\n"
            "here.c = noise3(position * 2, 3)\n"
            "here.d = cells(position * 3) + cell_number(position * 3)\n"
            "here.e = hsv(cover, 0.5, 1)"
        ),
    ),
    "curves of others": (
        "once",
        (
            "for f in geo.faces:\n"
            "    if f.crest:\n"
            "        add_curve([p for p in f.points], closed=True)\n"
            "whole.mean_cover = mean(geo.points.cover)\n"
            "for p in geo.points:\n"
            "    p.number = p.index * 2"
        ),
    ),
    "walking": ("point", "here.far = walk(border)\nhere.twice = here.far * 2"),
}


def prepared(name: str) -> tuple[str, str, dict[str, Geo]]:
    each, text = PROGRAMS[name]
    return each, ("reef: geometry\n" if "reef" in text else "") + text, {"reef": reef()} if "reef" in text else {}


@pytest.mark.parametrize("name", PROGRAMS)
def test_both_back_ends_agree(name: str, notes: list[Note]) -> None:
    each, text, inputs = prepared(name)
    on_arrays = run_script(sheet(), text, each=each, inputs=inputs, backend="vector")
    told = list(notes)
    notes.clear()
    same(on_arrays, run_interpreted(sheet(), text, each=each, inputs=inputs))
    assert notes == told


@pytest.mark.parametrize("name", ["closest", "making faces", "lists", "texts", "functions"])
def test_compiled_for_real(name: str, notes: list[Note]) -> None:
    each, text, inputs = prepared(name)
    compiled = run_script(sheet(), text, each=each, inputs=inputs, backend="compiled")
    same(run_script(sheet(), text, each=each, inputs=inputs, backend="vector"), compiled)


def test_empty_geometry_runs_on_both(notes: list[Note]) -> None:
    text = "here.a = position.x * 2\nfor p in here.neighbours:\n    p.b += 1.0"
    for made in (run_script(Geo.empty(), text, backend="vector"), run_interpreted(Geo.empty(), text)):
        assert made.find("point", "a").type == "number"


def test_a_log_that_is_full_is_run_again_with_more_room(notes: list[Note]) -> None:
    text = "here.k = 0\nfor i in range(300):\n    here.k += 1\n    add_point((i, index, 0))"
    small = ops.grid(cells=(2, 2))
    same(run_script(small, text, backend="vector"), run_script(small, text, backend="compiled"))
