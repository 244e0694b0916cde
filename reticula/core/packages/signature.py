"""Signatures of packages: Ed25519 (RFC 8032) over the list of contents, which holds a hash of every part.

The signature lies in the package as ``signature.json`` and travels with it, by file or through a depot.
"""

from __future__ import annotations

import base64
import hashlib
import json
import os
from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from cryptography.hazmat.primitives.asymmetric.ed25519 import Ed25519PrivateKey

from reticula.core.errors import FormatError

__all__ = ["SIGNATURE", "Signature", "fingerprint", "own_key", "signature_text", "verified"]

SIGNATURE = "signature.json"
MOST_NAME = 80
CONTEXT = b"reticula package, signed by "
"""What is signed begins with this and the publisher's name, so that neither can be changed."""


@dataclass(frozen=True)
class Signature:
    """Who signed a package: the name they give themselves, and the fingerprint of their key, which nobody else has."""

    publisher: str
    fingerprint: str


def fingerprint(key: bytes) -> str:
    """Return 16 letters that name a public key: the begin of its SHA-256."""
    return hashlib.sha256(key).hexdigest()[:16]


def own_key(path: Path) -> Ed25519PrivateKey:
    """Return the key kept in a PEM file, made at first use and readable by its owner alone. Raises FormatError."""
    from cryptography.hazmat.primitives.asymmetric.ed25519 import Ed25519PrivateKey
    from cryptography.hazmat.primitives.serialization import (
        Encoding,
        NoEncryption,
        PrivateFormat,
        load_pem_private_key,
    )

    if not path.exists():
        path.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
        pem = Ed25519PrivateKey.generate().private_bytes(Encoding.PEM, PrivateFormat.PKCS8, NoEncryption())
        part = path.with_name(f"{path.name}.{os.getpid()}")
        with os.fdopen(os.open(part, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600), "wb") as file:
            file.write(pem)
            file.flush()
            os.fsync(file.fileno())
        part.replace(path)
    try:
        found = load_pem_private_key(path.read_bytes(), None)
    except (ValueError, TypeError) as error:
        raise FormatError(f"{path.name} is no key that can be read: {error}") from None
    if not isinstance(found, Ed25519PrivateKey):
        raise FormatError(f"{path.name} is no Ed25519 key")
    return found


def signature_text(manifest: bytes, key: Ed25519PrivateKey, publisher: str) -> bytes:
    """Return the file that signs a list of contents."""
    name = publisher.strip()[:MOST_NAME]
    told = {
        "algorithm": "ed25519",
        "publisher": name,
        "key": base64.b64encode(key.public_key().public_bytes_raw()).decode(),
        "signature": base64.b64encode(key.sign(_signed(manifest, name))).decode(),
    }
    return json.dumps(told, indent=1, ensure_ascii=False).encode()


def verified(manifest: bytes, text: bytes) -> Signature:
    """Return who signed a list of contents; raise FormatError if the signature is none of it."""
    from cryptography.exceptions import InvalidSignature
    from cryptography.hazmat.primitives.asymmetric.ed25519 import Ed25519PublicKey

    try:
        told: Any = json.loads(text.decode("utf-8"))
        name, key = str(told["publisher"]), base64.b64decode(told["key"], validate=True)
        if told["algorithm"] != "ed25519" or len(name) > MOST_NAME:
            raise FormatError(f"{SIGNATURE} is of a kind that is not known here")
        public = Ed25519PublicKey.from_public_bytes(key)
        public.verify(base64.b64decode(told["signature"], validate=True), _signed(manifest, name))
    except InvalidSignature:
        raise FormatError("the package was changed after it was signed, or the signature is not its own") from None
    except (ValueError, KeyError, TypeError, RecursionError) as error:
        raise FormatError(f"{SIGNATURE} cannot be read: {error}") from None
    return Signature(name, fingerprint(key))


def _signed(manifest: bytes, publisher: str) -> bytes:
    return CONTEXT + publisher.encode("utf-8", "replace") + b"\n" + manifest
