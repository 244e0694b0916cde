"""The figures of a campaign as a table, and whether all aims were met that never may be missed."""

from __future__ import annotations

from collections.abc import Sequence
from statistics import median

from campaign.crowd import BASE, THINK, Crowd
from campaign.full_disk import FullDisk
from campaign.kills import WRITERS, Kills
from campaign.odd_input import OddInput

__all__ = ["report"]

HEAD = """# Trust

What `make campaign` found the last time that its table was kept here. It starts the product as users do, in a folder of
its own, and then kills its processes, lets many people work at once, sends it damaged and hostile input, and fills its
disk. `make campaign MINUTES=60` hunts longer; it ends with an error if something acknowledged was lost or the service
was at fault.

"""


def report(
    head: str,
    kills: Kills,
    crowds: Sequence[Crowd],
    odd: OddInput,
    full: FullDisk | None,
    memory: dict[str, int],
) -> tuple[str, bool]:
    """Return the page, and whether nothing was lost and nothing was the service's fault."""
    rows: list[tuple[str, str]] = []
    back = [one for seconds in kills.back.values() for one in seconds]
    for part, seconds in kills.back.items():
        if seconds:
            rows.append((f"kills of the {part}", f"{len(seconds)}; all well again after {_spread(seconds)}"))
    if back:
        edits = f"{kills.edits:,} acknowledged, {kills.edits_lost} lost, {kills.edits_doubled} done twice"
        rows += [
            ("kills in all", f"{len(back)}; longest outage {max(back):.1f} s"),
            (f"edits of {WRITERS} writers meanwhile", f"{edits}; longest wait of one {kills.longest_edit:.1f} s"),
            ("uploads meanwhile", f"{kills.uploads:,} acknowledged, {kills.uploads_lost} lost"),
        ]
    for crowd in crowds:
        low, high = (bound * max(crowd.people / BASE, 1.0) for bound in THINK)
        about = f"{crowd.people} people with open pages, an edit and its result each {low:g} to {high:g} s"
        rows += [
            (about, f"{len(crowd.edits):,} edits, {crowd.refused} told to wait, {len(crowd.troubles)} failed"),
            ("… an edit", _percentiles(crowd.edits)),
            ("… a result, drawn data included", _percentiles(crowd.results)),
            ("… health", _percentiles(crowd.health)),
        ]
    sent = ", ".join(f"{count:,} {what}" for what, count in sorted(odd.sent.items()))
    if odd.sent:
        total = f"{odd.sent.total():,} ({sent})"
        rows += [
            ("damaged input", f"{total}; {len(odd.faults)} faults; slowest answer {odd.slowest:.1f} s"),
            ("hostile scripts", f"{odd.scripts:,}; {odd.scripts_out} got through"),
        ]
    if full is None and odd.sent:
        rows.append(("full disk", "not tried: no disk in memory can be mounted here"))
    if full is not None:
        answers = ", ".join(f"{count} × {status}" for status, count in sorted(full.answers.items()))
        read = full.reads - full.reads_failed
        kept = f"{full.edits} kept, {full.edits_lost} lost"
        rows += [
            ("full disk", f"answers to edits: {answers}; {read} of {full.reads} reads answered"),
            ("… when there was room again", f"edits went on after {full.back:.1f} s; {kept}"),
        ]
    if memory:
        told = ", ".join(f"{part} {size / 1e6:,.0f} MB" for part, size in memory.items())
        rows.append(("memory after the crowds", told))
    lost = kills.edits_lost + kills.edits_doubled + kills.uploads_lost + (full.edits_lost if full else 0)
    faults = [*kills.troubles, *odd.faults, *(one for crowd in crowds for one in crowd.troubles)]
    lines = [f"{HEAD}{head}.\n", "| what | found |", "|---|---|", *(f"| {name} | {told} |" for name, told in rows)]
    if faults:
        lines += ["", "Faults:", "", *(f"- {one}" for one in faults[:40])]
    return "\n".join(lines) + "\n", not lost and not faults and not odd.scripts_out


def _spread(seconds: Sequence[float]) -> str:
    return f"{median(seconds):.1f} s (median), {max(seconds):.1f} s (longest)"


def _percentiles(seconds: Sequence[float]) -> str:
    if not seconds:
        return "none"
    ordered = sorted(seconds)
    half, most = (ordered[int(len(ordered) * share)] for share in (0.5, 0.95))
    return f"p50 {half:.2f} s, p95 {most:.2f} s, longest {ordered[-1]:.2f} s"
