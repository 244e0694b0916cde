"""Questions to results: what fits none of them is refused, with where and why."""

from __future__ import annotations

from typing import Any

import pytest
from pydantic import ValidationError

from reticula.contract.queries import RowsQuery
from tests.workers.asking import as_query


def test_plain_data_become_a_question_with_its_defaults() -> None:
    made = as_query({"what": "rows", "kind": "face", "offset": 3.0, "as": "page"})
    assert isinstance(made, RowsQuery)
    assert (made.offset, made.limit, made.sort, made.mark) == (3, 100, "", "page")


@pytest.mark.parametrize(
    ("query", "where"),
    [
        ({"what": "taste"}, "what"),
        ({"kind": "face"}, "what"),
        ({"what": "rows", "kind": "side"}, "rows.kind"),
        ({"what": "rows", "kind": "face", "limit": 10**9}, "rows.limit"),
        ({"what": "rows", "kind": "face", "offset": -1}, "rows.offset"),
        ({"what": "rows", "kind": "face", "sorted": "area"}, "rows.sorted"),
        ({"what": "spread", "kind": "face", "how": "jump"}, "spread.how"),
        ({"what": "anchors", "places": [[0, 0, float("nan")]]}, "anchors.places.0.2"),
        ({"what": "anchors", "places": [[0, 0]]}, "anchors.places.0"),
        ({"what": "names", "kind": "face", "elements": ["1"]}, "names.elements.0"),
        ({"what": "edges", "angle": 1e9}, "edges.angle"),
        ("mesh", ""),
    ],
)
def test_what_fits_none_is_refused_with_its_place(query: Any, where: str) -> None:
    with pytest.raises(ValidationError) as caught:
        as_query(query)
    places = [".".join(map(str, one["loc"])) for one in caught.value.errors()]
    assert where in places or where in str(caught.value)
