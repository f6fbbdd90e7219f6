"""Jobs taken over before their history was told apart: found by what happened before they came, under their own code."""

import importlib
from datetime import timedelta
from typing import Any

import pytest
from django.apps import apps
from django.utils import timezone

from conftest import Api
from jobs.models import Change, Job

pytestmark = pytest.mark.django_db


def line(key: str, days_ago: float) -> dict[str, Any]:
    at = (timezone.now() - timedelta(days=days_ago)).isoformat()
    return {"kind": "movement", "movement": {"key": key, "mass_kg": 1.0}, "at": at}


def test_the_history_of_an_earlier_import_is_found(api: Api) -> None:
    code = api.new_job(title="Taken over")["code"]
    row = Job.objects.get(code=code)
    row.document["ledger"] = [line("old-id/weigh_in/0/d1", 30), line("elsewhere/x", 20), line(f"{code}/weigh_in/0/d2", -0.1)]
    row.save()
    Change.objects.create(
        job=row, seq=99, kind="imported", payload={"original_id": "old-id"}, at=timezone.now(), by_id=api.client.session["_auth_user_id"]
    )
    importlib.import_module("jobs.migrations.0004_history_of_a_document").find_history(apps, None)
    row.refresh_from_db()
    assert (row.history_lines, row.original) == (2, "old-id")
    assert [one["movement"]["key"] for one in row.document["ledger"]] == [f"{code}/weigh_in/0/d1", "elsewhere/x", f"{code}/weigh_in/0/d2"]
