"""Files of the front end: told that they are as they were, a browser gets nothing to read."""

from pathlib import Path

import pytest
from django.test import Client
from whitenoise.middleware import WhiteNoiseMiddleware


@pytest.fixture
def served(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> str:
    """A file of the front end, as the server finds it at its start."""
    (tmp_path / "sw.js").write_text("// a page's worker\n" * 400)
    begun = WhiteNoiseMiddleware.__init__

    def with_files(self: WhiteNoiseMiddleware, *given: object) -> None:
        begun(self, *given)
        self.add_files(str(tmp_path), prefix="/")

    monkeypatch.setattr(WhiteNoiseMiddleware, "__init__", with_files)
    return "/sw.js"


def test_not_modified_has_no_body_however_it_may_be_packed(served: str) -> None:
    client = Client()
    whole = client.get(served, HTTP_ACCEPT_ENCODING="gzip")
    assert whole.status_code == 200
    assert b"".join(whole)
    again = client.get(served, HTTP_ACCEPT_ENCODING="gzip", HTTP_IF_MODIFIED_SINCE=whole["Last-Modified"])
    assert again.status_code == 304
    assert b"".join(again) == b""
    assert "Content-Encoding" not in again
