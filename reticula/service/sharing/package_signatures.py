"""Whose signature a package carries, and whether that is who it was before."""

from __future__ import annotations

from typing import Any

from sqlalchemy.orm import Session

from reticula.core.graph.structure.library import published_name
from reticula.core.packages import Signature, own_key
from reticula.core.packages.signature import fingerprint
from reticula.service.config import Config
from reticula.store import library

__all__ = ["judged", "publisher_name"]


def own_fingerprint(config: Config) -> str:
    """Return the fingerprint of the key that this installation signs with."""
    return fingerprint(own_key(config.signing_key).public_key().public_bytes_raw())


def publisher_name(config: Config) -> str:
    """Return under which name this installation signs."""
    return config.publisher or f"workshop {own_fingerprint(config)[:8]}"


def judged(session: Session, config: Config, main: str, told: dict[str, str] | None) -> dict[str, Any]:
    """Return who signed a package that was looked at, and a state.

    ``own``: signed here; ``same``: by who signed the releases of this operator before; ``known``: by who signed other
    operators here; ``new``: by somebody not known here; ``unsigned``. ``changed``: by another key than before, or by
    none; ``before`` says whose it was, and is empty otherwise.
    """
    signature = Signature(**told) if told else None
    earlier = library.signers(session, published_name(main)[0])
    all_known = library.signers(session)
    before = earlier[0] if earlier else None
    if signature is not None and before is None:
        same_name = (one for one in all_known if one.publisher == signature.publisher)
        before = next((one for one in same_name if one.fingerprint != signature.fingerprint), None)
    if before is not None and (signature is None or signature.fingerprint != before.fingerprint):
        state = "changed"
    elif signature is None:
        state = "unsigned"
    elif signature.fingerprint == own_fingerprint(config):
        state = "own"
    elif earlier:
        state = "same"
    else:
        state = "known" if signature in all_known else "new"
    changed = f"{before.publisher} ({before.fingerprint})" if before is not None and state == "changed" else ""
    return {
        "state": state,
        "publisher": signature.publisher if signature else "",
        "fingerprint": signature.fingerprint if signature else "",
        "before": changed,
    }
