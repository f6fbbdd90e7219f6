"""What the pages promise is there: every figure's bench, every link, every picture."""

import re
from pathlib import Path

import pytest

ROOT = Path(__file__).resolve().parents[2]
PAGES = sorted(path for path in (*ROOT.glob("*.md"), *(ROOT / "docs").rglob("*.md")))


def test_every_figure_names_what_prints_it_and_that_exists() -> None:
    rows = [line for line in (ROOT / "docs" / "figures.md").read_text(encoding="utf-8").splitlines() if line.startswith("| ")][1:]
    assert len(rows) > 50
    for row in rows:
        cells = [cell.strip() for cell in row.strip("|").split("|")]
        assert len(cells) == 5, row
        assert cells[1], row
        named = re.fullmatch(r"`([\w/.]+)`", cells[3])
        assert named, row
        assert (ROOT / named[1]).is_file(), row


@pytest.mark.parametrize("page", PAGES, ids=lambda path: str(path.relative_to(ROOT)))
def test_every_link_of_a_page_leads_somewhere(page: Path) -> None:
    for target in re.findall(r"\]\(([^)#\s]+)[^)]*\)", page.read_text(encoding="utf-8")):
        if "://" not in target:
            assert (page.parent / target).exists(), f"{page.name}: {target}"


def test_every_picture_is_linked_from_the_readme() -> None:
    text = (ROOT / "README.md").read_text(encoding="utf-8")
    pictures = sorted((ROOT / "docs" / "screenshots").glob("*.png"))
    assert len(pictures) < 20
    assert [p.name for p in pictures if f"docs/screenshots/{p.name}" not in text] == []
