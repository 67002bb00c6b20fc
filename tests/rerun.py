"""One athlete's piece again, rep by rep, as a SimPy process: written on its own, scalars only.

It shares the movement data and the constants with the program, and nothing of how it steps.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, field

import simpy

from pine_ladder.core import plan
from pine_ladder.core.movements import Library
from pine_ladder.core.pace.rep_times import Athletes, Capacity, constants


@dataclass
class Diary:
    """What the athlete did: counted reps, finished rounds, seconds at work in each window."""

    reps: int = 0
    rounds: int = 0
    part: int = 0
    work: list[float] = field(default_factory=list)
    step: int = 0
    finished_at: float = 0.0


class Athlete:
    def __init__(self, env: simpy.Environment, who: Athletes, library: Library, tier: int) -> None:
        self.env, self.who, self.library, self.tier = env, who, library, tier
        self.c = constants()
        self.tired = 0.0
        self.idle = 0.0
        self.share = 1
        self.used: dict[str, tuple[float, float]] = {}
        self.worn: dict[str, tuple[float, float]] = {}
        self.since = 0.0
        self.ease = 1.0
        self.burst = 1.0
        self.last: tuple[str, frozenset[str]] | None = None
        self.bar: float | None = None
        self.once_only = False
        self.owed = 0
        self.diary = Diary()

    def pause(self, seconds: float):
        yield self.env.timeout(seconds)
        self.tired *= math.exp(-seconds / self.c.recover_s)

    def rest_until(self, when: float):
        idle = when - self.env.now
        if idle > 0:
            yield from self.pause(idle)
            self.idle = idle

    def used_up(self, group: str) -> float:
        """How far a group of muscles is used up, after the rest it has had."""
        level, when = self.used.get(group, (0.0, 0.0))
        return level * math.exp(-(self.env.now - when) / self.c.local_s)

    def wear(self, group: str) -> float:
        """How many sets' worth a group of muscles is worn by."""
        sets, when = self.worn.get(group, (0.0, 0.0))
        return sets * math.exp(-(self.env.now - when) / self.c.wear_s)

    def figures(self, exercise: plan.Exercise) -> tuple[float, float, float]:
        """Fresh seconds a rep, demand, reps in one go."""
        movement = self.library.find(exercise.movement)
        assert movement is not None
        engine = "engine" in movement.patterns
        kind = "cyclic" if engine else "loaded" if movement.reference_kg else "bodyweight"
        pace = float(self.who.pace[Capacity(kind)][0])
        slow, ease = 1.0, 1.0
        track = int(self.who.track[0])
        if kind == "cyclic":
            pace *= (0.96, 1.05)[track]
        if movement.reference_kg and isinstance(exercise.load, plan.Weight):
            values = exercise.load.values
            top = movement.reference_kg / self.c.load_reference * float(self.who.strength[0])
            held = values[min(track, len(values) - 1)]
            if exercise.load.count > movement.implements:
                held *= (exercise.load.count / movement.implements) ** 0.85
            share = held / top
            above = math.log1p(math.exp((min(share, 0.97) - self.c.load_reference) / 0.06))
            slow = 1 + self.c.load * 0.06 * above
            slow /= 1 + self.c.load * 0.06 * math.log(2)
            if movement.measure != "reps":
                ease = (self.c.load_reference / share) ** 2
            elif movement.patterns[0] == "brace":
                ease = (self.c.load_reference / share) ** 1.2
            else:
                left = max(0.0, 30 / share - 30 + (1 if share <= 1 else 0))
                ease = left / (30 / self.c.load_reference - 29)
            ease = min(ease, 3.0)
        hold = movement.measure == "time"
        staying = ((1 - movement.demand) / movement.demand) ** 0.8
        most = movement.in_a_row or (self.c.hold_s if hold else self.c.unbroken) * staying
        own_legs = not movement.reference_kg and movement.patterns[0] in ("squat", "lunge")
        if own_legs and movement.in_a_row is None:
            most *= 2
        skill = movement.skill
        if skill is None:
            skill = 0.25 if movement.reference_kg else 0.4
        most *= float(self.who.stamina[0]) ** (skill / (2 * self.c.spread))
        first = movement.groups[0] if movement.groups else ""
        if not movement.reference_kg and first in ("push", "pull"):
            most *= (1.2, 0.75)[track]
        tempo = sum(0.5 if t == "X" else int(t) for t in exercise.tempo or "")
        fresh = max(movement.seconds * pace * slow, movement.floor_s)
        seconds = 1.0 if hold else max(fresh, tempo)
        most = max(0.25, most * ease / (1.0 if hold else seconds / fresh) ** 0.6)
        if movement.patterns[0] == "engine" or (
            movement.measure == "distance" and movement.in_a_row is None
        ):
            most = math.inf
        if not hold:
            seconds = max(seconds * self.burst, min(movement.floor_s, seconds)) * self.ease
        return seconds, movement.demand, most

    def go_to(self, exercise: plan.Exercise):
        movement = self.library.find(exercise.movement)
        assert movement is not None
        here = (movement.name, frozenset(movement.kit))
        laden = False
        if "barbell" in movement.kit and isinstance(exercise.load, plan.Weight):
            values = exercise.load.values
            kg = values[min(int(self.who.track[0]), len(values) - 1)]
            # A bar is loaded anew where its lines are done once; else another one stands ready.
            laden = self.once_only and self.bar not in (None, kg)
            self.bar = kg
        if self.last and (self.last[0] != here[0] or laden):
            same = self.last[1] == here[1]
            takes = self.c.same_change_s if same else self.c.change_s
            takes *= self.ease * min(1.4, 0.4 + 0.6 * (self.env.now - self.since) / 20)
            takes = max(takes if self.last[0] != here[0] else 0, self.c.plates_s if laden else 0)
            if takes > self.idle:
                yield from self.pause(takes - self.idle)
        self.idle = 0.0
        if self.last is None or self.last[0] != here[0]:
            self.since = self.env.now
        self.last = here

    def reps(self, exercise: plan.Exercise, count: float, deadline: float):
        """Process value: how many were done in time."""
        yield from self.go_to(exercise)
        movement = self.library.find(exercise.movement)
        assert movement is not None
        seconds, demand, most = self.figures(exercise)
        steady = movement.measure == "time"
        groups = movement.groups if most < math.inf else ()
        begun = {group: self.used_up(group) for group in groups}
        level = first = max(begun.values(), default=0.0)
        had = {group: self.wear(group) for group in groups}
        wore = max(had.values(), default=0.0)
        each = (1 + self.c.wear * wore) / (most * (1 - self.c.shrink * self.tired))
        done = 0
        while done < count:
            wait = 0.0
            stop = bool(groups) and level > 0 and level + each > 1 + 1e-9
            if stop:
                worn = 1 + self.c.wear * (wore + done / most)
                anew = worn / (most * (1 - self.c.shrink * self.tired))
                freed = min(max(self.c.again, anew), 0.88)
                wait = self.c.local_s * math.log(1 / (1 - freed)) if self.share == 1 else 1.5
            takes = seconds * (1 + (0 if steady else self.c.fatigue * demand) * self.tired)
            if self.env.now + wait + takes > deadline + 1e-9:
                break
            if stop:
                each, level = anew, max(0.0, level - freed)
            yield self.env.timeout(wait + takes)
            self.tired = 1 - (1 - self.tired) * math.exp(
                -demand * takes / self.c.tire_s / self.share
            )
            # While a partner works one rests.
            self.tired *= math.exp(-takes * (1 - 1 / self.share) / self.c.recover_s)
            level += each if groups else 0.0
            done += 1
        for place, group in enumerate(groups):
            part = 1 if place == 0 else self.c.beside
            now = min(1.0, max(0.0, begun[group] + part * (level - first)))
            self.used[group] = (now, self.env.now)
            self.worn[group] = (had[group] + part * done / most, self.env.now)
        if movement.measure == "reps":
            self.diary.reps += done
        return done

    def task(self, exercise: plan.Exercise, round_: int, given: int | None, deadline: float):
        amount = exercise.amount
        sides = 2 if exercise.side is plan.Side.EACH else 1
        count: float = math.inf
        if isinstance(amount, plan.Reps):
            count = sides * (amount.low + amount.grow * (round_ - 1))
        elif isinstance(amount, plan.Duration):
            count = sides * amount.seconds
        elif isinstance(amount, plan.Distance):
            count = sides * amount.metres[min(int(self.who.track[0]), len(amount.metres) - 1)]
        elif isinstance(amount, plan.Scheme):
            count = sides * amount.values[round_ - 1]
        elif amount is None and given:
            count = sides * given
        done = yield from self.reps(exercise, count, deadline)
        return done, done >= count

    def once(self, lines, round_: int, given: int | None, deadline: float):
        counted = 0
        for line in lines:
            for task in line.tasks:
                yield from self.rest_until(min(self.env.now + self.owed, deadline))
                self.owed = 0
                done, whole = yield from self.task(task.version(self.tier), round_, given, deadline)
                counted += done
                if not whole:
                    return counted, False
                self.owed = task.version(self.tier).rest_s or 0
        return counted, True

    def window(self, lines, length: float, round_: int):
        begin = self.env.now
        filled = any(
            isinstance(task.version(self.tier).amount, plan.Max | None)
            for line in lines
            for task in line.tasks
        )
        self.burst = 1 - 0.3 * math.exp(-length / 40) if filled else 1.0
        _, whole = yield from self.once(lines, round_, None, begin + length)
        self.burst = 1.0
        busy = length if filled or not whole else self.env.now - begin
        if lines and not lines[0].is_rest:
            self.diary.work.append(busy)
        yield from self.rest_until(begin + length)

    def piece(self, piece: plan.Piece):
        form = piece.format
        if piece.teams and piece.teams.how in ("share", "alternate"):
            self.share = piece.teams.size
        rest = piece.rest.low_s if piece.rest else 0
        if piece.role in ("warm-up", "skill") and piece.score is None:
            self.ease = 1.35
        for index, block in enumerate(piece.blocks):
            if index:
                yield from self.rest_until(self.env.now + rest)
            between = rest if len(piece.blocks) == 1 else 0
            match form:
                case plan.Amrap(length_s=length):
                    end = self.env.now + length
                    whole, round_ = True, 0
                    while whole:
                        round_ += 1
                        part, whole = yield from self.once(block.lines, round_, None, end)
                        self.diary.rounds += whole
                    self.diary.part = part
                    yield from self.rest_until(end)
                case plan.ForTime() | plan.Rounds() | plan.Sets() | plan.Accumulate():
                    scheme = getattr(form, "scheme", ())
                    rounds = getattr(form, "rounds", None) or getattr(form, "low", 0)
                    rounds = rounds or len(scheme) or 1
                    self.once_only = rounds == 1
                    for round_ in range(1, rounds + 1):
                        if round_ > 1:
                            yield from self.rest_until(self.env.now + between)
                        given = scheme[round_ - 1] if scheme else None
                        yield from self.once(block.lines, round_, given, math.inf)
                case plan.Every(interval_s=length, rounds=int(rounds)):
                    for round_ in range(1, rounds + 1):
                        if round_ > 1:
                            yield from self.rest_until(self.env.now + between)
                        for lines in (
                            [(x,) for x in block.lines] if block.numbered else [block.lines]
                        ):
                            yield from self.window(lines, length, round_)
                case plan.Emom(length_s=length):
                    end = self.env.now + length
                    stations = [(x,) for x in block.lines] if block.numbered else [block.lines]
                    turn = 0
                    while self.env.now < end - 1e-6:
                        lines = stations[turn % len(stations)]
                        yield from self.window(lines, 60, turn // len(stations) + 1)
                        turn += 1
                case plan.Intervals(work_s=work, rest_s=off, rounds=rounds):
                    for round_ in range(1, rounds + 1):
                        for line in block.lines:
                            yield from self.window((line,), work, round_)
                            yield from self.rest_until(self.env.now + off)
        self.diary.finished_at = self.env.now


def rerun(piece: plan.Piece, who: Athletes, library: Library, tier: int = 0) -> Diary:
    """The first of some athletes does a piece."""
    env = simpy.Environment()
    athlete = Athlete(env, who, library, tier)
    env.process(athlete.piece(piece))
    env.run()
    return athlete.diary
