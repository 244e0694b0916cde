"""What running work may ask of whoever runs it."""

import dataclasses
import threading

import pytest

from reticula.core.context import EvaluationContext, current, using


def test_parts_are_changed_for_a_block_and_only_there() -> None:
    before = current()
    with using(notes=[]) as outer:
        with using(should_stop=lambda: True) as inner:
            assert inner.notes is outer.notes
            assert current() is inner
        assert current() is outer
        assert current().should_stop is before.should_stop
    assert current() is before


def test_it_goes_back_after_an_error() -> None:
    before = current()
    with pytest.raises(RuntimeError), using(notes=[]):
        raise RuntimeError
    assert current() is before


def test_it_is_frozen_and_knows_its_parts() -> None:
    with pytest.raises(dataclasses.FrozenInstanceError):
        EvaluationContext().notes = []  # type: ignore[misc]
    with pytest.raises(TypeError), using(colour=3):
        pass


def test_another_thread_begins_with_an_empty_one() -> None:
    seen = []
    with using(notes=[]):
        thread = threading.Thread(target=lambda: seen.append(current().notes))
        thread.start()
        thread.join()
    assert seen == [None]
