"""Edits that were made against an earlier revision, put on top of what came since.

An edit holds the paths of what it changes (JSON Pointers, RFC 6901). What touches other values goes on top as it is;
what touches the same value goes over it, since it came later; what changed where others took away does not fit.
"""

from __future__ import annotations

from collections.abc import Sequence

from reticula.store.patching import Patch

__all__ = ["fits_on_top", "paths_of"]

Pointer = tuple[str, ...]
NAMED = (("nodes",), ("dials",), ("frames",), ("jumps",), ("linked",))
"""What holds things by names that were chosen for them."""


def paths_of(patch: Patch) -> list[Pointer]:
    """Return where a patch changes something, each place once; tests change nothing."""
    found: dict[Pointer, None] = {}
    for operation in patch:
        if operation.get("op") == "test":
            continue
        found[_pointer(operation["path"])] = None
        if operation.get("op") == "move":
            found[_pointer(operation["from"])] = None
    return list(found)


def fits_on_top(patch: Patch, since: Sequence[Patch]) -> bool:
    """Whether a patch, made before those that came since, still means what was meant when it is put on top of them.

    Whether it can be applied in the end is for whoever applies it.
    """
    return not any(_is_against(patch, other) for other in since)


def _is_against(patch: Patch, other: Patch) -> bool:
    theirs = [(kind, path) for kind, path in _places(other) if kind != "from"]
    return any(
        _shifts(mine, path, kind, place) or _meets(mine, path, kind, place)
        for mine, path in _places(patch)
        for kind, place in theirs
    )


def _meets(mine: str, path: Pointer, kind: str, place: Pointer) -> bool:
    """Whether what is done at ``path`` does not fit what they did at ``place``; going over a value they set does."""
    shared = min(len(path), len(place))
    if path[:shared] != place[:shared]:
        return False
    if mine == "from" or len(place) < len(path):
        # They changed all around it, or what is copied or looked for there.
        return True
    if len(path) < len(place):
        return False
    if kind == "remove":
        return mine in ("replace", "remove")
    # Both made something of this name.
    return kind == mine == "add" and path[-2:-1] in NAMED


def _places(patch: Patch) -> list[tuple[str, Pointer]]:
    """What a patch does, and where: ``move`` takes away and puts, ``copy`` reads and puts."""
    found: list[tuple[str, Pointer]] = []
    for operation in patch:
        kind, path = str(operation.get("op")), _pointer(operation["path"])
        if kind == "move":
            found += [("remove", _pointer(operation["from"])), ("add", path)]
        elif kind == "copy":
            found += [("from", _pointer(operation["from"])), ("add", path)]
        elif kind == "test":
            found.append(("from", path))
        else:
            found.append((kind, path))
    return found


def _shifts(mine: str, path: Pointer, kind: str, place: Pointer) -> bool:
    """Whether numbers in a list mean other items after one of the two: they put in or take out beside each other."""
    for at, (own, other) in enumerate(zip(path, place, strict=False)):
        if own == other:
            ends = at == len(place) - 1 and kind in ("add", "remove")
            if _is_number(own) and ends:
                return True
            continue
        if not (_is_number(own) and _is_number(other)):
            return False
        ours_ends = at == len(path) - 1 and mine in ("add", "remove")
        theirs_ends = at == len(place) - 1 and kind in ("add", "remove")
        return ours_ends or theirs_ends
    return False


def _is_number(token: str) -> bool:
    return token == "-" or token.isdigit()


def _pointer(path: object) -> Pointer:
    return tuple(str(path).split("/")[1:])
