"""Which options suit many colonies: each rule is asked once for all colonies that agree in what it looks at.

An apiary shares its weather and its policy, and most of its colonies were fed, treated and looked at on the same days.
`eligibility` says the same of one colony and is what this is tested against.
"""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date

from redframe.core.treatments.catalogue import Catalogue, Option
from redframe.core.treatments.course import undisturbed
from redframe.core.treatments.dose import DoseResult
from redframe.core.treatments.eligibility import Suitability, dose_of, judged
from redframe.core.treatments.reasons import Reason
from redframe.core.treatments.rules import RULES, Case, Facts, past_of
from redframe.core.treatments.situation import ForecastFacts, PolicyFacts, Situation
from redframe.core.treatments.weather import WeatherHere

Said = Sequence[Sequence[Reason]]
"""What a rule says of each option."""


class ManyColonies:
    """Judges options of a catalogue for one situation after another, and remembers what rules said."""

    def __init__(self, catalogue: Catalogue, options: Sequence[Option] | None = None) -> None:
        self._catalogue = catalogue
        self._options = catalogue.options if options is None else options
        self._said: list[dict[Facts, Said]] = [{} for _ in RULES]
        self._concerned = [[rule.concerns(option) for option in self._options] for rule in RULES]
        self._ends: dict[date, list[tuple[date, date | None]]] = {}
        self._doses: dict[Facts, list[DoseResult | None]] = {}
        self._policies: list[PolicyFacts] = []
        self._weather: list[tuple[ForecastFacts | None, WeatherHere]] = []

    def among(self, options: Sequence[Option]) -> ManyColonies:
        """A judge of some of the options only, which knows of the weather what this one knows."""
        fewer = ManyColonies(self._catalogue, options)
        fewer._weather = self._weather
        return fewer

    @property
    def asked(self) -> int:
        """How often a rule was asked for all options."""
        return sum(map(len, self._said))

    def suit(self, situation: Situation) -> list[Suitability]:
        """Every option judged, in their order. Raises as `eligibility.suit`."""
        policy, (place, weather) = self._policy(situation.policy), self._weather_of(situation.forecast)
        past = past_of(self._catalogue, situation)
        ends, doses = self._ends_from(situation.today), self._doses_for(situation)
        cases = [
            Case(option, self._catalogue, situation, weather, dose, ideal_end, past)
            for option, dose, (ideal_end, _) in zip(self._options, doses, ends, strict=True)
        ]
        said = []
        for rule, concerned, remembered in zip(RULES, self._concerned, self._said, strict=True):
            facts = (policy if rule.policy else 0, place if rule.weather else 0, *rule.looks_at(situation))
            found = remembered.get(facts)
            if found is None:
                found = remembered[facts] = [
                    tuple(rule.ask(case)) if asked else () for case, asked in zip(cases, concerned, strict=True)
                ]
            said.append(found)
        return [
            judged(case, honey_clear, [reason for one in each for reason in one])
            for case, (_, honey_clear), each in zip(cases, ends, zip(*said, strict=True), strict=True)
        ]

    def _policy(self, facts: PolicyFacts) -> int:
        for number, known in enumerate(self._policies):
            if known is facts or known == facts:
                return number
        self._policies.append(facts)
        return len(self._policies) - 1

    def _weather_of(self, facts: ForecastFacts | None) -> tuple[int, WeatherHere]:
        for number, (known, weather) in enumerate(self._weather):
            if known is facts or known == facts:
                return number, weather
        weather = WeatherHere(facts.as_forecast() if facts is not None else None)
        self._weather.append((facts, weather))
        return len(self._weather) - 1, weather

    def _ends_from(self, day: date) -> list[tuple[date, date | None]]:
        if day not in self._ends:
            self._ends[day] = [undisturbed(option, day) for option in self._options]
        return self._ends[day]

    def _doses_for(self, situation: Situation) -> list[DoseResult | None]:
        size = (situation.colony.strength, situation.colony.brood_boxes)
        if size not in self._doses:
            self._doses[size] = [dose_of(option, situation) for option in self._options]
        return self._doses[size]
