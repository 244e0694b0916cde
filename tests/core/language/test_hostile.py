"""Scripts are hostile until proven otherwise: every one of these is refused in words, or stays within its limits."""

from __future__ import annotations

import time

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from reticula.core import Geo, ops
from reticula.core.diagnostics import collecting
from reticula.core.errors import FormulaError, LimitError, ReticulaError
from reticula.core.language import evaluate
from reticula.core.language import script as scripts
from reticula.core.language.script import Script, run_script
from tests.core.language.programs.generating import program
from tests.helpers import examples

REFUSED = [
    # ways to Python's own objects
    "here.a = ().__class__",
    "here.a = position.__class__.__bases__",
    "here.a = (1).__class__.__mro__[1].__subclasses__()",
    "here.__class__ = 1",
    "here.__dict__['x'] = 1",
    "x = here.__init__.__globals__",
    "here.a = sin.__globals__",
    "here.a = sin.__code__",
    "here.a = [].__len__()",
    "here.a = ''.join",
    "here.a = 'x'.format(here)",
    "here.a = '{0.__class__}'.format(here)",
    "here.a = '%s' % here",
    "here.a = f'{here}'",
    "here.a = 'a' + 'b'",
    "here.a = 'a' * 1000000000",
    "_ = 1",
    "__name__ = 'x'",
    "here.a = __name__",
    "here.a = __builtins__",
    "def __init__():\n    return 1\nhere.a = __init__()",
    # the world outside
    "import os",
    "from os import system",
    "here.a = __import__('os')",
    "here.a = open('/etc/passwd')",
    "here.a = eval('1')",
    "exec('1')",
    "here.a = compile('1', 'x', 'eval')",
    "here.a = getattr(here, 'a')",
    "setattr(here, 'a', 1)",
    "here.a = globals()",
    "here.a = vars()",
    "here.a = dir()",
    "here.a = type(here)",
    "here.a = object()",
    "here.a = input()",
    "breakpoint()",
    "exit()",
    "here.a = id(here)",
    "here.a = super()",
    "here.a = memoryview(position)",
    # grammar that is not in the language
    "class A: pass",
    "lambda x: x",
    "here.a = (lambda: 1)()",
    "here.a = (x for x in [1])",
    "here.a = {1: 2}",
    "here.a = {1, 2}",
    "here.a = {x: x for x in [1]}",
    "async def f(): pass",
    "def f():\n    yield 1\nhere.a = f()",
    "def f():\n    global x\n    x = 1",
    "try:\n    pass\nexcept:\n    pass",
    "with here: pass",
    "raise here",
    "assert False",
    "del here",
    "here.a = (y := 1)",
    "here.a = *position,",
    "@sin\ndef f():\n    return 1",
    "def f(a=here):\n    return 1",
    "def f(*a):\n    return 1",
    "def f(**a):\n    return 1",
    "nonlocal x",
    "match cover:\n    case 1:\n        pass",
    "here.a = position @ position",
    "here.a = 1 if True else 'x'",
    "here.a = b'bytes'",
    "here.a = 1j",
    "here.a = None",
    "here.a = ...",
    "here.a = 'a' in 'ab'",
    "here.a = cover is cover",
    "here.a = ~1",
    "here.a = 1 << 99",
    # integer tricks and giants
    "here.a = 99999999999999999999999999",
    "here.a = 1e999",
    f"here.a = {'9' * 5000}",
    "here.a = range(10 ** 9)",
    f"here.a = {'(' * 300}1{')' * 300}",
    f"here.a = {'-' * 300}1",
    f"here.a = {'1 + ' * 6000}1",
    f"here.a = {'[' * 90}{']' * 90}",
    "if True:\n" + "".join(f"{'    ' * k}if True:\n" for k in range(1, 70)) + "    " * 70 + "pass",
    f"# {'x' * 30000}\nhere.a = 1",
    "here.a = 1\x00",
    "here.\u202ea = 1\nhere.b = \u202e",
    "def f(n):\n    return f(n)\nhere.a = f(1)",
    "def f(v):\n    return f([v])\nhere.a = f(1)",
    "x: number = open('x')",
    "x: number(0, 1) = here",
    "x: __import__('os') = 1",
    "here: number = 1",
]

RUNAWAY = [
    "while True:\n    pass",
    "k = 0\nwhile k == 0:\n    k *= 2",
    "n = 1000000000000\nfor i in range(n):\n    x = i",
    "def f(n):\n    if n < 0:\n        return 0\n    return f(n + 1) + f(n + 2)\nhere.a = f(0)",
    "v = [1.0]\nwhile True:\n    v = v + v",
    "v = [k for k in range(900000)]\nw = [x for x in v if x > 0]\nu = w + w + w\nhere.a = len(u)",
    "while True:\n    add_point((0, 0, 0))",
    "for i in range(100000000):\n    add_point((i, 0, 0))",
    "here.a = sum([k for k in range(100000000)])",
    "for i in range(10000):\n    for j in range(10000):\n        for k in range(10000):\n            x = i * j * k",
]

TAME = [
    ("here.a = 9.0 ** 9.0 ** 9.0", "finite"),
    ("x = 3\nfor i in range(200):\n    x = x * x\nhere.a = x", "more than 64 bits"),
    ("here.a = 9223372036854775807 + index", "more than 64 bits"),
    ("here.a = integer(1e300)", None),
    ("here.a = (0 - 9223372036854775807 - 1) // (0 - 1 - index * 0)", "more than 64 bits"),
    ("here.a = (0 - 9223372036854775807 - 1) % (0 - 1)", "more than 64 bits"),
    ("here.a = 1 // 0", "division by zero"),
    ("here.a = [1][7]", "no item 7"),
    ("here.a = log(0.0 * cover)", "finite"),
]


@pytest.fixture(scope="module")
def sheet() -> Geo:
    return ops.grid(cells=(3, 3)).with_attribute("point", "cover", [0.5] * 16)


def test_the_corpus_is_large() -> None:
    assert len(REFUSED) + len(RUNAWAY) + len(TAME) >= 100


@pytest.mark.parametrize("text", REFUSED, ids=lambda text: text[:40].encode("unicode_escape").decode())
def test_refused_with_a_place(sheet: Geo, text: str) -> None:
    with pytest.raises(FormulaError) as caught:
        Script(text, sheet)
    assert caught.value.line >= 1
    assert caught.value.column >= 1
    assert caught.value.plain
    assert "Traceback" not in str(caught.value)


@pytest.mark.parametrize("text", [text.removeprefix("here.a = ") for text in REFUSED if text.startswith("here.a = ")])
def test_formulas_refuse_the_same(sheet: Geo, text: str) -> None:
    with pytest.raises(FormulaError):
        evaluate(text, sheet, "point", "number")


@pytest.mark.parametrize("text", RUNAWAY)
def test_runaways_end(sheet: Geo, text: str, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(scripts, "MOST_SECONDS", 1.0)
    begin = time.monotonic()
    with pytest.raises((LimitError, FormulaError)):
        run_script(Geo.of([[0, 0, 0]]).with_attribute("point", "cover", [0.5]), text, backend="vector")
    assert time.monotonic() - begin < 20


@pytest.mark.parametrize("text", [RUNAWAY[1], RUNAWAY[3], RUNAWAY[6]])
def test_compiled_runaways_end(text: str, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(scripts, "MOST_SECONDS", 0.5)
    with pytest.raises((LimitError, FormulaError)):
        run_script(Geo.of([[0, 0, 0]]), text, backend="compiled")


@pytest.mark.parametrize(("text", "message"), TAME)
def test_numbers_stay_tame(sheet: Geo, text: str, message: str | None) -> None:
    with collecting():
        if message is None:
            run_script(sheet, text, backend="vector")
            return
        with pytest.raises(FormulaError, match=message):
            run_script(sheet, text, backend="vector")


LETTERS = st.text(
    alphabet="here.position()[]{}:=+-*/%<>!'\"\\ \n\t0123456789ifforwhile_,@#~^&|\u00e9\u202e\x00", max_size=60
)


@given(LETTERS)
@settings(max_examples=examples(400), suppress_health_check=[HealthCheck.function_scoped_fixture])
def test_any_letters_are_read_or_refused(sheet: Geo, text: str) -> None:
    for read in (lambda: Script(text, sheet), lambda: evaluate(text, sheet, "point")):
        try:
            read()
        except ReticulaError as error:
            assert str(error)


@given(st.integers(0, 3000), st.data())
@settings(max_examples=examples(250), suppress_health_check=[HealthCheck.function_scoped_fixture])
def test_damaged_programs_are_read_or_refused(sheet: Geo, seed: int, data: st.DataObject) -> None:
    """Lines swapped, cut and doubled, letters replaced: the checker never fails in another way."""
    text = program(seed)
    for _ in range(data.draw(st.integers(1, 4))):
        at = data.draw(st.integers(0, max(len(text) - 1, 0)))
        way = data.draw(st.sampled_from(["cut", "put", "line", "name"]))
        if way == "cut":
            text = text[:at] + text[at + data.draw(st.integers(1, 5)) :]
        elif way == "put":
            text = (
                text[:at]
                + data.draw(st.sampled_from(list("()[].:=\n ,+*0x") + ["here", "len(", "position"]))
                + text[at:]
            )
        elif way == "line":
            lines = text.split("\n")
            lines.insert(data.draw(st.integers(0, len(lines))), data.draw(st.sampled_from(lines)))
            text = "\n".join(lines)
        else:
            text = text.replace(
                "total", data.draw(st.sampled_from(["position", "here", "crest", "e", "noise", "cover"])), 1
            )
    try:
        Script(text, sheet.with_attribute("point", "heat", [0.0] * 16).with_attribute("point", "crest", [True] * 16))
    except ReticulaError as error:
        assert str(error)
