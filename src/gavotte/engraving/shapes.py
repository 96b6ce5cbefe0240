"""Plain shapes: what the engraver drew, one element for each musical thing, keyed by its id.

Coordinates are engraver units (STAFF_SPACE to a staff space), y downwards. Glyphs are kept by code; their
outlines are path operations in the glyph's own units.
"""

from __future__ import annotations

import re
import xml.etree.ElementTree as ET
from dataclasses import dataclass, field

STAFF_SPACE = 180.0

PathOp = tuple[str, tuple[float, ...]]
"""("M", (x, y)), ("L", (x, y)), ("C", (x1, y1, x2, y2, x, y)), ("Q", (x1, y1, x, y)) or ("Z", ())."""


@dataclass(frozen=True, slots=True)
class Box:
    """A rectangle."""

    x: float
    y: float
    width: float
    height: float

    @property
    def right(self) -> float:
        """Right edge."""
        return self.x + self.width

    @property
    def bottom(self) -> float:
        """Lower edge."""
        return self.y + self.height

    @property
    def centre(self) -> tuple[float, float]:
        """Middle point."""
        return self.x + self.width / 2, self.y + self.height / 2

    def united(self, other: Box | None) -> Box:
        """The smallest box around both."""
        if other is None:
            return self
        x, y = min(self.x, other.x), min(self.y, other.y)
        return Box(x, y, max(self.right, other.right) - x, max(self.bottom, other.bottom) - y)


@dataclass(frozen=True, slots=True)
class Glyph:
    """A glyph placed at (x, y), scaled by (kx, ky)."""

    code: str
    x: float
    y: float
    kx: float
    ky: float


@dataclass(frozen=True, slots=True)
class Text:
    """A short text from the engraver, such as a tuplet's or bar's number."""

    x: float
    y: float
    size: float
    text: str
    anchor: str
    italic: bool


@dataclass(slots=True)
class Element:
    """One musical thing (note, rest, beam, tie, barLine, staff …). ``head`` is the notehead's box."""

    id: str
    kind: str
    glyphs: list[Glyph] = field(default_factory=list)
    rects: list[Box] = field(default_factory=list)
    paths: list[list[PathOp]] = field(default_factory=list)
    strokes: list[tuple[list[PathOp], float]] = field(default_factory=list)
    texts: list[Text] = field(default_factory=list)
    box: Box | None = None
    head: Box | None = None

    def grow(self, box: Box) -> None:
        """Widen the element's box."""
        self.box = box.united(self.box)


@dataclass
class Drawing:
    """All elements of a line, by id where they have one."""

    elements: list[Element] = field(default_factory=list)
    glyphs: dict[str, list[PathOp]] = field(default_factory=dict)
    systems: int = 0
    bars_in_first_system: int = 0

    def by_id(self, element_id: str) -> Element | None:
        """The element with this id."""
        return self._index().get(element_id)

    def _index(self) -> dict[str, Element]:
        if not hasattr(self, "_by_id"):
            self._by_id = {element.id: element for element in self.elements if element.id}
        return self._by_id


_SVG = "{http://www.w3.org/2000/svg}"
_NUMBERS = re.compile(r"[A-Za-z]|[-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?")
_TRANSFORM = re.compile(r"(translate|scale)\(([-\d.]+)(?:[ ,]+([-\d.]+))?\)")
# Parts of a note are drawn with it; containers draw nothing of their own.
_PARTS = {
    "notehead",
    "stem",
    "accid",
    "flag",
    "dots",
    "artic",
    "text",
    "rend",
    "keyAccid",
    "ledgerLines",
    "multiRestNum",
    "meterSigGrp",
    "num",
}
_CONTAINERS = {
    "page-margin",
    "mdiv",
    "score",
    "section",
    "pageMilestone",
    "systemMilestone",
    "system",
    "measure",
    "layer",
    "tuplet",
    "pageMilestoneEnd",
    "systemMilestoneEnd",
    "ending",
    "graceGrp",
    "",
}
_LEFT_OUT = {"verse", "mNum"}


def path_operations(d: str) -> list[PathOp]:
    """An SVG path's data as absolute operations. Arcs are not used by the engraver."""
    tokens = _NUMBERS.findall(d)
    operations: list[PathOp] = []
    i, command, previous = 0, "", ""
    x = y = start_x = start_y = control_x = control_y = 0.0

    def number() -> float:
        nonlocal i
        i += 1
        return float(tokens[i - 1])

    while i < len(tokens):
        if tokens[i].isalpha():
            command = tokens[i]
            i += 1
        base_x, base_y = (x, y) if command.islower() else (0.0, 0.0)
        upper = command.upper()
        if upper in "ML":
            x, y = base_x + number(), base_y + number()
            operations.append((upper, (x, y)))
            if upper == "M":
                start_x, start_y = x, y
                command = "l" if command.islower() else "L"
        elif upper == "H":
            x = base_x + number()
            operations.append(("L", (x, y)))
        elif upper == "V":
            y = base_y + number()
            operations.append(("L", (x, y)))
        elif upper in "CS":
            if upper == "C":
                x1, y1 = base_x + number(), base_y + number()
            else:
                x1, y1 = (2 * x - control_x, 2 * y - control_y) if previous in "CS" else (x, y)
            control_x, control_y = base_x + number(), base_y + number()
            x, y = base_x + number(), base_y + number()
            operations.append(("C", (x1, y1, control_x, control_y, x, y)))
        elif upper in "QT":
            if upper == "Q":
                control_x, control_y = base_x + number(), base_y + number()
            else:
                control_x, control_y = (2 * x - control_x, 2 * y - control_y) if previous in "QT" else (x, y)
            x, y = base_x + number(), base_y + number()
            operations.append(("Q", (control_x, control_y, x, y)))
        elif upper == "Z":
            operations.append(("Z", ()))
            x, y = start_x, start_y
        previous = upper
    return operations


def bounds(operations: list[PathOp]) -> Box:
    """The box around a path's points (control points included)."""
    xs = [v for _, values in operations for v in values[0::2]]
    ys = [v for _, values in operations for v in values[1::2]]
    if not xs:
        return Box(0, 0, 0, 0)
    return Box(min(xs), min(ys), max(xs) - min(xs), max(ys) - min(ys))


class ShapeReader:
    """Turns the engraver's SVG into drawings. Glyph outlines are kept from one drawing to the next."""

    def __init__(self) -> None:
        self._outlines: dict[str, list[PathOp]] = {}
        self._boxes: dict[str, Box] = {}

    def read(self, svg: str) -> Drawing:
        """The drawing in one page of SVG."""
        root = ET.fromstring(svg)
        drawing = Drawing(glyphs=self._outlines)
        for definitions in root.iter(f"{_SVG}defs"):
            for symbol in definitions:
                self._keep_glyph(symbol)
        inner = root.find(f"{_SVG}svg")
        if inner is not None:
            self._walk(inner, 0.0, 0.0, None, drawing, False)
        return drawing

    def _keep_glyph(self, symbol: ET.Element) -> None:
        code = (symbol.get("id") or "").split("-")[0]
        if code in self._outlines:
            return
        operations: list[PathOp] = []
        for path in symbol:
            flipped = "scale(1,-1)" in (path.get("transform") or "")
            for name, values in path_operations(path.get("d") or ""):
                if flipped:
                    values = tuple(-v if k % 2 else v for k, v in enumerate(values))
                operations.append((name, values))
        self._outlines[code] = operations
        self._boxes[code] = bounds(operations)

    def _walk(
        self, parent: ET.Element, dx: float, dy: float, current: Element | None, drawing: Drawing, italic: bool
    ) -> None:
        for child in parent:
            tag = child.tag.removeprefix(_SVG)
            if tag == "g":
                self._group(child, dx, dy, current, drawing, italic)
            elif current is None:
                continue
            elif tag == "use":
                self._use(child, parent, dx, dy, current)
            elif tag == "path":
                _path(child, dx, dy, current)
            elif tag in ("polygon", "polyline"):
                _polygon(child, tag, dx, dy, current)
            elif tag == "rect":
                box = Box(
                    float(child.get("x", 0)) + dx,
                    float(child.get("y", 0)) + dy,
                    float(child.get("width", 0)),
                    float(child.get("height", 0)),
                )
                current.rects.append(box)
                current.grow(box)
            elif tag == "ellipse":
                _ellipse(child, dx, dy, current)
            elif tag == "text":
                _text(child, dx, dy, current, italic)

    def _group(
        self, group: ET.Element, dx: float, dy: float, current: Element | None, drawing: Drawing, italic: bool
    ) -> None:
        classes = (group.get("class") or "").split(" ")
        kind = classes[0]
        if kind in _LEFT_OUT or "placeholder" in classes:
            return
        transform = group.get("transform")
        if transform and (match := _TRANSFORM.match(transform)):
            dx += float(match.group(2))
            dy += float(match.group(3) or 0)
        element = current
        if kind == "system":
            drawing.systems += 1
        if kind == "measure" and drawing.systems == 1:
            drawing.bars_in_first_system += 1
        if not (kind in _CONTAINERS or (kind in _PARTS and current is not None)):
            element = Element(group.get("id") or "", kind)
            drawing.elements.append(element)
        self._walk(group, dx, dy, element, drawing, italic or kind in ("mNum", "tupletNum"))

    def _use(self, use: ET.Element, parent: ET.Element, dx: float, dy: float, current: Element) -> None:
        code = (use.get("href") or "#").lstrip("#").split("-")[0]
        x, y, kx, ky = dx, dy, 1.0, 1.0
        for name, a, b in _TRANSFORM.findall(use.get("transform") or ""):
            if name == "translate":
                x, y = x + float(a), y + float(b or 0)
            else:
                kx, ky = float(a), float(b or a)
        current.glyphs.append(Glyph(code, x, y, kx, ky))
        outline = self._boxes.get(code)
        if outline is None:
            return
        box = Box(x + outline.x * kx, y + outline.y * ky, outline.width * kx, outline.height * ky)
        current.grow(box)
        if (parent.get("class") or "").startswith("notehead") or current.kind in ("rest", "mRest"):
            current.head = box


def _path(path: ET.Element, dx: float, dy: float, current: Element) -> None:
    operations = [
        (name, tuple(v + (dy if k % 2 else dx) for k, v in enumerate(values)))
        for name, values in path_operations(path.get("d") or "")
    ]
    width = float(path.get("stroke-width") or 0)
    box = bounds(operations)
    straight = len(operations) == 2 and operations[1][0] == "L"
    if straight and (box.width == 0 or box.height == 0):
        rect = Box(
            box.x - (width / 2 if box.width == 0 else 0),
            box.y - (width / 2 if box.height == 0 else 0),
            box.width or width,
            box.height or width,
        )
        current.rects.append(rect)
        current.grow(rect)
        return
    if straight:
        current.strokes.append((operations, width))
    else:
        current.paths.append(operations)
    current.grow(box)


def _polygon(polygon: ET.Element, tag: str, dx: float, dy: float, current: Element) -> None:
    values = [float(v) for v in re.split(r"[ ,]+", (polygon.get("points") or "").strip())]
    operations: list[PathOp] = [
        ("L" if k else "M", (values[k] + dx, values[k + 1] + dy)) for k in range(0, len(values) - 1, 2)
    ]
    if tag == "polygon":
        current.paths.append([*operations, ("Z", ())])
    else:
        current.strokes.append((operations, float(polygon.get("stroke-width") or 18)))
    current.grow(bounds(operations))


def _ellipse(ellipse: ET.Element, dx: float, dy: float, current: Element) -> None:
    """Augmentation dots come as ellipses: four curves with the usual circle constant."""
    cx, cy = float(ellipse.get("cx", 0)) + dx, float(ellipse.get("cy", 0)) + dy
    rx, ry = float(ellipse.get("rx", 0)), float(ellipse.get("ry", 0))
    k = 0.5523
    current.paths.append(
        [
            ("M", (cx + rx, cy)),
            ("C", (cx + rx, cy + k * ry, cx + k * rx, cy + ry, cx, cy + ry)),
            ("C", (cx - k * rx, cy + ry, cx - rx, cy + k * ry, cx - rx, cy)),
            ("C", (cx - rx, cy - k * ry, cx - k * rx, cy - ry, cx, cy - ry)),
            ("C", (cx + k * rx, cy - ry, cx + rx, cy - k * ry, cx + rx, cy)),
            ("Z", ()),
        ]
    )
    current.grow(Box(cx - rx, cy - ry, 2 * rx, 2 * ry))


def _text(text: ET.Element, dx: float, dy: float, current: Element, italic: bool) -> None:
    for span in text.iter(f"{_SVG}tspan"):
        if span.text and span.text.strip():
            size = float((span.get("font-size") or "405px").removesuffix("px"))
            x, y = float(text.get("x") or 0) + dx, float(text.get("y") or 0) + dy
            current.texts.append(Text(x, y, size, span.text, text.get("text-anchor") or "start", italic))
            current.grow(Box(x - size / 4, y - size, size / 2 * len(span.text), size))
