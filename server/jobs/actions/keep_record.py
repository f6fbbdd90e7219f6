"""Keeping what a job says and prints at the moment it is closed: no later version says it otherwise."""

from datetime import datetime

from jobs.models import Job, KeptRecord
from yoshi_core import __version__
from yoshi_core.document import schema
from yoshi_core.document.model import Job as CoreJob
from yoshi_core.job.evaluate import Findings
from yoshi_core.profile.profile import Profile
from yoshi_core.record.record import label_data, record_data
from yoshi_core.units.display import System

SYSTEMS: tuple[System, ...] = ("us", "si")


def keep_record(row: Job, job: CoreJob, findings: Findings, profile: Profile, at: datetime) -> None:
    """Add what a closed job's record, label and screen show, in both systems of units."""
    records = {system: schema.dump_full(record_data(job, findings, profile.name, system, at, row.shop.name)) for system in SYSTEMS}
    content = {"record": records, "label": schema.dump_full(label_data(job, findings, row.shop.name)), "findings": row.findings}
    KeptRecord.objects.create(job=row, content=content, core_version=__version__, at=at)
