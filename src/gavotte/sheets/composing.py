"""From a sheet to what it comes to for a version's readers: every piece as headings, words, music and drawings.

It labels whole solos and lays licks out in keys, so it takes a while; ``Composer`` keeps what it worked out, and makes
again only what another value stands for.
"""

from __future__ import annotations

from collections import deque
from collections.abc import Callable, Generator, Iterator, Sequence
from dataclasses import dataclass, replace

from gavotte.giving_way import give_way
from gavotte.labelling.labeller import Labelled, labelled
from gavotte.notation.written import Notation
from gavotte.phrasing.division import Division, division_of
from gavotte.phrasing.skeleton import reduced, strong_notes
from gavotte.sheets.elements import (
    ANSWERS,
    Composed,
    Drawing,
    Element,
    Heading,
    Music,
    PageEnd,
    Paragraph,
    Part,
    Style,
)
from gavotte.sheets.names import named_for
from gavotte.sheets.pieces import (
    Bars,
    Keys,
    Licks,
    NewPage,
    Picture,
    Piece,
    Question,
    Returns,
    Scales,
    Shown,
    Skeleton,
    Words,
)
from gavotte.sheets.scale_line import scale_line
from gavotte.sheets.sheet import SheetSource, TeachingSheet, Version, source_of
from gavotte.sheets.versions import for_version, interval_of, plain_interval
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import Function, Solo
from gavotte.solo.label import Label
from gavotte.solo.moving import excerpt
from gavotte.theory.interval import Interval
from gavotte.vocabulary.lick import Lick
from gavotte.workshop.keys import in_one_of_all_keys
from gavotte.workshop.laid import laid_sheet
from gavotte.workshop.sheet import key_block, labels_in
from gavotte.workshop.stacked import Block, stacked

_SCALES_SHOWN = Shown(bars=2)


_NOTATIONS = 8


@dataclass(frozen=True, eq=False)
class _Read:
    """A source as a version's readers read it."""

    found: Labelled
    interval: Interval


@dataclass(frozen=True)
class _Sheet:
    """A sheet for a version. ``interval`` is how far the names of texts are moved that belong to no source."""

    sheet: TeachingSheet
    version: Version | None
    interval: Interval

    def source_of(self, piece: Piece) -> SheetSource | None:
        """What a piece is taken from, None for nothing."""
        name = source_of(piece)
        return self.sheet.source(name) if name else None


def _common_interval(sheet: TeachingSheet, version: Version | None) -> Interval:
    """How far all of a sheet's music is moved; the readers' own interval where pieces differ, or there is no music."""
    intervals = {interval_of(source.solo, version) for source in sheet.sources}
    return intervals.pop() if len(intervals) == 1 else plain_interval(version)


class Composer:
    """Composes sheets, and remembers: of sources their labels and phrases, of pieces their elements.

    One that was given up may still be at work in its thread when the next begins: what is remembered is gone through as
    it stands.
    """

    def __init__(self) -> None:
        self._reads: dict[tuple[str, Version | None], tuple[SheetSource, _Read]] = {}
        self._divisions: dict[int, tuple[Labelled, Division]] = {}
        self._notations: deque[Notation] = deque(maxlen=_NOTATIONS)
        self._parts: dict[tuple[str, Version | None], tuple[Piece, SheetSource | None, Interval, Part]] = {}

    def composed(self, sheet: TeachingSheet, version: Version | None) -> Generator[float, None, Composed]:
        """A sheet for a version (for None as it sounds, for each solo's instrument), yielding the share that is done.

        What can't be set is said in its place.
        """
        parts = []
        questions: list[tuple[Question, Part]] = []
        here = _Sheet(sheet, version, _common_interval(sheet, version))
        for number, piece in enumerate(sheet.pieces):
            parts.append(self._part(here, piece, len(questions) + 1))
            if isinstance(piece, Question):
                questions.append((piece, self._answer(here, piece, len(questions) + 1)))
            yield (number + 1) / (len(sheet.pieces) + 1)
        answered = [part for question, part in questions if question.answer.strip() or question.source]
        if answered:
            elements = tuple(element for part in answered for element in part.elements)
            parts.append(Part(ANSWERS, (PageEnd(), Heading("Answers"), *elements)))
        self._forget(sheet)
        yield 1.0
        texts = (named_for(text, here.interval) for text in (sheet.title, sheet.subtitle, sheet.header))
        title, subtitle, header = texts
        return Composed(title, subtitle, sheet.rights, header, version, sheet.contents, tuple(parts))

    def _read(self, source: SheetSource, version: Version | None) -> _Read:
        known = self._reads.get((source.id, version))
        if known is None or known[0] is not source:
            found = labelled(for_version(source.solo, version))
            known = source, _Read(found, interval_of(source.solo, version))
            self._reads[source.id, version] = known
        return known[1]

    def _division(self, found: Labelled) -> Division:
        known = self._divisions.get(id(found))
        if known is None or known[0] is not found:
            known = self._divisions[id(found)] = found, division_of(found)
        return known[1]

    def _notation(self, solo: Solo) -> Notation:
        """How a source is written; pieces of one source share it."""
        known = next((notation for notation in tuple(self._notations) if notation.solo is solo), None)
        if known is None:
            known = Notation(solo)
            self._notations.append(known)
        return known

    def _forget(self, sheet: TeachingSheet) -> None:
        """Let go of what belongs to nothing on the sheet any more."""
        pieces, sources = {piece.id for piece in sheet.pieces}, {source.id for source in sheet.sources}
        self._parts = {key: part for key, part in tuple(self._parts.items()) if key[0].partition("/")[0] in pieces}
        self._reads = {key: read for key, read in tuple(self._reads.items()) if key[0] in sources}
        there = {id(read.found) for _, read in tuple(self._reads.values())}
        self._divisions = {key: known for key, known in tuple(self._divisions.items()) if key in there}

    # -- pieces -------------------------------------------------------------------------------------

    def _part(self, sheet: _Sheet, piece: Piece, number: int) -> Part:
        """What a piece comes to; ``number`` is that of the question it is, or of the next one."""
        name = f"{piece.id}/{number}" if isinstance(piece, Question) else piece.id
        return self._remembered(sheet, piece, name, lambda: self._elements(sheet, piece, number))

    def _answer(self, sheet: _Sheet, piece: Question, number: int) -> Part:
        """What a question's answer comes to."""
        name = f"{piece.id}/answer {number}"
        return self._remembered(sheet, piece, name, lambda: self._answer_elements(sheet, piece, number))

    def _remembered(self, sheet: _Sheet, piece: Piece, name: str, make: Callable[[], Iterator[Element]]) -> Part:
        """What was made of a piece, as long as neither it nor what it stands on is another value."""
        source, key = sheet.source_of(piece), (name, sheet.version)
        known = self._parts.get(key)
        # A piece, and a source, is the same value until it is edited.
        if known is not None and known[0] is piece and known[1] is source and known[2] == sheet.interval:
            return known[3]
        give_way()
        part = Part(piece.id, tuple(make()))
        self._parts[key] = piece, source, sheet.interval, part
        return part

    def _interval(self, sheet: _Sheet, piece: Piece) -> Interval:
        """How far the names in a piece's texts are moved."""
        source = sheet.source_of(piece)
        return sheet.interval if source is None else self._read(source, sheet.version).interval

    def _elements(self, sheet: _Sheet, piece: Piece, number: int) -> Iterator[Element]:
        interval, source = self._interval(sheet, piece), sheet.source_of(piece)
        if isinstance(piece, NewPage):
            yield PageEnd()
            return
        heading = named_for(piece.heading, interval).strip()
        if isinstance(piece, Question):
            heading = f"Question {number}: {heading}" if heading else f"Question {number}"
        if heading:
            yield Heading(heading)
        if isinstance(piece, Question):
            style = Style.QUESTION if source is not None else Style.BODY
            yield from _paragraphs(piece.words, interval, style)
        yield from _or_why_not(self._body(piece, source, sheet.version))
        if not isinstance(piece, Words | Question):
            yield from _paragraphs(piece.words, interval, Style.CAPTION)
        elif isinstance(piece, Words):
            yield from _paragraphs(piece.words, interval)

    def _body(self, piece: Piece, source: SheetSource | None, version: Version | None) -> Iterator[Element]:
        """The music or drawing of a piece. Raises ValueError where it can't be set."""
        match piece:
            case Bars() if source is not None:
                yield from self._bars(piece.first, piece.last, piece.shown, source, version)
            case Question() if source is not None:
                shown = _plain(piece.shown)
                yield from self._bars(piece.first, piece.last, shown, source, version, blank=True)
            case Returns() if source is not None:
                yield from self._returns(piece, source, version)
            case Licks():
                yield _licks(piece, version)
            case Keys():
                yield from _keys(piece, version)
            case Scales() if source is not None:
                yield self._scales(piece, source, version)
            case Picture():
                yield Drawing(piece.svg, piece.words or piece.heading)

    def _answer_elements(self, sheet: _Sheet, piece: Question, number: int) -> Iterator[Element]:
        interval, source = self._interval(sheet, piece), sheet.source_of(piece)
        yield Heading(f"Question {number}", 2)
        if source is not None:
            yield from _or_why_not(self._bars(piece.first, piece.last, piece.shown, source, sheet.version))
        yield from _paragraphs(piece.answer, interval)

    def _bars(
        self, first: int, last: int, shown: Shown, source: SheetSource, version: Version | None, blank: bool = False
    ) -> Iterator[Element]:
        found = self._read(source, version).found
        low, high = bar_indexes(found.solo, first, last)
        music = _with_or_without_fingering(found.solo, shown)
        labels = {label.note: label for label in found.labels}
        wants_skeleton = shown.skeleton is not Skeleton.NONE
        division = self._division(found) if (shown.phrases or wants_skeleton) and not blank else None
        skeleton = None
        if wants_skeleton and division is not None:
            bare = labelled(reduced(found.solo, division.phrases, strong_notes(found)))
            skeleton = Notation(bare.solo), {label.note: label for label in bare.labels}
        grid = BarGrid(found.solo)
        numbers: dict[str, int] = {}
        reasons: tuple[str, ...] = ()
        if shown.reasons and not blank:
            here = [n.id for n in found.solo.notes if low <= grid.index_at(n.onset) < high]
            numbers, reasons = _reasons([labels[note] for note in here])
        yield Music(
            self._notation(music),
            labels,
            low,
            high,
            shown,
            blank,
            True,
            numbers,
            division if shown.phrases else None,
            skeleton,
        )
        yield from (Paragraph(f"{number}  {words}", Style.REASON) for number, words in enumerate(reasons, 1))

    def _returns(self, piece: Returns, source: SheetSource, version: Version | None) -> Iterator[Element]:
        found = self._read(source, version).found
        labels = {label.note: label for label in found.labels}
        grid = BarGrid(found.solo)
        blocks: list[Block] = []
        for first, last, words in piece.places:
            if first not in found.solo.places or last not in found.solo.places:
                continue
            part = replace(excerpt(found.solo, first, last), phrases=(), decisions=())
            number = grid.at(found.solo.note(first).onset).number
            where = f"Bar {number}" if number else "Pickup"
            own = tuple(labels[note.id] for note in part.notes if note.id in labels)
            blocks.append(Block(part, own, f"{where}: {words}" if words else where))
        if not blocks:
            raise ValueError("What came back here is no longer in the solo.")
        yield _stacked_music(blocks, piece.shown)

    def _scales(self, piece: Scales, source: SheetSource, version: Version | None) -> Music:
        found = self._read(source, version).found
        low, high = bar_indexes(found.solo, piece.first, piece.last)
        bars = BarGrid(found.solo).bars
        solo, labels = scale_line(found, bars[low].onset, bars[high - 1].end)
        return _whole_music(solo, labels, _SCALES_SHOWN)


def bar_indexes(solo: Solo, first: int, last: int) -> tuple[int, int]:
    """From which index up to which the bars of some numbers go, as far as there are any. Raises ValueError."""
    bars = BarGrid(solo).bars
    there = [index for index, bar in enumerate(bars) if first <= bar.number <= last]
    if not there:
        raise ValueError(f"There are no bars {first} to {last}: the solo ends with bar {bars[-1].number}.")
    return there[0], there[-1] + 1


def _or_why_not(elements: Iterator[Element]) -> Iterator[Element]:
    """Elements, or where they can't be made why not."""
    try:
        yield from elements
    except ValueError as error:
        yield Paragraph(str(error), Style.CAPTION)


def _paragraphs(words: str, interval: Interval, style: Style = Style.BODY) -> Iterator[Paragraph]:
    for block in words.split("\n\n"):
        text = " ".join(block.split())
        if text:
            yield Paragraph(named_for(text, interval), style)


def _plain(shown: Shown) -> Shown:
    """What is shown of music whose lane is a question: nothing that gives the answer away."""
    return Shown(chords=shown.chords, tablature=shown.tablature, fingering=shown.fingering, bars=shown.bars)


def _reasons(labels: Sequence[Label]) -> tuple[dict[str, int], tuple[str, ...]]:
    """Which notes have which number, and the reasons in their order; a reason is told once."""
    numbers: dict[str, int] = {}
    known: dict[str, int] = {}
    for label in labels:
        if label.reason and label.function is not Function.CHORD:
            numbers[label.note] = known.setdefault(label.reason, len(known) + 1)
    return numbers, tuple(known)


def _with_or_without_fingering(solo: Solo, shown: Shown) -> Solo:
    """The solo with what is shown of fingers, strings and picks."""
    if shown.fingering or not any(note.finger or note.pick or note.string for note in solo.notes):
        return solo
    bare = (
        replace(note, finger="", pick=None, string=note.string if shown.tablature else 0) if note.finger or note.pick
        or note.string else note
        for note in solo.notes
    )  # fmt: skip
    return replace(solo, notes=tuple(bare))


def _stacked_music(blocks: Sequence[Block], shown: Shown) -> Music:
    return _whole_music(*stacked(blocks, ""), shown)


def _whole_music(solo: Solo, labels: Sequence[Label], shown: Shown) -> Music:
    by_note = {label.note: label for label in labels}
    music = _with_or_without_fingering(solo, shown)
    return Music(Notation(music), by_note, 0, len(BarGrid(solo).bars), shown, numbered=False)


def _for_readers(lick: Lick, version: Version | None) -> Lick:
    """A lick in a version, its labels named there."""
    music = for_version(lick.solo, version)
    return lick if music is lick.solo else replace(lick, solo=music, labels=labels_in(lick, music))


def _licks(piece: Licks, version: Version | None) -> Music:
    """Licks under one another."""
    licks = [_titled(lick) for lick in piece.licks]
    licks = [_for_readers(lick, version) for lick in licks]
    if not licks:
        raise ValueError("There are no licks here.")
    if piece.in_one_key:
        tonic = licks[0].solo.keys[0].key.tonic.pitch_class
        return _whole_music(*laid_sheet(licks, tonic, piece.align), piece.shown)
    return _stacked_music([Block(lick.solo, lick.labels, lick.name) for lick in licks], piece.shown)


def _titled(lick: Lick) -> Lick:
    """A lick whose name says whose it is."""
    player = lick.source.player
    return lick if not player or player in lick.name else replace(lick, name=f"{lick.name}: {player}")


def _keys(piece: Keys, version: Version | None) -> Iterator[Element]:
    """A lick in keys, under one another or on pages of their own."""
    lick = _for_readers(piece.lick, version)
    blocks = []
    for number in range(max(1, min(12, piece.count))):
        give_way()
        blocks.append(key_block(lick, in_one_of_all_keys(lick.solo, number, piece.order, piece.seed)))
    if not piece.key_a_page:
        yield _stacked_music(blocks, piece.shown)
        return
    for number, block in enumerate(blocks):
        if number:
            yield PageEnd()
        yield Heading(block.heading, 2)
        yield _stacked_music([replace(block, heading="")], piece.shown)
