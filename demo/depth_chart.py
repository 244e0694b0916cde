"""The invented depth chart of a lagoon: ``python -m demo.depth_chart`` writes ``depth_chart.png``, 16 bits a pixel."""

from __future__ import annotations

import imageio.v3 as imageio
import numpy as np

from demo.building import HERE

__all__ = ["depth_chart"]

SIDE = 160


def depth_chart() -> np.ndarray[tuple[int, int], np.dtype[np.uint16]]:
    """Return the chart, (SIDE, SIDE): white is shallow; a channel runs through a bank with two bommies."""
    across, along = np.meshgrid(np.linspace(-1, 1, SIDE), np.linspace(-1, 1, SIDE))
    channel = np.exp(-(((across - 0.35 * np.sin(2.4 * along)) / 0.24) ** 2))
    bommies = sum(
        height * np.exp(-((across - x) ** 2 + (along - z) ** 2) / size**2)
        for x, z, size, height in ((-0.6, -0.3, 0.16, 0.5), (0.62, 0.42, 0.22, 0.42), (-0.5, 0.6, 0.1, 0.3))
    )
    ripples = 0.02 * np.sin(26 * (along + 0.3 * across))
    depth = 0.5 - 0.45 * channel + bommies + ripples + 0.12 * along
    return (np.clip((depth - depth.min()) / np.ptp(depth), 0, 1) * 65535).astype(np.uint16)


if __name__ == "__main__":
    imageio.imwrite(HERE / "depth_chart.png", depth_chart())
