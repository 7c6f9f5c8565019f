"""Shapes with very many corners."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt


def jagged(count: int, noise: float, seed: int = 1) -> npt.NDArray[np.float64]:
    """The closed outline of a leafy blot, `count` nodes, each off by up to `noise` mm."""
    rng = np.random.default_rng(seed)
    t = np.linspace(0, 2 * np.pi, count, endpoint=False)
    r = 60 + 12 * np.sin(5 * t) + 6 * np.sin(13 * t) + 2.5 * np.sin(31 * t)
    points = np.stack([r * np.cos(t), r * np.sin(t)], axis=1) + rng.uniform(-noise, noise, (count, 2))
    return np.vstack([points, points[:1]])
