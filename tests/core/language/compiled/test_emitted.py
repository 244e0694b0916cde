"""A generated kernel: its name says its source and types, and nothing of values."""

from dataclasses import replace

from tests.core.language.programs.checked import code_of


def test_equal_texts_have_one_kernel_whatever_their_layout() -> None:
    assert code_of("here.a = cover * 2").key == code_of("here.a   =  cover*2  # twice").key
    assert code_of("here.a = cover * 2").key != code_of("here.a = cover * 3").key


def test_the_key_follows_source_and_types() -> None:
    made = code_of("here.a = cover * 2")
    assert replace(made, source=made.source + "\n").key != made.key
    assert replace(made, owns={"a": ("x", "y", "integer")}).key != made.key


def test_the_signature_has_a_type_for_each_argument_of_the_kernel() -> None:
    for text in ("here.a = cover * 2", "add_point(position)", "for n in here.neighbours:\n    n.a += position"):
        made = code_of(text)
        head = made.source[made.source.index("def kernel(") :]
        names = head[head.index("(") + 1 : head.index(")")].split(",")
        assert len([name for name in names if name.strip()]) == len(made.signature)


def test_only_what_calls_itself_is_not_kept() -> None:
    assert code_of("here.a = 1").kept
    own = "def f(n):\n    if n < 1:\n        return 0\n    return f(n - 1)\nhere.a = f(3)"
    assert not code_of(own).kept
