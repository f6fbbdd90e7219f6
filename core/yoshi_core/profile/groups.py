"""Thresholds and schools in the order a person reads them: by what they are about."""

from yoshi_core.profile.rules import RULES

_GROUPS: tuple[tuple[str, frozenset[str]], ...] = (
    ("Charge and lines", frozenset({"plate", "line", "part"})),
    ("As found", frozenset({"as_found", "coil"})),
    ("Leaks and recovery", frozenset({"leak", "recover", "recovered"})),
    ("Repair and pressure hold", frozenset({"repair", "hold", "nitrogen"})),
    ("Vacuum", frozenset({"vacuum"})),
    ("Weighing", frozenset({"scale", "weigh_in", "cylinder", "critical", "glide"})),
    ("Proof", frozenset({"verify", "target"})),
    ("Trimming", frozenset({"trim"})),
    ("Retrofit", frozenset({"retrofit"})),
    ("Rooms", frozenset({"room"})),
    ("Receivers, vehicles, chillers", frozenset({"receiver", "vehicle", "chiller"})),
    ("Instruments", frozenset({"instrument", "probe"})),
    ("The day's hours and times", frozenset({"day", "time"})),
)


def grouped() -> tuple[tuple[str, tuple[str, ...]], ...]:
    """Each group with the ids of its rules; every rule stands in exactly one."""
    return tuple((title, tuple(rule for rule in RULES if rule.partition(".")[0] in about)) for title, about in _GROUPS)
