"""An upgrade rolls: while old servers still run beside new ones, a migration only adds, and what it adds an old server need not fill."""

import pytest
from django.apps import apps
from django.db import connection
from django.db.migrations import AddField, AlterField, CreateModel, DeleteModel, RemoveField, RenameField, RenameModel
from django.db.migrations.loader import MigrationLoader
from django.db.migrations.operations.base import Operation

OURS = {"accounts", "systems", "cylinders", "instruments", "jobs", "tasks", "cards"}
BEFORE = {("accounts", 3), ("systems", 1), ("cylinders", 1), ("instruments", 2), ("jobs", 5)}  # made while nothing rolled yet
TAKES_AWAY = (DeleteModel, RemoveField, RenameField, RenameModel, AlterField)


def later_operations() -> list[tuple[str, Operation]]:
    loader = MigrationLoader(None, ignore_no_migrations=True)
    old = dict(BEFORE)
    found = []
    for (app, name), migration in loader.disk_migrations.items():
        if app in OURS and int(name[:4]) > old.get(app, 0):
            found += [(f"{app}.{name}", operation) for operation in migration.operations]
    return found


def test_migrations_only_add_and_an_old_server_can_still_insert() -> None:
    found = later_operations()
    assert any(isinstance(operation, CreateModel) for _, operation in found)
    for where, operation in found:
        assert not isinstance(operation, TAKES_AWAY), f"{where} takes something away: an old server still wants it"
        if isinstance(operation, AddField) and not operation.field.many_to_many:
            generated = getattr(operation.field, "generated", False)
            assert generated or operation.field.null or operation.field.has_db_default(), (
                f"{where}: an old server does not fill {operation.name}"
            )


@pytest.mark.django_db
def test_an_old_server_inserts_without_the_new_columns() -> None:
    """A shop, a person and a job as version 0.9 wrote them, column by column."""
    with connection.cursor() as cursor:
        cursor.execute("INSERT INTO accounts_shop (name, created_at) VALUES ('Old', UTC_TIMESTAMP())")
        shop = cursor.lastrowid
        cursor.execute(
            "INSERT INTO accounts_person (password, is_superuser, username, first_name, last_name, email, is_staff, is_active, date_joined,"
            " shown_name, role, units, shop_id) VALUES ('x', 0, 'old', '', '', '', 0, 1, UTC_TIMESTAMP(), 'O. Old', 'technician', 'us', %s)",
            [shop],
        )
    row = apps.get_model("accounts", "Shop").objects.get(pk=shop)
    assert (row.shortest_password, row.turn) == (15, 0)
