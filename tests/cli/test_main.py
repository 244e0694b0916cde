"""Exit codes, help and completion of the whole command line."""

from __future__ import annotations

import os
import subprocess
import sys
from pathlib import Path

import pytest

from reticula.cli import COMMANDS, main
from tests.cli.test_run_command import run


@pytest.mark.parametrize(
    ("words", "code", "said"),
    [
        (["list"], 0, ""),
        (["describe", "extrud"], 1, "reticula: "),
        (["run", "a.json", "--set", "depth"], 2, "--set takes NAME=VALUE, not 'depth'"),
        (["run", "a.json", "--frame", "1", "--frames", "1:2"], 2, "exclude each other"),
        (["paint"], 2, "No such command 'paint'"),
        (["run"], 2, "Missing argument 'GRAPH'"),
        (["convert", "a.svg", "b.ply", "--error", "-1"], 2, "--error"),
        (["info", "missing.ply"], 1, "missing.ply"),
    ],
)
def test_exit_codes(capsys: pytest.CaptureFixture[str], words: list[str], code: int, said: str) -> None:
    status, _, err = run(capsys, *words)
    assert status == code
    assert said in err


@pytest.mark.parametrize("command", COMMANDS)
def test_every_command_tells_what_it_does(capsys: pytest.CaptureFixture[str], command: str) -> None:
    status, out, _ = run(capsys, command, "--help")
    assert status == 0
    assert f"Usage: reticula {command}" in out
    assert len(out.splitlines()[2].strip()) > 10


def test_help_lists_the_commands_but_the_one_that_is_going(capsys: pytest.CaptureFixture[str]) -> None:
    _, out, _ = run(capsys, "--help")
    listed = {line.split()[0] for line in out[out.index("Commands:") :].splitlines()[1:] if line.strip()}
    assert listed == set(COMMANDS) - {"start"}
    assert "Exit codes" in out


def test_the_version_is_told(capsys: pytest.CaptureFixture[str]) -> None:
    from reticula import __version__

    assert run(capsys, "--version")[1] == f"reticula {__version__}\n"


def test_what_goes_says_what_to_use(capsys: pytest.CaptureFixture[str], monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("reticula.cli.serve_command._serve", lambda port, var: 0)
    status, _, said = run(capsys, "start")
    assert (status, "use 'reticula serve' instead; it goes in 0.4" in said) == (0, True)
    assert run(capsys, "serve")[2] == ""


def test_an_interruption_has_a_code_of_its_own(monkeypatch: pytest.MonkeyPatch) -> None:
    def interrupted(*_: object) -> None:
        raise KeyboardInterrupt

    monkeypatch.setattr("reticula.cli.operator_commands.find_operator", interrupted)
    assert main(["describe", "grid"]) == 130


def completed(*words: str) -> list[str]:
    """Return what bash is offered after these words."""
    line = " ".join(("reticula", *words))
    told = {"_RETICULA_COMPLETE": "bash_complete", "COMP_WORDS": line, "COMP_CWORD": str(len(words))}
    made = subprocess.run(
        [sys.executable, "-m", "reticula.cli"], env={**os.environ, **told}, capture_output=True, text=True, check=False
    )
    return made.stdout.splitlines()


def test_a_shell_completes_commands_options_and_operators(capsys: pytest.CaptureFixture[str]) -> None:
    assert "_RETICULA_COMPLETE=bash_complete" in run(capsys, "completion", "bash")[1]
    assert completed("wat") == ["plain,watch"]
    assert {"plain,--frame", "plain,--frames"} <= set(completed("run", "--fr"))
    assert "plain,smooth_subdivide" in completed("describe", "smooth_s")
    assert completed("describe", "tile.z") == ["file,tile.z"]


def test_help_of_serve_loads_no_geometry(tmp_path: Path) -> None:
    code = "import sys; from reticula.cli import main; main(['serve', '--help']); sys.exit('numpy' in sys.modules)"
    assert subprocess.run([sys.executable, "-c", code], capture_output=True, check=False).returncode == 0
