"""Names in messages have the right article."""

from __future__ import annotations

import pytest

from reticula.core.words import with_article


@pytest.mark.parametrize(
    ("name", "said"),
    [
        ("integer", "an integer"),
        ("edge", "an edge"),
        ("number list", "a number list"),
        ("unit vector", "a unit vector"),
    ],
)
def test_the_article_is_the_one_that_is_spoken(name: str, said: str) -> None:
    assert with_article(name) == said
