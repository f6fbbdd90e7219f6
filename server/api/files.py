"""Answers that are files."""

from collections.abc import Iterator

from django.http import StreamingHttpResponse


def csv_file(pieces: Iterator[str], name: str) -> StreamingHttpResponse:
    """A table to take along, sent as it is read."""
    headers = {"Content-Disposition": f'attachment; filename="{name}.csv"'}
    return StreamingHttpResponse(pieces, content_type="text/csv; charset=utf-8", headers=headers)
