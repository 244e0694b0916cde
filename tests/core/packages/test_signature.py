"""Signatures of packages, beside the key exchange of OpenSSL and RFC 8032's first test vector."""

from __future__ import annotations

import base64
import io
import json
import zipfile
from pathlib import Path

import pytest
from cryptography.hazmat.primitives.asymmetric.ed25519 import Ed25519PrivateKey

from reticula.core.errors import FormatError
from reticula.core.packages import Signature, own_key, read_package, sign_package
from reticula.core.packages.signature import SIGNATURE, fingerprint, signature_text, verified

PACKAGE = (Path(__file__).resolve().parents[3] / "demo/packages/settlement_tile-1.0.0.zip").read_bytes()


def rezipped(data: bytes, **changed: bytes) -> bytes:
    """Return a package with some of its files changed or added."""
    made = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(data)) as old, zipfile.ZipFile(made, "w") as new:
        parts = {name: old.read(name) for name in old.namelist()}
        for name, content in {**parts, **{key.replace("__", "."): one for key, one in changed.items()}}.items():
            new.writestr(name, content)
    return made.getvalue()


def test_the_algorithm_is_that_of_the_standard() -> None:
    """RFC 8032, section 7.1, test 1: secret and public key, and the signature of an empty message."""
    secret = bytes.fromhex("9d61b19deffd5a60ba844af492ec2cc44449c5697b326919703bac031cae7f60")
    key = Ed25519PrivateKey.from_private_bytes(secret)
    public = "d75a980182b10ab7d54bfed3c964073a0ee172f3daa62325af021a68f707511a"
    assert key.public_key().public_bytes_raw().hex() == public
    signature = (
        "e5564300c360ac729086e2cc806e828a84877f1eb8e5d974d873e065224901555fb8821590a33bacc61e39701cf9b46b"
        "d25bf5f0595bbe24655141438e7a100b"
    )
    assert key.sign(b"").hex() == signature


def test_who_signed_is_told_and_nothing_else_changes(tmp_path: Path) -> None:
    key = own_key(tmp_path / "keys" / "reef.pem")
    signed = sign_package(PACKAGE, key, "Reef studio")
    assert read_package(PACKAGE).signature is None
    found = read_package(signed)
    assert found.signature == Signature("Reef studio", fingerprint(key.public_key().public_bytes_raw()))
    assert found.definitions == read_package(PACKAGE).definitions
    assert sign_package(signed, key, "Reef studio") == signed, "signed again it is the same file"


def test_a_key_is_kept_and_belongs_to_its_owner(tmp_path: Path) -> None:
    path = tmp_path / "own.pem"
    first = own_key(path)
    assert own_key(path).private_bytes_raw() == first.private_bytes_raw()
    assert path.stat().st_mode & 0o777 == 0o600
    path.write_text("no key")
    with pytest.raises(FormatError, match=r"own\.pem is no key that can be read"):
        own_key(path)


def test_changes_after_signing_are_found(tmp_path: Path) -> None:
    key = own_key(tmp_path / "reef.pem")
    signed = sign_package(PACKAGE, key, "Reef studio")
    with zipfile.ZipFile(io.BytesIO(signed)) as archive:
        manifest, told = archive.read("package.json"), json.loads(archive.read(SIGNATURE))
    other = manifest.replace(b'"version": 1', b'"version":  1')
    assert other != manifest
    with pytest.raises(FormatError, match="was changed after it was signed"):
        read_package(rezipped(signed, package__json=other))
    with pytest.raises(FormatError, match="was changed after it was signed"):
        read_package(rezipped(signed, signature__json=json.dumps({**told, "publisher": "Cave studio"}).encode()))
    mine = json.loads(signature_text(manifest, own_key(tmp_path / "mine.pem"), "Reef studio"))
    mixed = json.dumps({**told, "key": mine["key"]}).encode()
    with pytest.raises(FormatError, match="was changed after it was signed"):
        read_package(rezipped(signed, signature__json=mixed))


@pytest.mark.parametrize(
    "text",
    [b"", b"[]", b"{}", b"\xff", b'{"algorithm": "rsa", "publisher": "", "key": "", "signature": ""}',
     b'{"algorithm": "ed25519", "publisher": "a", "key": "AA==", "signature": "AA=="}',
     json.dumps({"algorithm": "ed25519", "publisher": "a" * 99, "key": base64.b64encode(bytes(32)).decode(),
                 "signature": ""}).encode()],
)  # fmt: skip
def test_nonsense_is_said(text: bytes) -> None:
    with pytest.raises(FormatError, match=SIGNATURE):
        verified(b"{}", text)


def test_what_is_no_package_is_not_signed(tmp_path: Path) -> None:
    key = own_key(tmp_path / "k.pem")
    with pytest.raises(FormatError, match="not a whole package"):
        sign_package(b"PK", key, "")
    with pytest.raises(FormatError, match="not a package"):
        sign_package(rezipped(b"PK\5\6" + bytes(18), a__txt=b"x"), key, "")


def test_what_unpacks_to_far_more_than_its_size_is_refused() -> None:
    made = io.BytesIO()
    with zipfile.ZipFile(made, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("package.json", b" " * 30_000_000)
    with pytest.raises(FormatError, match="200 times its size"):
        read_package(made.getvalue())
