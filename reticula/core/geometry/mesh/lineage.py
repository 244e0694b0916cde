"""Names of elements that are worked out when somebody first asks for them: most steps of most graphs never do."""

from __future__ import annotations

from reticula.core.arrays import Indices, UInts
from reticula.core.geometry.mesh.identity import child_names, fresh_names

__all__ = ["Lineage", "Names", "names_of"]

DEEPEST = 4
"""So many steps may be put off; more would keep alive what each of them hangs on."""


class Lineage:
    """Where the names of elements come from: of ``parents`` by ``index (N,)``, -1 from nothing; or ``count`` new ones.

    ``salt`` is whose names they are, as in :func:`child_names` and :func:`fresh_names`.
    """

    __slots__ = ("_count", "_known", "_salt", "_source", "depth")

    def __init__(
        self, salt: int, *, parents: Names | None = None, index: Indices | None = None, count: int = 0
    ) -> None:
        if isinstance(parents, Lineage) and parents.depth >= DEEPEST:
            parents = parents.names
        self.depth: int = parents.depth + 1 if isinstance(parents, Lineage) else 1
        self._salt, self._count = salt, count
        self._source = None if parents is None or index is None else (parents, index)
        self._known: UInts | None = None

    @property
    def names(self) -> UInts:
        """The names ``(N,)``, worked out once."""
        source = self._source  # read first: it goes last, once the names are there
        known = self._known
        if known is None:
            known = (
                fresh_names(self._count, self._salt)
                if source is None
                else child_names(names_of(source[0]), source[1], self._salt)
            )
            self._known, self.depth, self._source = known, 0, None
        return known


Names = UInts | Lineage
"""Names, or where they come from."""


def names_of(names: Names) -> UInts:
    """Return names ``(N,)``, known or not."""
    return names.names if isinstance(names, Lineage) else names
