"""Whether a charge stands shut in: a unit with its charge as it was delivered, or one that was pumped down."""

from yoshi_core.steps.contract import StepContext


def was_shut_in(context: StepContext) -> bool:
    """Whether work is done on lines and coil alone in this round, the charge behind shut valves."""
    return any(row.line.kind == "shut_in" for row in context.account.since_emptied())


def stands_shut_in(context: StepContext) -> bool:
    """Whether the valves are still shut on it."""
    shut = False
    for row in context.account.booked:
        if row.line.kind in {"shut_in", "let_back", "emptied"}:
            shut = row.line.kind == "shut_in"
    return shut
