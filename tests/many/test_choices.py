"""Variants are every combination of lists, and draws that are spread as they should be."""

from __future__ import annotations

import numpy as np
import pytest
from scipy.stats import kstest, qmc

from reticula.core.errors import GraphError
from reticula.many.choices import Each, Even, Normal, OneOf, Uniform, choice_of_text, variants_of

BOTH = {"height": Uniform(0.1, 0.5), "share": Uniform(-1.0, 1.0)}


@pytest.mark.parametrize(
    ("text", "choice"),
    [
        ("0.1,0.2,0.5", Each([0.1, 0.2, 0.5])),
        ("round", Each(["round"])),
        ("true, false", Each([True, False])),
        ("0.1:0.5:9", Even(0.1, 0.5, 9)),
        ("uniform(0.1, 0.5)", Uniform(0.1, 0.5)),
        ("normal(0.3,0.05)", Normal(0.3, 0.05)),
        ("oneof(round, square)", OneOf(["round", "square"])),
    ],
)
def test_texts_say_what_a_dial_is_turned_to(text: str, choice: object) -> None:
    assert choice_of_text(text) == choice


@pytest.mark.parametrize(
    ("text", "message"),
    [
        ("", "at least one value"),
        ("oneof()", "at least one value"),
        ("uniform(1)", "takes two numbers"),
        ("uniform(2, 1)", "the lower end comes first"),
        ("normal(0, -1)", "not below 0"),
        ("1:2:x", "FROM:TO:HOW_MANY"),
        ("1:2:0", "at least one value"),
    ],
)
def test_texts_that_say_nothing_are_refused(text: str, message: str) -> None:
    with pytest.raises(GraphError, match=message):
        choice_of_text(text)


def test_lists_and_ranges_make_every_combination_in_order() -> None:
    made = variants_of({"kind": Each(["a", "b"]), "height": Even(0.0, 1.0, 3)})
    assert [(one["kind"], one["height"]) for one in made] == [(k, h) for k in "ab" for h in (0.0, 0.5, 1.0)]


def test_draws_come_anew_for_each_combination_and_the_same_for_a_seed() -> None:
    choices = {"kind": Each(["a", "b"]), **BOTH}
    made = variants_of(choices, count=5, seed=3)
    assert len(made) == 10
    assert len({one["height"] for one in made}) == 10
    assert made == variants_of(choices, count=5, seed=3)
    assert made != variants_of(choices, count=5, seed=4)
    assert list(made[0]) == ["kind", "height", "share"]


def test_whole_numbers_are_drawn_alike_and_never_twice_listed() -> None:
    drawn = [one["sides"] for one in variants_of({"sides": Uniform(3, 8)}, count=6000, whole=frozenset(["sides"]))]
    assert sorted(set(drawn)) == [3, 4, 5, 6, 7, 8]
    assert all(abs(drawn.count(side) - 1000) < 150 for side in range(3, 9))
    assert [one["sides"] for one in variants_of({"sides": Even(3, 5, 9)}, whole=frozenset(["sides"]))] == [3, 4, 5]


@pytest.mark.parametrize("spread", ["random", "latin", "sobol"])
def test_values_follow_their_distributions(spread: str) -> None:
    made = variants_of({"n": Normal(2.0, 0.5), "u": Uniform(0.0, 4.0), "o": OneOf("xyz")}, count=2048, spread=spread)
    assert kstest([one["n"] for one in made], "norm", (2.0, 0.5)).pvalue > 0.01
    assert kstest([one["u"] for one in made], "uniform", (0.0, 4.0)).pvalue > 0.01
    assert all(abs([one["o"] for one in made].count(letter) - 2048 / 3) < 90 for letter in "xyz")


def test_a_latin_hypercube_has_one_in_each_slice() -> None:
    made = np.array([list(one.values()) for one in variants_of(BOTH, count=50, spread="latin")])
    parts = (made - [0.1, -1.0]) / [0.4, 2.0]
    for column in parts.T:
        assert sorted(np.floor(column * 50).astype(int)) == list(range(50))


def test_a_sobol_set_is_as_even_as_scipys() -> None:
    """Discrepancy (L2-star, by SciPy): that of scipy.stats.qmc.Sobol, and far below that of random draws."""

    def discrepancy(spread: str) -> float:
        made = np.array([list(one.values()) for one in variants_of(BOTH, count=256, spread=spread, seed=1)])
        return float(qmc.discrepancy(qmc.scale(made, [0.1, -1.0], [0.5, 1.0], reverse=True), method="L2-star"))

    theirs = float(qmc.discrepancy(qmc.Sobol(2, rng=np.random.default_rng(1)).random(256), method="L2-star"))
    assert discrepancy("sobol") == pytest.approx(theirs, rel=1e-9)
    assert discrepancy("sobol") < 0.2 * discrepancy("random")


@pytest.mark.parametrize(
    ("choices", "more", "message"),
    [
        ({"a": Even(0, 1, 101), "b": Even(0, 1, 100)}, {}, "10,100 variants; make 1 to 10,000"),
        ({"a": Uniform(0, 1)}, {"count": 0}, "0 variants"),
        ({"a": Uniform(0, 1)}, {"spread": "halton"}, "'halton' is no spread; there are random, latin, sobol"),
    ],
)
def test_what_is_too_much_or_unknown_is_refused(
    choices: dict[str, Uniform], more: dict[str, object], message: str
) -> None:
    with pytest.raises(GraphError, match=message):
        variants_of(choices, **more)  # type: ignore[arg-type]
