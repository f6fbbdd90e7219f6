"""Writes the OpenAPI document, the form facts and the JSON Schema that are committed."""

import json
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand

from api.root import api
from yoshi_core import documents
from yoshi_core.forms import forms


def generated() -> dict[Path, str]:
    """Every generated file with its text."""
    root: Path = settings.ROOT
    return {
        root / "docs" / "formats" / "openapi.json": _text(api.get_openapi_schema(path_prefix="/api/")),
        root / "docs" / "formats" / "yoshi-job.schema.json": _text(documents.json_schema()),
        root / "web" / "src" / "api" / "forms.gen.json": _text(forms()),
    }


def _text(plain: Any) -> str:
    return json.dumps(plain, indent=1, ensure_ascii=False, sort_keys=False, default=str) + "\n"


class Command(BaseCommand):
    help = "Write the committed OpenAPI document, form facts and JSON Schema."

    def handle(self, *args: Any, **options: Any) -> None:
        for path, text in generated().items():
            path.parent.mkdir(parents=True, exist_ok=True)
            path.write_text(text, encoding="utf-8")
            self.stdout.write(str(path))
