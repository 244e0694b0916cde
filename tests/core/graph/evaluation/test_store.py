"""Plans are made once per content, and no more of them are kept than there is room for."""

from copy import deepcopy

from reticula.core.context import using
from reticula.core.graph import Cache, Evaluator
from reticula.core.graph.evaluation.store import MOST_PLANS, EvaluationStore
from tests.core.graph.building import graph, node
from tests.core.packages.studio import lift_document, published, release

DOCUMENT = graph({"a": node("box")})


def test_an_equal_document_has_the_same_plan() -> None:
    store = EvaluationStore()
    assert store.plan(DOCUMENT) is store.plan(deepcopy(DOCUMENT))
    assert store.plan(graph({"a": node("grid")})) is not store.plan(DOCUMENT)


def test_a_plan_follows_the_operators_that_the_library_has() -> None:
    store = EvaluationStore()
    uses = graph({"a": node("box"), "l": node("lift@1.0.0", "a")})
    library, _ = published()
    with using(library=library):
        before = store.plan(uses)
        assert store.plan(uses) is before
        document = lift_document()
        document["nodes"]["b"]["graph"]["dials"]["height"]["high"] = 5.0
        library.definitions.clear()
        release(document, library)
        assert store.plan(uses) is not before


def test_old_plans_make_room() -> None:
    store = EvaluationStore()
    first = store.plan(DOCUMENT)
    for number in range(MOST_PLANS):
        store.plan(graph({"a": node("box", cells=[number + 1, 1, 1])}))
    assert store.plan(DOCUMENT) is not first


def test_an_empty_cache_that_is_given_is_the_one_that_is_used() -> None:
    given = Cache(budget=1)
    assert Evaluator(given).cache is given
