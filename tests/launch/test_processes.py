"""Child processes: their output is kept, they end when asked, and ports are found."""

import socket
import subprocess
import sys
from pathlib import Path

import pytest

from reticula.launch.processes import free_port, port_is_free, spawn, stop
from tests.helpers import any_port


def test_output_goes_to_the_log(tmp_path: Path) -> None:
    log = tmp_path / "out.log"
    process = spawn([sys.executable, "-c", "import os; print(os.environ['WORD'])"], log=log, env={"WORD": "hello"})
    assert process.wait(30) == 0
    assert log.read_text() == "hello\n"


@pytest.mark.parametrize("deaf", [False, True])
def test_a_process_is_ended_politely_or_not(tmp_path: Path, deaf: bool) -> None:
    ignore = "signal.signal(signal.SIGTERM, signal.SIG_IGN);" if deaf else ""
    code = f"import signal, sys; {ignore} print('ready', flush=True); signal.pause(); signal.pause()"
    process = subprocess.Popen([sys.executable, "-c", code], stdout=subprocess.PIPE)
    assert process.stdout is not None
    assert process.stdout.readline() == b"ready\n"
    stop(process, 0.2)
    assert process.returncode == (-9 if deaf else -15)
    stop(process)


def test_a_port_that_is_taken_is_stepped_over() -> None:
    first = any_port()
    with socket.socket() as taken:
        taken.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        taken.bind(("127.0.0.1", first))
        taken.listen()
        assert not port_is_free(first)
        assert free_port(first) > first
        with pytest.raises(OSError, match=f"none of the ports {first} to {first} is free"):
            free_port(first, tries=1)
