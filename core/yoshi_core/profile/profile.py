"""The practice profile: every threshold and every choice between schools, with its source.

A shop changes a value by giving it in `overrides`; a record keeps the profile it was judged by.
Thresholds stand in `profile_rules`, schools in `profile_choices`, and nowhere else.
"""

from collections.abc import Mapping
from dataclasses import field

from yoshi_core.errors import CoreError, InvalidInput, OutOfRange
from yoshi_core.frozen import dataclass
from yoshi_core.profile.choices import CHOICES, Choice
from yoshi_core.profile.rules import RULES, TRADE, Rule
from yoshi_core.units.display import Amount
from yoshi_core.units.quantities import QUANTITIES
from yoshi_core.units.text import parse

__all__ = ["CHOICES", "RULES", "TRADE", "Choice", "Profile", "Rule", "check", "read_overrides"]


@dataclass(frozen=True)
class Profile:
    """A shop's practice: values in SI that differ from the defaults, and choices between schools."""

    id: str = "field"
    name: str = "Field practice"
    revision: int = 1
    overrides: Mapping[str, float] = field(default_factory=dict)
    choices: Mapping[str, str] = field(default_factory=dict)

    def value(self, rule_id: str) -> float:
        """The threshold in SI."""
        return self.overrides.get(rule_id, RULES[rule_id].default)

    def source(self, rule_id: str) -> str:
        """Where the threshold comes from: its source, or this profile when the shop set its own."""
        if rule_id in self.overrides:
            return f"{self.name}, revision {self.revision}"
        return RULES[rule_id].source

    def choice(self, choice_id: str) -> str:
        """The school followed on a question."""
        return self.choices.get(choice_id, CHOICES[choice_id].default)

    def school(self, choice_id: str) -> str:
        """The school followed, in words, with the reason for the default."""
        choice = CHOICES[choice_id]
        return f"{choice.text}: {choice.options[self.choice(choice_id)]}. {choice.reason}"


def read_overrides(entries: Mapping[str, str]) -> dict[str, float]:
    """Thresholds as people write them, in SI; an empty text goes back to the default.

    Raises `InvalidInput` for an unknown rule, `UnitError` with the rule's path for what cannot be read.
    """
    found = {}
    for rule_id, text in entries.items():
        rule = RULES.get(rule_id)
        if rule is None:
            raise InvalidInput("There is no rule {rule_id}.", words={"rule_id": rule_id}, path=f"/overrides/{rule_id}")
        if not text.strip():
            continue
        try:
            found[rule_id] = parse(rule.quantity, text, default_unit=QUANTITIES[rule.quantity].shown("us").symbol).value
        except CoreError as error:
            raise error.at(f"/overrides/{rule_id}") from None
    return found


def check(profile: Profile) -> None:
    """Raise `InvalidInput` for an unknown rule or school, `OutOfRange` for a value outside its rule's range."""
    for rule_id, value in profile.overrides.items():
        rule = RULES.get(rule_id)
        if rule is None:
            raise InvalidInput("There is no rule {rule_id}.", words={"rule_id": rule_id}, path=f"/overrides/{rule_id}")
        if not rule.low <= value <= rule.high:
            raise OutOfRange(
                "“{text}” takes {low} to {high}, not {value}.",
                words={
                    "text": rule.text,
                    "low": Amount(rule.low, rule.quantity),
                    "high": Amount(rule.high, rule.quantity),
                    "value": Amount(value, rule.quantity),
                },
                path=f"/overrides/{rule_id}",
                value=value,
                low=rule.low,
                high=rule.high,
            )
    for choice_id, school in profile.choices.items():
        if choice_id not in CHOICES or school not in CHOICES[choice_id].options:
            raise InvalidInput(
                "There is no school {school} for {choice_id}.",
                words={"school": school, "choice_id": choice_id},
                path=f"/choices/{choice_id}",
            )
