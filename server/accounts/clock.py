"""What time it is for the work that is done: the office's clock, or a practice run's, whose time is its own."""

from datetime import datetime

from django.utils import timezone

from accounts import asking


def now() -> datetime:
    """The moment of the request that is being answered, by the clock its job goes by."""
    return asking.now.get().moment or timezone.now()
