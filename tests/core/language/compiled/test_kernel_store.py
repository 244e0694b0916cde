"""Kernels of scripts: what they depend on, building them aside, and keeping them."""

from __future__ import annotations

import pytest

from reticula.core import ops
from reticula.core.language import script as scripts
from reticula.core.language.compiled import executor, kernel_store
from reticula.core.language.compiled.executor import emitted_or_none
from reticula.core.language.script import Script, run_script
from tests.core.language.studio import same, sheet


def test_a_control_is_no_part_of_the_kernel() -> None:
    text = "amount: number(0, 9) = 1\nhere.a = amount * cover"
    keys = set()
    for value in (0.5, 3):
        script = Script(text, sheet(), controls={"amount": value})
        emitted = emitted_or_none(executor.Job(script.program, script.scope, script.elements()))
        assert emitted is not None
        keys.add(emitted.key)
    assert len(keys) == 1


def test_kernels_are_built_aside_and_kept(tmp_path, monkeypatch: pytest.MonkeyPatch) -> None:  # type: ignore[no-untyped-def]
    monkeypatch.setenv("RETICULA_KERNELS", str(tmp_path))
    maker = kernel_store.Builder()
    maker.enabled = True
    monkeypatch.setattr(executor, "builder", lambda: maker)
    monkeypatch.setattr(executor, "WORTH_BUILDING", 0.0)
    text = "here.slow = sum([noise(position * k) for k in range(3)])"
    first = run_script(sheet(), text)
    assert maker.running is not None
    maker.running[1].wait(120)
    maker._look()
    assert not maker.failed
    assert [path.suffix for path in tmp_path.glob("*.built")] == [".built"]
    again = kernel_store.Builder()
    monkeypatch.setattr(executor, "builder", lambda: again)
    same(first, run_script(sheet(), text))
    assert len(again.loaded) == 1


@pytest.mark.slow
def test_a_slow_run_goes_over_to_its_kernel(tmp_path, monkeypatch: pytest.MonkeyPatch) -> None:  # type: ignore[no-untyped-def]
    monkeypatch.setenv("RETICULA_KERNELS", str(tmp_path))
    monkeypatch.setattr(executor, "PATIENCE", 0.0)
    monkeypatch.setattr(scripts, "MOST_SECONDS", 300.0)
    maker = kernel_store.Builder()
    maker.enabled = True
    monkeypatch.setattr(executor, "builder", lambda: maker)
    text = "k = 0\nwhile k < 400000000:\n    k += 7\nhere.k = k"
    made = run_script(ops.line(segments=1), text, each="point")
    assert made.attribute("point", "k").tolist() == [400_000_006] * 2
    assert len(maker.loaded) == 1


def test_a_broken_kernel_file_is_built_again(tmp_path, monkeypatch: pytest.MonkeyPatch) -> None:  # type: ignore[no-untyped-def]
    monkeypatch.setenv("RETICULA_KERNELS", str(tmp_path))
    script = Script("here.a = cover * 3", sheet())
    emitted = emitted_or_none(executor.Job(script.program, script.scope, script.elements()))
    assert emitted is not None
    maker = kernel_store.Builder()
    path = maker.path(emitted)
    path.parent.mkdir(exist_ok=True)
    path.write_text("def kernel(:\n")
    path.with_suffix(".built").touch()
    assert maker.find(emitted) is None
    assert not path.exists()
