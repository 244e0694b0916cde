"""Element kinds."""

from __future__ import annotations

from typing import Literal, get_args

__all__ = ["KINDS", "PLURAL", "Kind"]

Kind = Literal["point", "edge", "corner", "face", "curve", "instance", "whole"]
KINDS: tuple[Kind, ...] = get_args(Kind)
PLURAL: dict[str, str] = {**{str(kind): f"{kind}s" for kind in KINDS}, "whole": "whole"}
