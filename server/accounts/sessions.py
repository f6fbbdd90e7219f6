"""Sessions in the database, each with whose it is, so that they can be listed and ended."""

from datetime import datetime
from typing import Any

from django.contrib.auth import SESSION_KEY
from django.contrib.sessions.backends.db import SessionStore as DBStore
from django.utils import timezone

from accounts.models import SignedIn

BEGAN = "began"  # under this key: where and when it began


class SessionStore(DBStore):
    """Django's own, with the person and the device beside what it keeps."""

    @classmethod
    def get_model_class(cls) -> type[SignedIn]:
        return SignedIn

    def create_model_instance(self, data: dict[str, Any]) -> SignedIn:
        row = super().create_model_instance(data)
        assert isinstance(row, SignedIn)
        began = data.get(BEGAN, {})
        row.person_id = int(data[SESSION_KEY]) if SESSION_KEY in data else None
        row.device, row.address = began.get("device", ""), began.get("address", "")
        row.started_at = datetime.fromisoformat(began["at"]) if "at" in began else timezone.now()
        return row
