"""No test is timed: the machines are shared, and the first call of a kernel compiles it."""

from __future__ import annotations

from hypothesis import settings

settings.register_profile("untimed", deadline=None)
settings.load_profile("untimed")
