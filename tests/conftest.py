"""Random tests draw the same cases every time, so that none fails by luck; the bench draws new ones.

No test is timed: the machines are shared, and the first call of a kernel compiles it.
"""

from __future__ import annotations

import asyncio
from collections.abc import Iterator

import pytest
from hypothesis import settings

from gladstack.work.crew import Crew, Limits
from tests.examples import examples

settings.register_profile("steady", max_examples=examples(60), deadline=None, derandomize=True, database=None)
settings.load_profile("steady")


@pytest.fixture(scope="session")
def crew() -> Iterator[Crew]:
    """Workers for all apps of the run: they are warm, and hold nothing of any one app but by its folder."""
    # Time is no measure here, so no work is given up for it.
    crew = Crew(Limits(deadline_s=300.0))
    # Their loops may have to be compiled first, which is not what any test measures.
    asyncio.run(crew.run(0.0, "This", print))
    yield crew
    crew.close()
