"""What a buffer holds."""

from typing import Any

import numpy as np

from reticula.workers.buffers import BufferFiles

__all__ = ["values_of"]


def values_of(buffers: BufferFiles, ref: dict[str, Any]) -> np.ndarray:
    """The array that was kept under a reference."""
    return np.frombuffer(buffers.path(ref["digest"]).read_bytes(), "<" + ref["dtype"]).reshape(ref["shape"])
