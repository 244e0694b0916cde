"""Generated code: lines, blocks, names, and numbers moved into and out of arrays."""

import numpy as np
import pytest

from reticula.core.language.compiled.code_writer import CodeWriter, Items, Writer
from tests.core.language.programs.checked import named


def test_blocks_are_indented_and_never_empty() -> None:
    out = Writer(depth=0)
    with out.block("if a:"):
        pass
    with out.block("while b:"), out.block("for c in d:"):
        out.add("e = 1")
    assert out.lines == ["if a:", "    pass", "while b:", "    for c in d:", "        e = 1"]


def test_every_name_is_new() -> None:
    code = CodeWriter()
    names = [code.let("1"), code.fresh("k"), code.let("2"), code.fresh("t")]
    assert len(set(names)) == 4
    assert code.out.lines == [f"    {names[0]} = 1", f"    {names[2]} = 2"]


@pytest.mark.parametrize(
    ("item", "array"),
    [
        ("integer", "np.empty(n, np.int64)"),
        ("flag", "np.empty(n, np.bool_)"),
        ("number", "np.empty(n, np.float64)"),
        ("vec3", "np.empty((n, 3), np.float64)"),
        ("point@", "np.empty(n, np.int64)"),
    ],
)
def test_room_for_a_list_has_the_type_of_its_items(item: str, array: str) -> None:
    assert CodeWriter().new_array(named(item), "n") == array


def test_a_list_that_is_kept_holds_what_was_read() -> None:
    code = CodeWriter()
    code.out.depth = 0
    source = np.arange(12.0).reshape(4, 3)
    code.keep_list("v", Items("4", lambda k: code.loaded("source", k, 3)), named("[vec3]"))
    names: dict[str, object] = {"np": np, "source": source}
    exec("\n".join(code.out.lines), names)
    assert names["v_n"] == 4
    assert np.array_equal(names["v_b"], source)  # type: ignore[arg-type]
