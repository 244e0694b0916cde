"""Every operator in another process, with one thread: the same to the bit."""

import hashlib
import json
import os
import subprocess
import sys

from tests.invariance.motions import NAMES, SHAPES, run


def digests() -> dict[str, str]:
    """What every operator makes of every shape."""
    out = {}
    for kind, make in SHAPES.items():
        for name in NAMES:
            made = run(name, make())
            text = made if isinstance(made, str) else "".join(geo.digest for geo in made)
            out[f"{name}/{kind}"] = hashlib.blake2b(text.encode(), digest_size=8).hexdigest()
    return out


def test_with_one_thread_elsewhere() -> None:
    alone = {**os.environ, "NUMBA_NUM_THREADS": "1", "PYTHONHASHSEED": "7"}
    code = "import json; from tests.invariance.test_processes import digests; print(json.dumps(digests()))"
    said = subprocess.run([sys.executable, "-c", code], env=alone, capture_output=True, text=True, check=True)
    there, here = json.loads(said.stdout.splitlines()[-1]), digests()
    assert {name for name in here if here[name] != there[name]} == set()
