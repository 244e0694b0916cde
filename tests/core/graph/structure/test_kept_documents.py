"""Documents of every schema version open for ever: one of each is kept here, and still gives what it gave then.

A sample is never changed. When the schema gets another version, a document of it is added beside these.
"""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from reticula.core.errors import GraphError
from reticula.core.graph import check_structure, run_graph
from reticula.core.graph.structure.document import VERSION, empty_document

SAMPLES = Path(__file__).parent / "samples"
GAVE: dict[int, dict[str, Any]] = {
    1: {
        "counts": {"points": 197, "faces": 176},
        "bounds": [[-1.5, 0.9972058450180108, -1.0], [1.5, 1.2382186045780934, 1.0]],
        "shade": 1.060105593275993,
    }
}
"""At frame 6, when the sample was added."""


@pytest.mark.parametrize("version", range(1, VERSION + 1))
def test_a_document_of_each_version_gives_what_it_gave(version: int) -> None:
    document = json.loads((SAMPLES / f"version_{version}.json").read_text())
    assert document["version"] == version
    made = run_graph(document, frame=6)
    assert {kind: made.counts[kind] for kind in ("points", "faces")} == GAVE[version]["counts"]
    np.testing.assert_allclose(made.bounds, GAVE[version]["bounds"], atol=1e-9)
    assert made.attribute("point", "shade").mean() == pytest.approx(GAVE[version]["shade"])


def test_a_document_of_a_newer_release_is_refused_in_one_sentence() -> None:
    newer = {**empty_document(), "version": VERSION + 1, "clouds": []}
    with pytest.raises(GraphError, match=r"made by a newer release .* It was not touched"):
        check_structure(newer)
