"""Who makes elements goes into the names of what comes from nothing."""

from reticula.core import Geo
from reticula.core.geometry.mesh.maker import made_by, maker


def test_a_maker_names_what_is_made_inside_its_block_however_late_it_is_asked() -> None:
    outside = Geo.of([[0, 0, 0], [1, 0, 0]])
    with made_by("grid", 1):
        inside = Geo.of([[0, 0, 0], [1, 0, 0]])
        with made_by("scatter"):
            nested = Geo.of([[0, 0, 0]])
        assert 0 < maker() < 2**62
    assert maker() == 0
    names = [geo.identity("point") for geo in (outside, inside, nested)]
    assert len({int(name) for own in names for name in own}) == 5
    assert (inside.with_positions([[5, 5, 5], [6, 6, 6]]).identity("point") == names[1]).all()


def test_seeds_and_names_tell_makers_apart() -> None:
    found = set()
    for name, seed in (("grid", 0), ("grid", 1), ("box", 0)):
        with made_by(name, seed):
            found.add(maker())
    assert len(found) == 3
