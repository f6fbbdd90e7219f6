"""Names inside a sentence: how they are found in it, and how several read in a row."""

import re
from collections.abc import Sequence

NAME = re.compile(r"\{(\w+)(?::(\w+))?\}")


def in_a_row(names: Sequence[str], last: str = "and") -> str:
    """Names in a row with “and” or “or” before the last; nothing where there is none."""
    return f"{', '.join(names[:-1])} {last} {names[-1]}" if len(names) > 1 else "".join(names)
