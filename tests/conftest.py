"""Random tests draw the same cases every time, so that none fails by luck; the bench draws new ones.

No test is timed: the machines are shared, and the first call of a kernel compiles it.
"""

from __future__ import annotations

from hypothesis import settings

settings.register_profile("steady", deadline=None, derandomize=True, database=None)
settings.load_profile("steady")
