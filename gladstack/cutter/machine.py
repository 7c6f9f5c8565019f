"""The cutter's works: film, carriage and blade, told apart from the line that commands come in by.

It checks a whole program against its limits before the blade touches film. Then it goes on by the seconds it is given, and
writes down what it has done, stroke by stroke.
"""

from __future__ import annotations

import math
import random
from bisect import bisect_right
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from gladstack.cutter.film import FilmLog
from gladstack.cutter.motion import XY, Trail, schedule, trail
from gladstack.cutter.program import PenStroke

KINDS = ("cover", "slip", "film-out", "link", "power", "force")
_EDGE_MM = 0.5
"""How near to the film's edge the blade may come."""
_RUN_ON_MM = 4.0
"""How far the blade runs on before it is noticed that the film has slipped."""
_WEAK = 0.55


class PowerLostError(Exception):
    """The power is gone."""


class LinkLostError(Exception):
    """The line is cut."""


class RefusedError(Exception):
    """What is asked for cannot be done now; the text says why."""


@dataclass
class Profile:
    """How wide and far it cuts, how fast it is, and how far its blade trails."""

    width_mm: float = 300.0
    length_mm: float = 3000.0
    speed_mm_s: float = 120.0
    acceleration_mm_s2: float = 900.0
    lift_s: float = 0.15
    offset_mm: float = 0.25


@dataclass
class Fault:
    """One that is to come, after so many mm of cutting."""

    kind: str
    after_mm: float
    dx_mm: float = 0.0
    dy_mm: float = 0.0


@dataclass
class _Run:
    """The program being cut: which stroke, how far the axis has come along it, and what its tip does there."""

    id: str
    strokes: list[PenStroke]
    stroke: int = -1
    mm: float = 0.0
    clock: float = 0.0
    pause_s: float = 0.0
    trail: Trail | None = None
    times: tuple[list[float], list[float]] = ((), ())  # type: ignore[assignment]
    told: int = 0
    last: XY | None = None
    seconds: float = 0.0
    travel_mm: float = 0.0


class Machine:
    """One cutter. `state` is idle, cutting, paused, stopped or fault; `why` says what stopped it."""

    def __init__(self, profile: Profile, folder: Path, seed: int | None = None) -> None:
        self.profile = profile
        self.log = FilmLog(folder)
        self.state = "idle"
        self.why: dict[str, Any] | None = None
        self.here: XY = (0.0, 0.0)
        self.heading = 0.0
        self.seconds = 0.0
        self.cut_mm = 0.0
        self.travel_mm = 0.0
        self.shift: XY = (0.0, 0.0)
        self.faults: list[Fault] = []
        self._dice = random.Random(seed) if seed is not None else None
        self._weak = False
        self._run: _Run | None = None
        self._began = 0.0
        if self.log.last("program") and not self.log.last("program")["ended"]:  # type: ignore[index]
            # The power went while it was cutting: it knows from its log how far it had come.
            self._stop({"kind": "power"})

    @property
    def program(self) -> str | None:
        """The program it works on, or last worked on."""
        last = self.log.last("program")
        return str(last["program"]) if last else None

    def load(self, film: str, width_mm: float, length_mm: float, needs_g: float) -> None:
        """New film is put in: so wide and long, and cut through with at least so much force. Raises RefusedError."""
        self._not_busy()
        if not 0 < width_mm <= self.profile.width_mm + 20 or length_mm <= 0:
            raise RefusedError(f"Film {width_mm:g} mm wide does not go into this cutter.")
        self.log.load({"id": film, "width_mm": width_mm, "length_mm": length_mm, "needs_g": needs_g})
        self.shift, self.state, self.why, self._run = (0.0, 0.0), "idle", None, None
        self._weak = False

    def unload(self) -> None:
        """The film is taken out. Raises RefusedError."""
        self._not_busy()
        self.log.load({})
        self.state, self.why, self._run = "idle", None, None

    def send(self, program: str, strokes: list[PenStroke]) -> None:
        """Takes a program that was read, checks it against its limits, and begins. Raises RefusedError."""
        self._not_busy()
        film = self.log.film
        if not film:
            raise RefusedError("There is no film in the cutter.")
        if self.state == "fault":
            raise RefusedError("The cutter waits until its fault is cleared.")
        if not strokes:
            raise RefusedError("There is nothing to cut in this program.")
        xs = [x for s in strokes for x, _ in s.points]
        ys = [y for s in strokes for _, y in s.points]
        e = _EDGE_MM
        reach = min(film["length_mm"], self.profile.length_mm)
        whose = "the film is" if film["length_mm"] <= self.profile.length_mm else "the cutter takes"
        for least, most, room, told in (
            (min(xs), max(xs), reach, f"along; {whose} {reach:g} mm long"),
            (min(ys), max(ys), film["width_mm"], f"across; the film is {film['width_mm']:g} mm wide"),
        ):
            if least < e:
                raise RefusedError(f"The program begins {least:.1f} mm {told}, and {e:g} mm of its edge stay uncut.")
            if most > room - e:
                raise RefusedError(f"The program reaches {most:.1f} mm {told}, and {e:g} mm of its edge stay uncut.")
        self._run = _Run(program, strokes)
        self.state, self.why, self.heading = "cutting", None, 0.0
        self._began = self.cut_mm
        self.log.add({"program": program, "strokes": len(strokes), "ended": False})
        if self._dice is not None and self._dice.random() < 0.6:
            length = sum(math.dist(a, b) for s in strokes for a, b in zip(s.points, s.points[1:], strict=False))
            kind = self._dice.choice(KINDS)
            turn, far = self._dice.uniform(0, 2 * math.pi), self._dice.uniform(0.6, 2.5)
            at = self._dice.uniform(0.02, 0.98) * length
            self.faults = [Fault(kind, at, far * math.cos(turn), far * math.sin(turn))]

    def expect(self, fault: Fault) -> None:
        """A fault that is to come. Raises RefusedError."""
        if fault.kind not in KINDS:
            raise RefusedError(f"There is no fault “{fault.kind}”: choose from {', '.join(KINDS)}.")
        self.faults.append(fault)
        self._began = self.cut_mm

    def pause(self) -> None:
        """Holds still with the blade up."""
        if self.state == "cutting":
            self.state = "paused"

    def resume(self) -> None:
        """Goes on after a pause."""
        if self.state == "paused":
            self.state = "cutting"

    def stop(self) -> None:
        """Ends the program where it is."""
        if self.state in ("cutting", "paused"):
            self._flush()
            self._stop({"kind": "stop"})

    def clear(self) -> None:
        """What stopped it was put right: the cover is closed, the film lies as it did, the blade is good."""
        if self.state in ("fault", "stopped"):
            self.state, self.why, self.shift, self._weak = "idle", None, (0.0, 0.0), False

    def lost_link(self) -> None:
        """The line was cut: it stops rather than cut unseen."""
        if self.state in ("cutting", "paused"):
            self._flush()
            self._stop({"kind": "link"})

    def status(self) -> dict[str, Any]:
        """All that can be asked of it at any time."""
        film = self.log.film
        run = self._run
        return {
            "state": self.state, "why": self.why, "film": film or None, "program": self.program, "at": list(self.here),
            "stroke": run.stroke if run else None, "seconds": round(self.seconds, 3), "cut_mm": round(self.cut_mm, 3),
            "travel_mm": round(self.travel_mm, 3), "lines": len(self.log.lines()),
        }  # fmt: skip

    def go(self, seconds: float) -> None:
        """Works for so long of its own time, or until something stops it. Raises PowerLostError, LinkLostError."""
        left = seconds
        # What is left of the time may be too little for a clock to go on by.
        while left > 1e-9 and self.state == "cutting":
            run = self._run
            assert run is not None
            if run.pause_s > 0:
                spent = min(left, run.pause_s)
                run.pause_s -= spent
                left -= spent
                self.seconds += spent
                run.seconds += spent
                continue
            if run.trail is None and not self._next(run):
                return
            if run.pause_s > 0:
                continue
            left = self._along(run, left)
        if self.state == "cutting":
            self._flush()

    def _next(self, run: _Run) -> bool:
        """Travels to the next stroke; false where there is none."""
        run.stroke += 1
        if run.stroke >= len(run.strokes):
            self.log.add({"program": run.id, "strokes": len(run.strokes), "ended": True})
            self.state, self._run = "idle", None
            return False
        stroke = run.strokes[run.stroke]
        offset = self.profile.offset_mm if stroke.tool == 1 else 0.0
        far = math.dist(self.here, stroke.points[0])
        self.travel_mm += far
        run.travel_mm += far
        run.trail = trail(stroke.points, offset, self.heading)
        speed = min(self.profile.speed_mm_s, stroke.speed_mm_s or self.profile.speed_mm_s)
        run.times = schedule(stroke.points, speed, self.profile.acceleration_mm_s2)
        move = schedule([self.here, stroke.points[0]], self.profile.speed_mm_s, self.profile.acceleration_mm_s2)[0][-1]
        run.pause_s = move + self.profile.lift_s
        run.mm, run.clock, run.told, run.last = 0.0, 0.0, 0, None
        self.here = stroke.points[0]
        return True

    def _along(self, run: _Run, left: float) -> float:
        """Cuts along the stroke for the time left, or to a fault, or to its end; what is left then."""
        seconds, along = run.times
        until = min(run.clock + left, seconds[-1])
        mm = _at(seconds, along, until)
        due = min((f for f in self.faults), key=lambda f: f.after_mm, default=None)
        if due is not None and self.cut_mm - self._began + (mm - run.mm) >= due.after_mm:
            mm = max(run.mm, run.mm + due.after_mm - (self.cut_mm - self._began))
            until = max(run.clock, _at(along, seconds, mm))
            spent = self._moved(run, mm, until)
            self.faults.remove(due)
            self._happens(run, due)
            return left - spent
        spent = self._moved(run, mm, until)
        if until >= seconds[-1]:
            self._flush(done=True)
            assert run.trail is not None
            self.heading = run.trail.heading
            run.trail = None
        return left - spent

    def _moved(self, run: _Run, mm: float, clock: float) -> float:
        spent = clock - run.clock
        self.cut_mm += mm - run.mm
        self.seconds += spent
        run.seconds += spent
        run.mm, run.clock = mm, clock
        points, along = run.strokes[run.stroke].points, run.times[1]
        k = min(bisect_right(along, mm), len(points) - 1)
        t = (mm - along[k - 1]) / max(1e-12, along[k] - along[k - 1])
        (ax, ay), (bx, by) = points[k - 1], points[k]
        self.here = (ax + (bx - ax) * t, ay + (by - ay) * t)
        return spent

    def _happens(self, run: _Run, fault: Fault) -> None:
        self._flush()
        if fault.kind == "force":
            self._weak = True
            self.log.add({"fault": "force"})
        elif fault.kind == "power":
            self.log.add({"fault": "power"})
            raise PowerLostError
        elif fault.kind == "link":
            self._stop({"kind": "link"})
            raise LinkLostError
        elif fault.kind == "slip":
            self.shift = (fault.dx_mm, fault.dy_mm)
            before = run.mm
            mm = min(run.mm + _RUN_ON_MM, run.times[1][-1])
            self._moved(run, mm, _at(run.times[1], run.times[0], mm))
            self._flush()
            self._stop({"kind": "slip", "slip_mm": round(math.hypot(*self.shift), 2), "run_on_mm": mm - before}, fault=True)
        else:
            self._stop({"kind": fault.kind, "at_mm": round(self.here[0], 1)}, fault=True)

    def _flush(self, *, done: bool = False) -> None:
        """Writes down how far the tip has come since the last time."""
        run = self._run
        if run is None or run.trail is None:
            return
        at, tip = run.trail.at_mm, run.trail.tip
        end = len(tip) if done else bisect_right(at, run.mm)
        way = [*([run.last] if run.last and run.told else []), *tip[run.told : end]]
        if not done and 0 < end < len(tip):
            # On a long straight way it may be between two of its points.
            t = (run.mm - at[end - 1]) / max(1e-12, at[end] - at[end - 1])
            (ax, ay), (bx, by) = tip[end - 1], tip[end]
            way = [*way, (ax + (bx - ax) * t, ay + (by - ay) * t)]
        if len(way) < 2 and not done:
            return
        run.last = way[-1] if way else run.last
        dx, dy = self.shift
        stroke = run.strokes[run.stroke]
        needs = (self.log.film or {}).get("needs_g", 0.0)
        force = (stroke.force_g or needs) * (_WEAK if self._weak else 1.0)
        self.log.add(
            {
                "run": run.id, "stroke": run.stroke, "mm": round(run.times[1][-1] if done else run.mm, 4), "done": done,
                "s": round(run.seconds, 3), "travel": round(run.travel_mm, 3), "tool": stroke.tool,
                "through": stroke.tool != 1 or force >= 0.9 * needs,
                "tip": [[round(x - dx, 4), round(y - dy, 4)] for x, y in way],
            }
        )  # fmt: skip
        run.told = end

    def _stop(self, why: dict[str, Any], *, fault: bool = False) -> None:
        last = self.log.last("program")
        if last and not last["ended"]:
            self.log.add({"program": last["program"], "strokes": last["strokes"], "ended": True, "broken": why})
        self.state, self.why, self._run = ("fault" if fault else "stopped"), why, None

    def _not_busy(self) -> None:
        if self.state in ("cutting", "paused"):
            raise RefusedError("The cutter is cutting already.")


def _at(xs: list[float], ys: list[float], x: float) -> float:
    k = min(max(1, bisect_right(xs, x)), len(xs) - 1)
    if xs[k] <= xs[k - 1]:
        return ys[k]
    t = min(1.0, max(0.0, (x - xs[k - 1]) / (xs[k] - xs[k - 1])))
    return ys[k - 1] + t * (ys[k] - ys[k - 1])
