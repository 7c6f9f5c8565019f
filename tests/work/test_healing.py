"""Lanes heal: whatever process ends, the next work is done, and what was at work is done once more."""

from __future__ import annotations

import asyncio
import os
import signal
import time
from collections.abc import Iterator
from multiprocessing import forkserver
from pathlib import Path

import pytest

from gladstack.work.crew import Crew, Limits, TooMuchError
from tests.work import jobs

LANES = {"light 1": 0.0, "short": 1.0, "long": 9.0}


@pytest.fixture
def crew() -> Iterator[Crew]:
    crew = Crew(Limits())
    asyncio.run(ready(crew))
    yield crew
    crew.close()


async def ready(crew: Crew) -> None:
    await asyncio.gather(*(asyncio.wrap_future(one) for one in crew.start()))


def replaced(crew: Crew) -> dict[str, int]:
    return {lane.lane: lane.replaced for lane in crew.health()}


@pytest.mark.parametrize("lane", LANES)
def test_a_worker_that_ended_while_idle_is_replaced(crew: Crew, lane: str, caplog: pytest.LogCaptureFixture) -> None:
    before = asyncio.run(crew.run(LANES[lane], "This", jobs.who))
    os.kill(before, signal.SIGKILL)
    after = asyncio.run(crew.run(LANES[lane], "This", jobs.who))
    assert after != before
    assert replaced(crew)[lane] == 1
    assert f"{lane} lane" in caplog.text
    assert all(one.alive for one in crew.health())


def test_work_whose_worker_is_killed_is_done_once_more(crew: Crew, tmp_path: Path) -> None:
    note = tmp_path / "pid"

    async def killed() -> int:
        task = asyncio.ensure_future(crew.run(9.0, "This", jobs.tell_and_wait, str(note), 1.0))
        while not note.exists():
            await asyncio.sleep(0.02)
        os.kill(int(note.read_text()), signal.SIGKILL)
        return await task

    assert asyncio.run(killed()) != 0
    assert replaced(crew)["long"] == 1


def test_what_ends_every_worker_is_given_up(crew: Crew) -> None:
    with pytest.raises(TooMuchError, match="broke off"):
        asyncio.run(crew.run(1.0, "This file", jobs.abort))
    assert asyncio.run(crew.run(1.0, "This", jobs.add, 1, 1)) == 2


def test_light_work_for_one_design_goes_to_one_worker_and_all_of_it_to_two(crew: Crew) -> None:
    async def ahead() -> None:
        pass

    async def who(design: str) -> int:
        return await crew.light_first("This", design, jobs.who, ahead)

    found = {design: {asyncio.run(who(design)) for _ in range(4)} for design in ("owl", "star", "dome", "moon", "badge")}
    assert all(len(pids) == 1 for pids in found.values())
    assert len(set.union(*found.values())) == 2


def test_every_lane_works_when_the_fork_server_was_killed(crew: Crew) -> None:
    os.kill(forkserver._forkserver._forkserver_pid, signal.SIGKILL)  # type: ignore[attr-defined]
    begin = time.perf_counter()
    for cost in LANES.values():
        assert asyncio.run(crew.run(cost, "This", jobs.add, 2, 3)) == 5
    assert time.perf_counter() - begin < 60


def test_what_costs_less_goes_first_but_nothing_waits_for_ever(crew: Crew) -> None:
    order: list[str] = []

    async def ask(name: str, cost: float) -> None:
        await crew.run(cost, "This", jobs.wait, 0.05)
        order.append(name)

    async def all_at_once() -> None:
        first = asyncio.ensure_future(crew.run(9.0, "This", jobs.wait, 0.5))
        await asyncio.sleep(0.2)
        costs = {"heaviest": 25.0, "heavy": 12.0, "less": 5.0}
        rest = [asyncio.ensure_future(ask(name, cost)) for name, cost in costs.items()]
        await asyncio.gather(first, *rest)

    asyncio.run(all_at_once())
    assert order == ["less", "heavy", "heaviest"]


def test_short_work_uses_the_long_lane_while_it_is_idle(crew: Crew) -> None:
    async def two() -> set[int]:
        asked = [crew.run(1.0, "This", jobs.who_after, 0.5) for _ in range(2)]
        return set(await asyncio.gather(*asked))

    assert len(asyncio.run(two())) == 2


def test_all_steps_of_a_request_share_one_deadline() -> None:
    crew = Crew(Limits(deadline_s=2.0, light_s=0.3))

    async def steps() -> float:
        await ready(crew)
        with crew.request(None):
            await crew.run(9.0, "This", jobs.wait, 1.5)
            begin = time.perf_counter()
            with pytest.raises(TooMuchError, match="not done within 2 s"):
                await crew.run(9.0, "This", jobs.wait, 5.0)
            return time.perf_counter() - begin

    try:
        assert asyncio.run(steps()) < 2.0
    finally:
        crew.close()


def test_a_request_tells_its_place_in_the_queue(crew: Crew) -> None:
    async def places() -> list[int | None]:
        async def named(name: str, seconds: float) -> None:
            with crew.request(name):
                await crew.run(9.0, "This", jobs.wait, seconds)

        tasks = []
        for name in ("first", "second", "third"):
            tasks.append(asyncio.ensure_future(named(name, 0.4)))
            await asyncio.sleep(0.05)
        told = [standing.before if (standing := crew.standing(name)) else None for name in ("first", "second", "third")]
        await asyncio.gather(*tasks)
        return [*told, *(crew.standing(name) and 0 for name in ("first", "nobody"))]

    assert asyncio.run(places()) == [0, 1, 2, None, None]
