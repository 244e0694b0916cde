"""Group at random: name some elements at random."""

from reticula.core import ops


def test_chance_is_stable_when_elements_are_added() -> None:
    few, many = ops.grid(cells=(10, 10)), ops.grid(cells=(10, 12))
    a = ops.group_at_random(few, share=0.3).group("face", "some")
    b = ops.group_at_random(many, share=0.3).group("face", "some")
    assert (a == b[:100]).all()
    assert 15 < a.sum() < 45
    assert ops.group_at_random(few, by="count", count=17).group("face", "some").sum() == 17
    assert (ops.group_at_random(few, share=0.3, seed=1).group("face", "some") != a).any()
    half = ops.group_at_random(few, share="1 if position.x > 0 else 0").group("face", "some")
    assert half.sum() == 50
