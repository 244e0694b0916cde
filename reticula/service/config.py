"""Settings of the service, from the environment."""

from __future__ import annotations

import os
from dataclasses import dataclass, field
from pathlib import Path

from reticula.bundle import DOCS, PAGE, VAR
from reticula.workers.tickets import Limits

__all__ = ["Config"]

MEGABYTE = 1024**2
LOOPBACK = ("127.0.0.1", "localhost", "::1")


@dataclass(frozen=True)
class Config:
    """Where things lie and how much is allowed. ``hosts`` are the host names that requests may be addressed to.

    ``sign_in``: whether people have to sign in; they have to as soon as it listens elsewhere than on this machine, or
    answers to a name that is not this machine's own. ``launch_secret`` is how the launcher comes in then. With
    ``metrics_token`` the figures are told elsewhere, too; ``depot_token`` lets packages into the depot, which are
    signed in the name of ``publisher``. ``cluster`` is the address of a scheduler that makes proof sheets and parts of
    loops, ``store`` is where meshes travel to its workers; without one workers of this machine do. With ``overflow`` it
    evaluates for the page, too, when all evaluators are at work.
    """

    database_url: str
    var: Path
    web: Path
    docs: Path = DOCS
    host: str = "127.0.0.1"
    port: int = 8765
    hosts: tuple[str, ...] = ("127.0.0.1", "localhost", "[::1]")
    upload_bytes: int = 256 * MEGABYTE
    workers: int = 2
    depot: str = ""
    limits: Limits = field(default_factory=Limits)
    sign_in: bool = False
    launch_secret: str = ""
    metrics_token: str = ""
    depot_token: str = ""
    publisher: str = ""
    cluster: str = ""
    store: str = ""
    overflow: bool = False

    @property
    def signing_key(self) -> Path:
        """The file of the key that packages are signed with when they go into the depot."""
        return self.var / "keys" / "publisher.pem"

    @classmethod
    def from_environment(cls) -> Config:
        """Read RETICULA_* variables."""
        get = os.environ.get
        host = get("RETICULA_HOST", "127.0.0.1")
        extra = tuple(name.strip() for name in get("RETICULA_HOSTS", "").split(",") if name.strip())
        elsewhere = [name for name in (host, *extra) if name.strip("[]") not in LOOPBACK]
        return cls(
            database_url=os.environ["RETICULA_DATABASE"],
            var=Path(get("RETICULA_VAR", str(VAR))),
            web=Path(get("RETICULA_WEB", str(PAGE))),
            docs=Path(get("RETICULA_DOCS", str(DOCS))),
            host=host,
            port=int(get("RETICULA_PORT", "8765")),
            hosts=("127.0.0.1", "localhost", "[::1]", *dict.fromkeys(elsewhere)),
            upload_bytes=int(float(get("RETICULA_UPLOAD_MB", "256")) * MEGABYTE),
            workers=int(get("RETICULA_WORKERS", "2")),
            depot=get("RETICULA_DEPOT", ""),
            limits=Limits(
                seconds=float(get("RETICULA_JOB_SECONDS", "120")),
                memory_bytes=int(float(get("RETICULA_JOB_MB", "8192")) * MEGABYTE),
                cache_bytes=int(float(get("RETICULA_CACHE_MB", "2048")) * MEGABYTE),
            ),
            sign_in=bool(elsewhere) or get("RETICULA_SIGN_IN", "") == "always",
            launch_secret=get("RETICULA_LAUNCH_SECRET", ""),
            metrics_token=get("RETICULA_METRICS_TOKEN", ""),
            depot_token=get("RETICULA_DEPOT_TOKEN", ""),
            publisher=get("RETICULA_PUBLISHER", "")[:80],
            cluster=get("RETICULA_CLUSTER", ""),
            store=get("RETICULA_STORE", ""),
            overflow=get("RETICULA_OVERFLOW", "") == "cluster",
        )
