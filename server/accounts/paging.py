"""A list by pages: where the next one begins, and which rows hold the words searched for."""

from collections.abc import Iterable, Mapping
from typing import Any

from django.db.models import Q

MOST_WORDS = 6


def holds_words(search: str, columns: Iterable[str]) -> Q:
    """Rows in which every word stands in one of the columns; the database's collation says what is alike."""
    found = Q()
    for word in search.split()[:MOST_WORDS]:
        found &= Q(*((f"{column}__icontains", word) for column in columns), _connector=Q.OR)
    return found


def following(last: Mapping[str, Any]) -> Q:
    """Rows after one with these values, in the order of its columns, each ascending."""
    found, same = Q(pk__in=()), Q()
    for column, value in last.items():
        found |= same & Q(**{f"{column}__gt": value})
        same &= Q(**{column: value})
    return found
