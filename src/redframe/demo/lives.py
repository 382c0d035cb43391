"""Living through the scenario: each apiary's colonies day by day, recorded through the application's use cases.

What a keeper does follows the habit of the apiary: counts and treats in time, treats late, never counts, treats in the
cold (and fails), leaves some colonies out (untreated controls), or sits next to a collapsing neighbour.
"""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass, field, replace
from datetime import UTC, date, datetime, time, timedelta
from uuid import UUID

import numpy as np

from redframe.core.colonies.hive_state import WantedBox
from redframe.core.colonies.queens import mark_colour
from redframe.core.sampling.jar import JarSample
from redframe.core.season.calendar import Calendar
from redframe.core.treatments.catalogue import default_catalogue
from redframe.core.treatments.course import plan_course
from redframe.core.treatments.overrides import Override
from redframe.core.treatments.step_facts import NOTHING
from redframe.core.visits.assessment import framed_boxes
from redframe.core.visits.record import After, Before
from redframe.demo import combs, sick_brood
from redframe.demo.earlier import record_earlier_treatments
from redframe.demo.hive_work import work_at_hives
from redframe.demo.honey import is_harvest, take_honey
from redframe.demo.other_methods import other_counts
from redframe.demo.population import Life
from redframe.demo.scenario import (
    DEMO_TODAY,
    FED,
    FIRST_DAY,
    LAYING_STOPPED,
    LOST,
    MERGED,
    OLD_STRIPS,
    PAST_COURSES,
    RUN_AHEAD,
    STAGES,
    ApiaryPlan,
    AssociationPlan,
    PastCourse,
    Stage,
    made_id,
)
from redframe.demo.stock import lot_for, lot_id
from redframe.store.brood import NewBroodEvent
from redframe.store.database import Connection, Identity
from redframe.work.colonies import brood as colonies_brood
from redframe.work.colonies import hives as colonies_hives
from redframe.work.colonies import read as colonies_read
from redframe.work.colonies import record as colonies_record
from redframe.work.colonies.queens import QueenRecord
from redframe.work.sampling import record as sampling_record
from redframe.work.treatments import plan as treatments_plan
from redframe.work.treatments import read as treatments_read
from redframe.work.treatments import record as treatments_record
from redframe.work.unit_of_work import UnitOfWork, WeatherService
from redframe.work.visits import record as visits_record

FRAME_BY_FRAME_FROM = date(2031, 6, 12)
"""Since when the mentors of Corrane record frame by frame."""
DISPOSED = "Spent strips to the household waste, as the label says."
HALF_YEAR = timedelta(days=183)
KILL = {"FA_STRIP2": (0.88, 0.03), "FA_STRIP11": (0.86, 0.04), "OX_TRICKLE": (0.94, 0.02)}
FAILED_KILL = (0.22, 0.06)
FIRST_MITES: dict[str, float] = {"treats_late": 6.5, "never_counts": 6.0, "teaching": 2.4,
                                 "cold_formic": 11.0}  # fmt: skip
USUAL_FIRST_MITES = 5.0
ARRIVALS: dict[str, float] = {"neighbour_collapsed": 0.9, "teaching": 0.02}
USUAL_ARRIVALS = 0.2
"""Mites of a colony on the first day (scale of a gamma of shape 3) and those that come from outside a day, by habit."""
SPRING_ON = date(2031, 3, 1)
SPRING_MITES: dict[str, float] = {"treats_late": 6.0, "teaching": 2.0}
USUAL_SPRING_MITES = 3.0
"""Mites of a colony (median of a lognormal) on the first day of the second spring, by habit: what the winter left."""
USUAL_SPREAD, STORY_SPREAD = 0.55, 0.2
"""Spread of the mites after the winter, and of the loads of colonies with a story (sd of the natural log)."""
COLLAPSED_ON = date(2030, 10, 12)
"""The day on which the colonies that are lost in the winter rob out a collapsing one and carry its mites home."""
LOST_LOAD = 32.0
"""Their load on that day, in mites per 100 bees."""


@dataclass
class Member:
    """One colony of the demo with its life and what is known of it."""

    id: UUID
    label: str
    life: Life
    left_out: bool
    last_median: float | None = None
    dead_on: date | None = None
    counted: dict[date, UUID] = field(default_factory=dict)


@dataclass(frozen=True)
class Step:
    """A step of a course that is done on a day, and recorded on the next."""

    course_id: UUID
    name: str
    day: date
    count_id: UUID | None


@dataclass
class Keeping:
    """One apiary being lived through."""

    connection: Connection
    who: Identity
    weather: WeatherService
    association: AssociationPlan
    plan: ApiaryPlan
    apiary_id: UUID
    generator: np.random.Generator
    members: list[Member] = field(default_factory=list)
    now: date = FIRST_DAY
    to_record: dict[date, list[Step]] = field(default_factory=lambda: defaultdict(list))

    @property
    def southern(self) -> bool:
        """Whether the seasons are turned."""
        return self.plan.latitude < 0

    def unit_of_work(self, day: date, hour: int = 13) -> UnitOfWork:
        """The use cases at an hour of a day of the past."""
        now = datetime.combine(day, time(hour), tzinfo=UTC)
        return UnitOfWork.at(self.connection, self.who, now, self.weather)

    def turned(self, day: date) -> date:
        """A northern date moved to the same season here."""
        return day - HALF_YEAR if self.southern else day

    @property
    def stage(self) -> Stage | None:
        """The course of the last weeks at this apiary, if it has one."""
        own = self.association.key == "corrane"
        return next((stage for stage in STAGES if own and stage.apiary == self.plan.name), None)

    async def begin(self) -> None:
        """Found the colonies, with what they were given before the first day."""
        self.members = [await self._found(number) for number in range(1, self.plan.colonies + 1)]
        if self.association.key == "corrane":
            ids = [member.id for member in self.members]
            await record_earlier_treatments(self.unit_of_work(FIRST_DAY), self.plan.name, self.apiary_id, ids)

    async def live(self, number: int, day: date) -> None:
        """One day of the apiary, the `number`-th since the first."""
        await self._day(self.members, number, day)

    async def _found(self, number: int) -> Member:
        label = f"{self.plan.letter}{number}"
        colony_id = made_id(self.association.key, self.plan.name, label)
        draw = self.generator
        life = Life(
            Calendar.parse(self.association.calendar),
            draw,
            mites=float(draw.gamma(3.0, FIRST_MITES.get(self.plan.habit, USUAL_FIRST_MITES))),
            vigour=float(draw.normal(1.0, 0.09)),
            size=float(draw.normal(1.0, 0.1)),
            arrivals=ARRIVALS.get(self.plan.habit, USUAL_ARRIVALS),
            southern=self.southern,
        )
        year = int(draw.choice([2027, 2028, 2028, 2029, 2029]))
        since = date(year, 6 if not self.southern else 12, int(draw.integers(1, 28)))
        format_id = "A_deep" if self.plan.colonies % 2 else "B_deep"
        shares = number == 2 and self.plan.name == "Kettle Wood"
        boxes = [WantedBox("brood", format_id, 10)]
        if number % 3 == 0:
            boxes.append(WantedBox("brood", format_id, 10))
        first_hive = None
        if shares:
            hives = await colonies_read.colony_view(
                self.unit_of_work(FIRST_DAY), made_id(self.association.key, self.plan.name, "K1")
            )
            first_hive = hives.colony.hive_id
        queen = QueenRecord(
            year, "green" if label == "D4" else mark_colour(year), "mated", since, since + timedelta(days=16), None
        )
        await colonies_record.add_colony(
            self.unit_of_work(FIRST_DAY),
            colonies_record.NewColony(
                id=colony_id,
                apiary_id=self.apiary_id,
                label=label,
                since=min(since + timedelta(days=30), FIRST_DAY),
                hive_id=first_hive,
                hive_type="two colonies side by side" if shares else "stacked boxes",
                boxes=[] if shares else boxes,
                queen=queen,
            ),
        )
        if shares:
            view = await colonies_read.colony_view(self.unit_of_work(FIRST_DAY), colony_id)
            await colonies_hives.amend_hive(
                self.unit_of_work(FIRST_DAY), colony_id, view.hive[0].version,
                colonies_hives.HiveChange(view.hive[0].hive_type, boxes, FIRST_DAY,
                                          divider=colonies_hives.Divider(5, "right")),
            )  # fmt: skip
        left_out = self.plan.habit == "some_left_out" and number % 2 == 0
        return Member(colony_id, label, life, left_out)

    async def _day(self, members: list[Member], number: int, day: date) -> None:
        self.now = day
        for step in self.to_record.pop(day, ()):
            await self._record(step)
        for member in members:
            if member.dead_on is None:
                member.life.step(day)
                if not member.life.alive:
                    await self._die(member, day)
            if (self.plan.name, member.label, day) == MERGED:
                member.dead_on = day
        living = [member for member in members if member.dead_on is None]
        await self._maybe_reinvade(living, day)
        if day == SPRING_ON:
            for member in living:
                member.life.mites = self._after_winter(member)
        if day == COLLAPSED_ON:
            for member in living:
                if (self.plan.name, member.label) in LOST:
                    member.life.mites *= LOST_LOAD / member.life.per_100(day)
        if self.stage is not None and day == self.stage.start - timedelta(days=2):
            await self._start_stage(self.stage, living, day)
        if self.stage is not None and day == self.stage.check_on:
            await self._check_stage(self.stage, living, day)
        season = self.turned(day)
        if self._visits_on(number, season):
            await self._visit(living, day)
        counts = self._counts_on(number, season)
        if counts:
            await self._count(living, day)
        for member in living if self.association.key == "corrane" else ():
            unit = self.unit_of_work(day, 14)
            await other_counts(unit, self.plan.name, member.label, member.id, member.life, day, counts=counts)
        await self._maybe_treat(living, day, season)
        if living and is_harvest(self.plan.habit, season):
            await take_honey(self.unit_of_work(day, 15), self.plan.name, day, [member.id for member in living])
        if self.association.key == "corrane":
            await work_at_hives(lambda on: self.unit_of_work(on, 16), self.plan.name, day)
        feeder, litres = FED.get((self.plan.name, day), (None, None))
        for member in living if feeder is not None else ():
            after = After(feed="syrup_2_1", feed_amount=litres, feeder=feeder, supers_on=False)
            await visits_record.record_visit(
                self.unit_of_work(day, 11), made_id("fed", member.id, day), colony_id=member.id, visited_on=day,
                after=after,
            )  # fmt: skip
        for stopped in LAYING_STOPPED:
            if (stopped.apiary, stopped.on) == (self.plan.name, day):
                colony = made_id(self.association.key, stopped.apiary, stopped.label)
                event = NewBroodEvent(colony, stopped.kind, stopped.on, stopped.release_on)
                await colonies_brood.add_brood_event(self.unit_of_work(day), made_id("laying", colony), event)

    def _visits_on(self, number: int, season: date) -> bool:
        offset = sum(map(ord, self.plan.name)) % 12
        return 3 < season.month < 10 and number % 21 == offset

    def _counts_on(self, number: int, season: date) -> bool:
        offset = sum(map(ord, self.plan.name)) % 12
        if not 4 <= season.month <= 9:
            return False
        rhythm = {"counts_often": 21, "by_the_book": 21, "some_left_out": 28, "cold_formic": 28, "treats_late": 42,
                  "neighbour_collapsed": 21, "teaching": 21}.get(self.plan.habit)  # fmt: skip
        return rhythm is not None and (number - offset) % rhythm == 0

    async def _visit(self, members: list[Member], day: date) -> None:
        for member in members:
            eggs_seen, queen_seen = bool(self.generator.random() < 0.8), bool(self.generator.random() < 0.4)
            if day >= FRAME_BY_FRAME_FROM and self.association.key == "corrane":
                await self._visit_frame_by_frame(member, day)
                continue
            after = After(
                frames_of_bees=member.life.frames(day),
                capped_brood=True,
                eggs_seen=eggs_seen,
                queen="seen" if queen_seen else "neither",
                supers_on=5 <= self.turned(day).month <= 7 and self.turned(day) < date(day.year, 7, 20),
                feed="none",
            )
            await visits_record.record_visit(
                self.unit_of_work(day, 11), made_id("visit", member.id, day), colony_id=member.id, visited_on=day,
                after=after,
            )  # fmt: skip

    async def _visit_frame_by_frame(self, member: Member, day: date) -> None:
        draw = np.random.default_rng([member.id.int % 2**63, day.toordinal()])
        opened = datetime.combine(day, time(10), tzinfo=UTC)
        view = await visits_record.open_visit(
            self.unit_of_work(day, 11), made_id("visit", member.id, day), member.id, opened
        )
        before = Before(air_temp_c=float(draw.integers(16, 25)), wind="still", rain="dry", traffic="normal")
        await visits_record.save_part(self.unit_of_work(day, 11), view.visit.id, "before", 0, before)
        hive = view.place.hive
        assert hive is not None
        framed = framed_boxes(hive)
        strength = member.life.frames(day)
        signs = sick_brood.signs_on(self.plan.name, member.label, day)
        found = combs.nest(draw, [box.frames for box in framed], strength, signs=signs, honey=0.6)
        entries = [
            visits_record.FrameEntry(framed[box].id, slot, 0, record)
            for (box, slot), record in found.items()
            if hive.owner(slot) == member.id
        ]
        await visits_record.save_frames(self.unit_of_work(day, 11), view.visit.id, entries)
        examination = sick_brood.examined(self.plan.name, [one.record for one in entries])
        after = After(frames_of_bees=strength, temper=int(draw.integers(6, 10)), supers_on=day < date(day.year, 7, 20),
                      feed="none", examination=examination)  # fmt: skip
        await visits_record.save_part(self.unit_of_work(day, 11), view.visit.id, "after", 0, after)
        await visits_record.close_visit(self.unit_of_work(day, 12), view.visit.id)

    async def _count(self, members: list[Member], day: date) -> None:
        for member in members:
            await self._wash(member, day)

    async def _wash(self, member: Member, day: date) -> UUID:
        if day in member.counted:
            return member.counted[day]
        count_id = member.counted[day] = made_id("count", member.id, day)
        counted = member.life.wash(day)
        if len(counted) == 3 and sum(counted[1:]) == 0:
            counted = counted[:2]
        scale = self.plan.name == "Dunnock Mill"
        meaning = await sampling_record.record_count(
            self.unit_of_work(day, 14),
            sampling_record.NewCount(
                id=count_id,
                colony_id=member.id,
                taken_at=datetime.combine(day, time(12, 30), tzinfo=UTC),
                sample=JarSample(
                    taken_at=datetime.combine(day, time(12, 30), tzinfo=UTC),
                    shakes=tuple(counted),
                    known_by="mass_dry" if scale else "volume_level",
                    volume_ml=None if scale else 120.0,
                    mass_g=38.0 if scale else None,
                    brood_state="open_and_capped",
                    queen_safe="yes",
                ),
                brood_state="open_and_capped",
            ),
        )
        member.last_median = meaning.reading.median if meaning.reading else None
        return count_id

    async def _die(self, member: Member, day: date) -> None:
        member.dead_on = day + timedelta(days=9)
        view = await colonies_read.colony_view(self.unit_of_work(member.dead_on), member.id)
        await colonies_record.amend_colony(
            self.unit_of_work(member.dead_on),
            member.id,
            view.colony.version,
            label=member.label,
            state="dead",
            state_since=member.dead_on,
            note="Few bees left, spotted cappings, stores untouched.",
        )

    async def _maybe_reinvade(self, members: list[Member], day: date) -> None:
        """The neighbour of Thrift Point collapses in late summer of the first year and again now."""
        if self.plan.habit == "neighbour_collapsed" and (
            date(2030, 9, 12) <= day <= date(2030, 10, 10) or date(2031, 7, 1) <= day <= date(2031, 7, 20)
        ):
            for member in members:
                member.life.mites += float(self.generator.poisson(7))

    def _after_winter(self, member: Member) -> float:
        """The mites that the winter left a colony: as many as grow into the load of its story, where it has one."""
        spread = float(self.generator.lognormal(0.0, 1.0))
        if self.stage is not None and member.label in self.stage.labels:
            return member.life.mites_for(self.stage.load * spread**STORY_SPREAD, SPRING_ON, self.stage.start)
        if self.plan.name in RUN_AHEAD and (self.plan.habit != "some_left_out" or member.left_out):
            return member.life.mites_for(RUN_AHEAD[self.plan.name] * spread**STORY_SPREAD, SPRING_ON, DEMO_TODAY)
        usual = SPRING_MITES.get(self.plan.habit, USUAL_SPRING_MITES)
        return float(usual * spread**USUAL_SPREAD)

    async def _start_stage(self, stage: Stage, living: list[Member], day: date) -> None:
        """Count, plan and carry out the course of the last weeks, as far as it has come; its neighbours are counted too
        where it will be verified against them."""
        treated = [member for member in living if member.label in stage.labels]
        for member in treated if not stage.verified else living:
            await self._wash(member, day)
        await self._look(treated, day)
        for member, course_id in await self._plan(stage.option, treated, stage.start, decided_on=day):
            member.life.kill(stage.killed)
            await self._carry_out(stage.option, course_id, stage.start, until=stage.until)

    async def _check_stage(self, stage: Stage, living: list[Member], day: date) -> None:
        plan_id = made_id("plan", self.apiary_id, stage.option, stage.start)
        counted = {member.label: await self._wash(member, day) for member in living}
        for member in living:
            if member.label in stage.verified:
                course_id = made_id("course", plan_id, member.id)
                await self._act(course_id, "verify", day, counted[member.label])
                if member.label != stage.verified[-1]:
                    await self._act(course_id, "close", day)

    async def _look(self, members: list[Member], day: date, *, brood: bool = True) -> None:
        note = "Honey off." if brood else "Cluster seen from above, no brood on the middle comb."
        for member in members:
            after = After(
                frames_of_bees=max(6.5, min(14.0, member.life.frames(day))), capped_brood=brood, eggs_seen=brood,
                supers_on=False, feed="none", note=note,
            )  # fmt: skip
            await visits_record.record_visit(
                self.unit_of_work(day, 11), made_id("look", member.id, day), colony_id=member.id, visited_on=day,
                after=after,
            )  # fmt: skip

    async def _maybe_treat(self, members: list[Member], day: date, season: date) -> None:
        if self.association.key == "ellery":
            for past in PAST_COURSES:
                if (past.apiary, past.start) == (self.plan.name, day):
                    await self._past_course(past, members)
            return
        habit = self.plan.habit
        winter = season.month == 12 and season.day == 16
        if habit == "never_counts" and (season.month, season.day) == (9, 4) and season.year == 2030:
            # Strips that the keeper speaks to nobody about, and never counts before or after.
            for member in members:
                member.life.kill(float(self.generator.uniform(0.55, 0.9)))
        if winter and habit not in ("never_counts", "treats_late"):
            await self._winter_trickle(members, day)
        late = {"treats_late": (9, 8), "cold_formic": (9, 25), "some_left_out": (8, 5)}.get(habit, (7, 29))
        if habit != "never_counts" and season.year == 2030 and (season.month, season.day) == late:
            over = [m for m in members if (m.last_median or 0) >= 1.0 and not m.left_out]
            if habit in ("by_the_book", "counts_often", "neighbour_collapsed", "teaching") and over:
                over = members
            await self._formic(over, day, failed=habit == "cold_formic", everything=True)

    async def _winter_trickle(self, members: list[Member], day: date) -> None:
        if day + timedelta(days=40) > DEMO_TODAY:
            return
        for member in members:
            after = After(
                seams_of_bees=max(4.0, member.life.frames(day)), capped_brood=False, eggs_seen=False, supers_on=False,
                feed="none", note="Cluster seen from above, no brood on the middle comb.",
            )  # fmt: skip
            looked_on = day - timedelta(days=4)
            await visits_record.record_visit(
                self.unit_of_work(looked_on, 11), made_id("look", member.id, day), colony_id=member.id,
                visited_on=looked_on, after=after,
            )  # fmt: skip
        planned = await self._plan("OX_TRICKLE", members, day)
        for member, course_id in planned:
            member.life.kill(self._kill("OX_TRICKLE"))
            await self._carry_out("OX_TRICKLE", course_id, day, until=day + timedelta(days=1))
            mild = day + timedelta(days=24)
            count_id = await self._wash(member, mild)
            for step in ("verify", "close"):
                await self._act(course_id, step, mild, count_id if step == "verify" else None)

    async def _past_course(self, past: PastCourse, members: list[Member]) -> None:
        day = past.start
        for member in members:
            await self._wash(member, day - timedelta(days=3))
        await self._look(members, day - timedelta(days=3), brood=not past.broodless)
        for member, course_id in await self._plan(past.option, members, day):
            member.life.kill(past.killed)
            end = await self._carry_out(past.option, course_id, day, until=DEMO_TODAY)
            check = end + timedelta(days=past.checked_after)
            count_id = await self._wash(member, check)
            for step in ("verify", "close"):
                await self._act(course_id, step, check, count_id if step == "verify" else None)

    async def _formic(
        self, members: list[Member], day: date, *, failed: bool = False, everything: bool = False
    ) -> None:
        for member in members:
            await self._wash(member, day - timedelta(days=3))
        await self._look(members, day - timedelta(days=3))
        option = "FA_STRIP11"
        planned = await self._plan(option, members, day)
        for member, course_id in planned:
            member.life.kill(self._kill(option, failed=failed))
            end = await self._carry_out(option, course_id, day, until=DEMO_TODAY)
            check = end + timedelta(days=10)
            if everything and check <= DEMO_TODAY:
                count_id = await self._wash(member, check)
                for step in ("verify", "close"):
                    await self._act(course_id, step, check, count_id if step == "verify" else None)

    def _kill(self, option: str, *, failed: bool = False) -> float:
        mean, spread = FAILED_KILL if failed else KILL[option]
        return float(np.clip(self.generator.normal(mean, spread), 0.05, 0.99))

    async def _plan(
        self, option: str, members: list[Member], day: date, *, decided_on: date | None = None
    ) -> list[tuple[Member, UUID]]:
        if not members:
            return []
        plan_id = made_id("plan", self.apiary_id, option, day)
        rows = await treatments_plan.plan_courses(
            self.unit_of_work(decided_on or day - timedelta(days=2)),
            plan_id=plan_id,
            apiary_id=self.apiary_id,
            option_id=option,
            start_on=day,
            interval_override=None,
            wanted=[treatments_plan.WantedCourse(made_id("course", plan_id, m.id), m.id) for m in members],
        )
        by_id = {member.id: member for member in members}
        return [(by_id[row.colony_id], row.course_id) for row in rows if row.course_id is not None]

    async def _carry_out(self, option: str, course_id: UUID, start: date, *, until: date) -> date:
        """Every step on its ideal day up to the end of the course, as far as `until`; the day of the end."""
        chosen = default_catalogue().option(option)
        planned = plan_course(chosen, start)
        recorded_apart = {"baseline_count", "verify", "close"} | ({"end"} if chosen.ends_at_placing else set())
        for step in planned.steps:
            day = step.window.ideal
            if step.kind in recorded_apart or day > until:
                continue
            await self._act(course_id, step.name, day)
        return planned.ending.window.ideal

    async def _act(self, course_id: UUID, step: str, day: date, count_id: UUID | None = None) -> None:
        done, on = Step(course_id, step, day, count_id), day + timedelta(days=1)
        if on <= self.now:
            await self._record(done)
        else:
            self.to_record[on].append(done)

    async def _record(self, done: Step) -> None:
        unit, places = self.unit_of_work(done.day + timedelta(days=1)), done.name.startswith("place_")
        course = (await treatments_read.course_view(unit, done.course_id)).course
        old = places and (self.plan.name, done.day) == (OLD_STRIPS.apiary, OLD_STRIPS.on)
        key = self.association.key
        lot = lot_id(key, OLD_STRIPS.lot) if old else lot_for(key, course.option_id, done.day)
        facts = NOTHING
        if done.name == "dispose":
            facts = replace(NOTHING, disposed=DISPOSED)
        elif done.name == "remove":
            facts = replace(NOTHING, taken_out=course.dose_quantity)
        await treatments_record.record_act(
            unit,
            done.course_id,
            treatments_record.NewAct(
                id=made_id("act", done.course_id, done.name),
                step=done.name,
                outcome="done",
                done_on=done.day,
                quantity=OLD_STRIPS.quantity if old else course.dose_quantity if places else None,
                lot="",
                count_id=done.count_id,
                note=OLD_STRIPS.note if old else "",
                override=Override("expired", self.plan.keeper, "The new pack had not come.") if old else None,
                lot_id=lot if places else None,
                facts=facts,
            ),
        )
