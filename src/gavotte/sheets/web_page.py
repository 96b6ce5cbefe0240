"""A sheet as one page for a browser: everything is in the file, nothing is fetched, and no script runs."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from html import escape
from xml.etree import ElementTree

from gavotte.sheets.elements import Composed, Drawing, Element, Heading, Music, PageEnd, Paragraph, Style, bold_runs
from gavotte.sheets.markdown import described
from gavotte.sheets.slim_svg import SVG, prefixed

_STYLE = """
:root { color-scheme: light; }
body { margin: 0 auto; max-width: 62rem; padding: 1rem 1.25rem 3rem; background: #fff; color: #1c1a17;
  font: 1.05rem/1.55 Georgia, "Noto Serif", serif; }
h1 { font-size: 2rem; line-height: 1.2; margin: 1rem 0 .25rem; }
h2 { font-size: 1.35rem; margin: 2.25rem 0 .75rem; }
h3 { font-size: 1.1rem; margin: 1.5rem 0 .5rem; }
p { margin: .5rem 0; max-width: 44rem; }
.about, .caption, footer { color: #55504a; }
.caption { font-style: italic; }
.reason { font-size: .95rem; padding-left: 1rem; }
figure { margin: 1rem 0; }
figure svg { display: block; width: 100%; height: auto; }
figure svg + svg { margin-top: .75rem; }
.narrow { display: none; }
nav ol { padding-left: 1.5rem; }
nav a { color: inherit; }
hr { border: 0; border-top: 1px solid #bbb5ac; margin: 2.5rem 0 1rem; }
footer { margin-top: 3rem; border-top: 1px solid #bbb5ac; padding-top: .75rem; font-size: .95rem; }
@media screen and (max-width: 44rem) {
  body { font-size: 1rem; padding: .5rem .75rem 2rem; }
  .wide { display: none; }
  .narrow { display: block; }
}
@media print { hr { visibility: hidden; break-after: page; margin: 0; } figure svg { break-inside: avoid; } }
"""
_NOTHING_FETCHED = "default-src 'none'; style-src 'unsafe-inline'"

Drawn = Mapping[str, Sequence[str]]
"""The SVGs of one element: for a "wide" and a "narrow" page, or "any"."""


def web_page(composed: Composed, drawn: Mapping[int, Drawn]) -> str:
    """The page; ``drawn`` has the SVGs of each music and drawing, by its number among the elements."""
    body = [f"<h1>{escape(composed.title)}</h1>"]
    if composed.about:
        body.append(f'<p class="about">{escape(composed.about)}</p>')
    elements = composed.elements
    if composed.contents:
        body += _contents(elements)
    for number, element in enumerate(elements):
        body += _element(element, number, drawn.get(number, {}))
    if composed.rights:
        body.append(f"<footer>{escape(composed.rights)}</footer>")
    head = (
        '<meta charset="utf-8">',
        '<meta name="viewport" content="width=device-width, initial-scale=1">',
        f'<meta http-equiv="Content-Security-Policy" content="{_NOTHING_FETCHED}">',
        f"<title>{escape(composed.title or 'Sheet')}</title>",
        f"<style>{_STYLE}</style>",
    )
    return "\n".join(
        ("<!DOCTYPE html>", '<html lang="en">', "<head>", *head, "</head>", "<body>", *body, "</body>", "</html>", "")
    )


def _contents(elements: Sequence[Element]) -> list[str]:
    entries = [
        f'<li><a href="#part-{number}">{escape(element.words)}</a></li>'
        for number, element in enumerate(elements)
        if isinstance(element, Heading) and element.level == 1
    ]
    return ['<nav aria-label="Contents"><ol>', *entries, "</ol></nav>"] if entries else []


def _element(element: Element, number: int, drawn: Drawn) -> list[str]:
    match element:
        case Heading(words, level):
            return [f'<h{level + 1} id="part-{number}">{escape(words)}</h{level + 1}>']
        case Paragraph(words, style):
            kind = "" if style in (Style.BODY, Style.QUESTION) else f' class="{style}"'
            return [f"<p{kind}>{_bold(words)}</p>"]
        case PageEnd():
            return ["<hr>"]
        case Music() | Drawing():
            return _figure(drawn, described(element), f"d{number}")
    return []


def _bold(words: str) -> str:
    """A paragraph, its **bold** words bold."""
    return "".join(f"<strong>{escape(run)}</strong>" if bold else escape(run) for run, bold in bold_runs(words))


def _figure(drawn: Drawn, said: str, name: str) -> list[str]:
    lines = []
    for width, drawings in drawn.items():
        kind = "" if width == "any" else f' class="{width}"'
        lines += [
            f"<figure{kind}>",
            *(for_a_page(svg, said, f"{name}{width[0]}{k}-") for k, svg in enumerate(drawings)),
            "</figure>",
        ]
    return lines


def for_a_page(svg: str, said: str, prefix: str = "") -> str:
    """A drawing to stand in the text of a page: as wide as there is room, with words for whoever does not see it."""
    ElementTree.register_namespace("", SVG)
    root = prefixed(ElementTree.fromstring(svg), prefix)
    for name in ("width", "height", "version", "baseProfile"):
        root.attrib.pop(name, None)
    root.set("role", "img")
    root.set("aria-label", said)
    for child in [*root]:
        # What a reader is told stands in the label.
        if child.tag.rpartition("}")[2] in ("title", "desc"):
            root.remove(child)
    return ElementTree.tostring(root, encoding="unicode").strip()
