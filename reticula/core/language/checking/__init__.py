"""The checker: from a syntax tree to a typed program, or an error with its place and a way out."""

from reticula.core.language.checking.lists import GATHER
from reticula.core.language.checking.names import convert, may_change
from reticula.core.language.checking.program import check_program
from reticula.core.language.checking.writing import MAKERS

__all__ = ["GATHER", "MAKERS", "check_program", "convert", "may_change"]
