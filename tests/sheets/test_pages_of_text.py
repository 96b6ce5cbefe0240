"""Sheets as Markdown and as a page for a browser."""

from __future__ import annotations

import re
from collections import Counter
from xml.etree import ElementTree

import html5lib
from tests.sheets.test_composing import composed
from tests.sheets.test_sheet import SVG, full_sheet

from gavotte.sheets.elements import Drawing, Music
from gavotte.sheets.markdown import described, markdown_of
from gavotte.sheets.pieces import Words
from gavotte.sheets.sheet import TeachingSheet
from gavotte.sheets.slim_svg import slimmed
from gavotte.sheets.web_page import for_a_page, web_page

HATCHED = (
    '<svg xmlns="http://www.w3.org/2000/svg" width="10mm" viewBox="0 0 9 9" version="1.2"><title>T</title><defs>'
    '<pattern id="p" width="8" height="8" patternUnits="userSpaceOnUse"><path d="M0 0" /></pattern></defs>'
    '<g fill="none" font-family="X" stroke="black"></g>'
    '<g fill="none" stroke-opacity="1" transform="matrix(0.08,0,0,0.08,6.25,6.25)"><path d="M1.25,2.75 L3.126,4" /></g>'
    '<g fill="none" stroke-opacity="1" transform="matrix(0.08,0,0,0.08,6.25,6.25)"><path fill="url(#p)" d="M5 6" /></g>'
    "</svg>"
)


def drawings() -> dict[int, dict[str, tuple[str, ...]]]:
    """A stand-in for every music and picture."""
    found = {}
    for number, element in enumerate(composed(full_sheet()).elements):
        if isinstance(element, Music):
            found[number] = {"wide": (HATCHED, HATCHED), "narrow": (HATCHED,)}
        elif isinstance(element, Drawing):
            found[number] = {"any": (SVG,)}
    return found


def page() -> str:
    return web_page(composed(full_sheet()), drawings())


def test_the_page_is_valid_html() -> None:
    parser = html5lib.HTMLParser(strict=True)
    tree = parser.parse(page())
    assert parser.errors == []
    assert tree.find(".//{http://www.w3.org/1999/xhtml}title").text == "All"


def test_nothing_is_fetched_and_no_script_runs() -> None:
    text = page()
    assert "default-src 'none'" in text
    addresses = set(re.findall(r"[a-z]+://[^\"'\s<>)]+", text))
    assert addresses == {"http://www.w3.org/2000/svg"}
    assert not re.search(r"<script|<link|<iframe|@import|\ssrc=|<img", text)
    assert all(target.startswith("#") for target in re.findall(r'href="([^"]*)"', text))


def test_no_id_stands_twice_and_links_lead_somewhere() -> None:
    text = page()
    ids = re.findall(r'\bid="([^"]*)"', text)
    assert [name for name, count in Counter(ids).items() if count > 1] == []
    wanted = set(re.findall(r'href="#([^"]*)"', text)) | set(re.findall(r"url\(#([^)]*)\)", text))
    assert wanted <= set(ids)


def test_music_is_described_for_whoever_does_not_see_it() -> None:
    music = next(element for element in composed(full_sheet()).elements if isinstance(element, Music))
    assert described(music) == "2 bars of music, 13 notes over Dm7, G7"
    assert f'aria-label="{described(music)}"' in page()


def test_texts_are_escaped_and_bold_words_bold() -> None:
    sheet = TeachingSheet("A < B & C", "", 'By "me"', pieces=(Words(id="w", words="**Now** <b>this</b> * [x]"),))
    text = web_page(composed(sheet), {})
    assert "<h1>A &lt; B &amp; C</h1>" in text
    assert "<p><strong>Now</strong> &lt;b&gt;this&lt;/b&gt; * [x]</p>" in text
    written = markdown_of(composed(sheet), {})
    assert "# A \\< B & C" in written
    assert "**Now** \\<b\\>this\\</b\\> \\* \\[x\\]" in written


def test_markdown_names_the_files_of_music_and_pictures() -> None:
    found = composed(full_sheet())
    names = {number: (f"s-{number}.svg",) for number, e in enumerate(found.elements) if isinstance(e, Music | Drawing)}
    text = markdown_of(found, names)
    assert all(f"(<{name}>)" in text for (name,) in names.values())
    assert text.startswith("# All\n\nof it · Concert pitch\n")
    assert text.rstrip().endswith("Mine")
    assert "1. Words" in text


# -- drawings made small ---------------------------------------------------------------------------------------


def test_a_drawing_is_made_small_without_losing_a_line() -> None:
    root = slimmed(ElementTree.fromstring(HATCHED))
    groups = [child for child in root if child.tag.endswith("}g")]
    assert len(groups) == 1
    assert [path.get("d") for path in groups[0]] == ["M1 3L3 4", "M5 6"]
    assert "font-family" not in groups[0].attrib
    assert "stroke-opacity" not in groups[0].attrib


def test_ids_get_a_prefix_where_several_drawings_stand_on_one_page() -> None:
    text = for_a_page(HATCHED, "A hatched line", "d3-")
    assert 'id="d3-p"' in text
    assert "url(#d3-p)" in text
    assert "<title>" not in text
    assert 'viewBox="0 0 9 9"' in text
    assert "width=" not in text.split(">")[0]
