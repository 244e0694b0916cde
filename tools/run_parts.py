"""Runs the parts of ``make test`` beside each other, as many at a time as there are cores, and sums up what they say.

``python -m tools.run_parts`` runs everything; naming parts runs only those.
"""

from __future__ import annotations

import os
import re
import subprocess
import sys
import time
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
PYTEST = (sys.executable, "-m", "pytest")

APART = ("browser", "core", "invariance", "reference")
OTHERS = tuple(
    f"tests/{path.name}"
    for path in sorted((ROOT / "tests").iterdir())
    if (path / "__init__.py").exists() and path.name not in APART
)
"""Folders of tests that no other part names: none is forgotten."""


@dataclass(frozen=True)
class Part:
    """Commands that run one after the other in ``folder``; what takes longest stands first in :data:`PARTS`."""

    name: str
    commands: tuple[tuple[str, ...], ...]
    folder: Path = field(default=ROOT)


PARTS = (
    Part("browser", ((*PYTEST, "tests/browser"),)),
    Part("language", ((*PYTEST, "tests/core/language", "tests/invariance", "tests/reference"),)),
    Part("core", ((*PYTEST, "tests/core", "--ignore=tests/core/language"),)),
    Part("service", ((*PYTEST, *OTHERS),)),
    Part(
        "lint",
        (
            (sys.executable, "-m", "ruff", "check", "."),
            (sys.executable, "-m", "ruff", "format", "--check", "."),
            (sys.executable, "-m", "mypy"),
            (str(Path(sys.executable).with_name("lint-imports")),),
            (sys.executable, "-m", "tools.generated", "--check"),
        ),
    ),
    Part(
        "page",
        (
            ("npx", "prettier", "--check", "--log-level", "warn", "src", "eslint.config.js", "vite.config.ts"),
            ("npx", "eslint", "src"),
            ("npx", "vue-tsc", "--noEmit"),
            ("npx", "vitest", "run"),
        ),
        ROOT / "web",
    ),
)


@dataclass
class Outcome:
    """What became of a part: its output, whether all of its commands succeeded, and how long it took in seconds."""

    part: Part
    output: str
    good: bool
    seconds: float

    def counted(self, word: str) -> int:
        """How many tests passed or failed, as the runners sum up in their last lines."""
        sums = re.findall(r"^.*\bpassed\b.*$|^.*\bfailed\b.*$", re.sub(r"\x1b\[[0-9;]*m", "", self.output), re.M)
        return sum(
            int(number) for line in sums if "Test Files" not in line for number in re.findall(rf"(\d+) {word}", line)
        )


def run(part: Part) -> Outcome:
    """Run the commands of a part, up to the first that fails."""
    begin = time.monotonic()
    output, good = [], True
    for command in part.commands:
        done = subprocess.run(
            command, cwd=part.folder, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True, check=False
        )
        output.append(done.stdout)
        good = good and done.returncode == 0
        if not good:
            break
    outcome = Outcome(part, "".join(output), good, time.monotonic() - begin)
    word = "passed" if good else "FAILED"
    print(f"---- {part.name}: {word} after {outcome.seconds:.0f} s\n{outcome.output}", flush=True)
    return outcome


def main(names: list[str]) -> int:
    """Run the named parts (all, if none is named); returns 1 if any of them failed."""
    unknown = set(names) - {part.name for part in PARTS}
    if unknown:
        print(f"there is no part {', '.join(sorted(unknown))}; there are {', '.join(part.name for part in PARTS)}")
        return 2
    chosen = [part for part in PARTS if not names or part.name in names]
    with ThreadPoolExecutor(max(2, (os.cpu_count() or 2) // 2)) as lanes:
        outcomes = list(lanes.map(run, chosen))
    for outcome in outcomes:
        print(f"{outcome.part.name:>10}  {'passed' if outcome.good else 'FAILED'}  {outcome.seconds:6.0f} s")
    passed, failed = (sum(outcome.counted(word) for outcome in outcomes) for word in ("passed", "failed"))
    broken = [outcome for outcome in outcomes if not outcome.good]
    print(f"{passed} passed, {max(failed, len(broken))} failed")
    return 1 if broken else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
