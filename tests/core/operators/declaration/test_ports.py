"""Inputs say in words how many geometries they take."""

from reticula.core.operators.declaration.ports import Input, Output


def test_an_input_says_how_many_it_takes() -> None:
    assert [Input().how_many, Input(many=True).how_many, Input(optional=True).how_many] == [
        "",
        " (any number)",
        " (may stay empty)",
    ]
    assert Output().name == Input().name == "geo"
