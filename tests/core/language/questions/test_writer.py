"""What questions ask of generated code is what the compiled back end has."""

import inspect

import pytest

from reticula.core.language.compiled.bindings import Bindings
from reticula.core.language.compiled.code_writer import Writer
from reticula.core.language.compiled.query_emitter import QueryEmitter
from reticula.core.language.questions import writer


@pytest.mark.parametrize(
    ("wanted", "has"), [(writer.Trees, Bindings), (writer.CodeLines, Writer), (writer.QuestionWriter, QueryEmitter)]
)
def test_every_method_is_there_with_the_same_parameters(wanted: type, has: type) -> None:
    for name, method in inspect.getmembers(wanted, inspect.isfunction):
        if not name.startswith("_"):
            assert list(inspect.signature(method).parameters) == list(inspect.signature(getattr(has, name)).parameters)
