"""Drawings made small for a page: what says nothing is left out, and numbers are as fine as can be seen."""

from __future__ import annotations

import re
from xml.etree import ElementTree

SVG = "http://www.w3.org/2000/svg"
_NUMBER = re.compile(r"-?\d+\.\d+(?:e-?\d+)?")
_PUNCTUATION = re.compile(r"\s*,\s*|\s+")
_LETTERS = re.compile(r"\s*([A-Za-z])\s*")
_SCALE = re.compile(r"matrix\(([^,]+),")
_SAYS_NOTHING = {"vector-effect": "none", "fill-opacity": "1", "stroke-opacity": "1", "font-style": "normal"}
_STROKE = ("stroke", "stroke-width", "stroke-linecap", "stroke-linejoin", "stroke-dasharray", "stroke-dashoffset")
_FONT = ("font-family", "font-size", "font-weight", "font-style")
_FINE = 0.2
"""In a group that is scaled down below this, whole numbers are fine enough."""


def slimmed(root: ElementTree.Element) -> ElementTree.Element:
    """The drawing itself, made small."""
    _clean(root, 1.0)
    _join(root)
    return root


def _name(element: ElementTree.Element) -> str:
    return element.tag.rpartition("}")[2]


def _clean(element: ElementTree.Element, scale: float) -> None:
    found = _SCALE.match(element.get("transform", ""))
    inner = scale * abs(float(found[1])) if found else scale
    for name, value in _SAYS_NOTHING.items():
        if element.get(name) == value:
            del element.attrib[name]
    if _name(element) == "mask":
        element.attrib.pop("patternUnits", None)
    for name in ("d", "points"):
        if name in element.attrib:
            element.set(name, _short(element.attrib[name], 0 if inner < _FINE else 1))
    for child in [*element]:
        child.tail = None
        _clean(child, inner)
        if _name(child) == "g" and len(child) == 0:
            element.remove(child)
    if _name(element) == "g":
        element.text = None
        if not any(_name(inside) in ("text", "tspan") for inside in element.iter()):
            for name in _FONT:
                element.attrib.pop(name, None)
        if len(element) and all(child.get("stroke") == "none" for child in element):
            for name in _STROKE:
                element.attrib.pop(name, None)
            element.set("stroke", "none")
            for child in element:
                del child.attrib["stroke"]


def _short(data: str, digits: int) -> str:
    """Numbers with so many digits behind the point, and no more room between them than must be."""
    rounded = _NUMBER.sub(lambda number: _rounded(float(number[0]), digits), data)
    return _LETTERS.sub(r"\1", _PUNCTUATION.sub(" ", rounded)).strip()


def _rounded(number: float, digits: int) -> str:
    text = f"{number:.{digits}f}"
    text = text.rstrip("0").rstrip(".") if "." in text else text
    return "0" if text in ("-0", "") else text


def _join(element: ElementTree.Element) -> None:
    """Put groups that follow one another and say the same into one."""
    before: ElementTree.Element | None = None
    for child in [*element]:
        if before is not None and _name(before) == _name(child) == "g" and before.attrib == child.attrib:
            before.extend(list(child))
            element.remove(child)
        else:
            before = child
    for child in element:
        _join(child)


def prefixed(root: ElementTree.Element, prefix: str) -> ElementTree.Element:
    """The drawing itself, its ids with a prefix: several drawings stand on one page, and each has ids of its own."""
    for element in root.iter():
        if "id" in element.attrib:
            element.set("id", f"{prefix}{element.attrib['id']}")
        for name, value in element.attrib.items():
            if "url(#" in value:
                element.set(name, value.replace("url(#", f"url(#{prefix}"))
    return root
