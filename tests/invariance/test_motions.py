"""Every operator on the same shape elsewhere, larger, smaller, turned, with its elements in another order, and twice at
once: what it makes is the same shape there.
"""

from concurrent.futures import ThreadPoolExecutor

import pytest

from tests.invariance.motions import (
    BY_AXES,
    BY_NUMBER,
    BY_PLACE,
    NAMES,
    SHAPES,
    Motion,
    differs,
    run,
    same_at,
    shuffled,
)

MOTIONS = {
    "small": Motion(1e-3, (0, 0, 0), 0.0, 1e-8),
    "large": Motion(1e3, (0, 0, 0), 0.0, 1e-8),
    "far": Motion(1.0, (1e4, -2e4, 5e3), 0.0, 1e-8),
    "very far": Motion(1.0, (1e6, -2e6, 5e5), 0.0, 1e-6),
}


@pytest.mark.parametrize("name", [name for name in NAMES if name not in BY_PLACE])
@pytest.mark.parametrize("kind", SHAPES)
def test_elsewhere_and_at_another_size(kind: str, name: str) -> None:
    told = {label: same_at(kind, name, motion) for label, motion in MOTIONS.items()}
    assert not {label: text for label, text in told.items() if text}


TURNED = Motion(1.0, (0, 0, 0), 0.7, 1e-7)


@pytest.mark.parametrize("name", [name for name in NAMES if name not in BY_AXES | BY_PLACE])
@pytest.mark.parametrize("kind", SHAPES)
def test_turned(kind: str, name: str) -> None:
    assert not same_at(kind, name, TURNED)


STILL = Motion(1.0, (0, 0, 0), 0.0, 1e-6)


@pytest.mark.parametrize("name", [name for name in NAMES if name not in BY_NUMBER])
@pytest.mark.parametrize("kind", SHAPES)
def test_in_another_order(kind: str, name: str) -> None:
    before, after = run(name, SHAPES[kind]()), run(name, shuffled(SHAPES[kind]()))
    assert not differs(before, after, STILL, in_order=False)


def test_two_at_once() -> None:
    """Kernels and what topologies remember are shared by threads."""
    shapes = {kind: make() for kind, make in SHAPES.items()}
    jobs = [(name, kind) for name in NAMES for kind in shapes]
    with ThreadPoolExecutor(2) as pool:
        both = list(pool.map(lambda job: run(job[0], shapes[job[1]]), jobs + jobs))
    for job, one, other in zip(jobs, both, both[len(jobs) :], strict=False):
        alone = run(job[0], SHAPES[job[1]]())
        assert not differs(alone, one, Motion(1.0, (0, 0, 0), 0.0, 0.0)), job
        assert not differs(alone, other, Motion(1.0, (0, 0, 0), 0.0, 0.0)), job
