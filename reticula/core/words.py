"""Words that messages are made of."""

from __future__ import annotations

__all__ = ["with_article"]


def with_article(name: str) -> str:
    """Return a name of a type or kind with its article: ``an integer list``, ``a face``."""
    return f"{'an' if name[0] in 'aeio' else 'a'} {name}"
