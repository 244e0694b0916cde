"""Questions that a formula can put to a geometry by its name, one idea per file.

Every module of this package that declares one is found by itself; none needs to be listed.
"""

import importlib
import pkgutil

from reticula.core.language.questions.question import QUESTIONS, Question

__all__ = ["QUESTIONS", "Question"]

for _module in pkgutil.iter_modules(__path__, f"{__name__}."):
    importlib.import_module(_module.name)
