"""The record and the label as whole HTML pages that stand alone, printed from a browser or set as PDF."""

from collections.abc import Mapping
from functools import cache
from importlib import resources
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from jinja2 import Environment, Template


def record_page(data: Mapping[str, Any], face: str = "") -> str:
    """The charge record, of what `record_data` says; `face` is where the interface's typeface lies, as CSS takes it in `src`."""
    return _page("record.html", data, face)


def label_page(data: Mapping[str, Any], face: str = "") -> str:
    """The label for the unit, 100 × 60 mm, of what `label_data` says; `face` as in `record_page`."""
    return _page("label.html", data, face)


def _page(name: str, data: Mapping[str, Any], face: str) -> str:
    return _template(name).render({**data, "style": _style(face)})


def _style(face: str) -> str:
    style = resources.files(__name__).joinpath("record.css").read_text(encoding="utf-8")
    if not face:
        return style
    # A browser needs the weights named for one face of every weight.
    return f'@font-face {{ font-family: "Archivo Variable"; font-weight: 100 900; src: {face}; }}\n{style}'


@cache
def _template(name: str) -> "Template":
    return _environment().get_template(name)


@cache
def _environment() -> "Environment":
    """Imported when a page is first made: nothing else of the core needs it."""
    from jinja2 import Environment, FunctionLoader

    pages = resources.files(__name__)
    return Environment(loader=FunctionLoader(lambda name: pages.joinpath(name).read_text(encoding="utf-8")), autoescape=True)
