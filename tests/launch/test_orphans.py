"""Orphans: services and depots on the same data, and nobody else's."""

import subprocess
import sys
from pathlib import Path

from reticula.launch.orphans import end_orphans, orphans_of

STAY = "import time; print('here', flush=True); time.sleep(600)"


def started(*words: str, **variables: str) -> subprocess.Popen[bytes]:
    """A program that has begun: while the system still loads it, its command line reads as empty."""
    command = [sys.executable, "-c", STAY, *words]
    program = subprocess.Popen(command, env=variables, stdout=subprocess.PIPE)
    assert program.stdout is not None
    assert program.stdout.readline() == b"here\n"
    return program


def test_only_what_runs_on_the_same_data_is_ended(tmp_path: Path) -> None:
    mine, other = tmp_path / "mine", tmp_path / "other"
    runs = [started("reticula.service", RETICULA_VAR=str(var)) for var in (mine, other)]
    depot = started("reticula.depot", str(mine / "depot"), "1")
    try:
        assert sorted(orphans_of(mine)) == sorted([runs[0].pid, depot.pid])
        reaped = started("reticula.service", RETICULA_VAR=str(mine))
        for one in (runs[0], depot, reaped):
            one.terminate()
            one.wait()
        assert orphans_of(mine) == []
        assert runs[1].poll() is None
        end_orphans(mine)
        assert orphans_of(other) == [runs[1].pid]
        end_orphans(other, keep=[runs[1].pid])
        assert runs[1].poll() is None
    finally:
        for one in (*runs, depot):
            one.kill()
            one.wait()
