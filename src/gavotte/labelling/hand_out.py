"""The analysis as a text to hand out: what each bar does, in plain sentences, which its user may write anew."""

from __future__ import annotations

import itertools
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction

from gavotte.giving_way import give_way
from gavotte.harmony.progressions import summary
from gavotte.labelling.figures import figure_kind
from gavotte.labelling.figures.kind import Told
from gavotte.labelling.figures.pentatonic_run import shape_words
from gavotte.labelling.framed_note import FramedNote
from gavotte.labelling.labeller import Labelled
from gavotte.labelling.readings import reading_name
from gavotte.labelling.wording import chord_words, goal_words, names_of, symbol_words
from gavotte.solo.document import Function, ReadingKind, Remark, Solo
from gavotte.solo.label import Label
from gavotte.solo.stretches import read_stretches
from gavotte.theory.chord_symbol import shown_chord


@dataclass(frozen=True, slots=True)
class BarText:
    """What is said of one bar. ``written`` is True where the user's own words stand in."""

    onset: Fraction
    number: int
    chords: str
    words: str
    written: bool = False


def bar_texts(found: Labelled) -> tuple[BarText, ...]:
    """A text for each bar in which a note begins, in order."""
    solo, grid = found.solo, found.frame.grid
    by_bar: dict[int, list[int]] = {}
    for note in found.frame.notes:
        by_bar.setdefault(grid.index_at(note.note.onset), []).append(note.index)
    remarks = {remark.onset: remark.words for remark in solo.remarks}
    places_of = {note.note.id: note.index for note in found.frame.notes}
    chords = _chords_by_bar(found)
    readings = _readings_by_bar(found)
    texts = []
    for index, places in sorted(by_bar.items()):
        give_way()
        bar = grid.bars[index]
        own = remarks.get(bar.onset)
        told = [*readings.get(index, ()), *_sentences(found, places_of, places)]
        words = own if own is not None else " ".join(told)
        texts.append(BarText(bar.onset, bar.number, "  ".join(chords[index]), words, own is not None))
    return tuple(texts)


def with_bar_text(solo: Solo, onset: Fraction, words: str | None) -> Solo:
    """The solo with its user's own words for the bar at ``onset``; with None the program's stand again."""
    kept = [remark for remark in solo.remarks if remark.onset != onset]
    if words is not None:
        kept.append(Remark(onset, words))
    return replace(solo, remarks=tuple(sorted(kept, key=lambda remark: remark.onset)))


def markdown(found: Labelled, before_the_bars: Sequence[str] = ()) -> str:
    """The whole analysis as Markdown: title, keys, form by function, readings, and every bar.

    ``before_the_bars`` are more lines, of what is told of the whole.
    """
    solo = found.solo
    lines = [f"# {solo.title}", ""]
    about = [part for part in (solo.player, solo.instrument.name, solo.style) if part]
    lines += [" · ".join(about), ""]
    ground = found.frame.ground
    keys = ground.keys
    names = [key.key.shown + (", blues" if key.blues else "") for key in keys]
    lines.append(f"**Key:** {names[0]}" if len(keys) == 1 else "**Keys:** " + "; ".join(_key_lines(found)))
    if solo.chords:
        lines += ["", f"**Changes:** {summary(ground)}."]
    lines += ["", f"**School:** {found.frame.school.name}."]
    for reading, covered in read_stretches(solo):
        if reading.kind is not ReadingKind.CHANGES:
            first, last = (found.frame.grid.at(solo.notes[i].onset).number for i in (covered.start, covered.stop - 1))
            where = f"bar {first}" if first == last else f"bars {first} to {last}"
            lines += ["", f"**Reading:** {where} are heard in {reading_name(reading)}."]
    lines += ["", *before_the_bars] if before_the_bars else []
    for text in bar_texts(found):
        lines += ["", f"## {heading_of(text)}", "", text.words]
    return "\n".join(lines).rstrip() + "\n"


def heading_of(text: BarText) -> str:
    """What stands over a bar's text: its number and chords."""
    name = f"Bar {text.number}" if text.number else "Pickup"
    return f"{name} · {text.chords}" if text.chords else name


def _key_lines(found: Labelled) -> Iterator[str]:
    for key in found.frame.ground.keys:
        yield f"{key.key.shown} from bar {max(1, found.frame.grid.at(max(key.onset, Fraction(0))).number)}"


def _chords_by_bar(found: Labelled) -> list[list[str]]:
    """For each bar the chords that sound in it with their numerals: "Dm7 (ii)", "G7 (V)"."""
    grid = found.frame.grid
    names: list[list[str]] = [[] for _ in grid.bars]
    for entry in found.frame.ground.numbered:
        change = entry.change
        name = f"{shown_chord(change.chord)} ({entry.numeral})"
        for index in range(grid.index_at(change.onset), len(grid.bars)):
            if grid.bars[index].onset >= change.end:
                break
            names[index].append(name)
    return names


def _readings_by_bar(found: Labelled) -> dict[int, list[str]]:
    """For the bars in which a reading begins, what it says: "From here to bar 5 the line is heard in B♭ blues." """
    solo, grid = found.solo, found.frame.grid
    told: dict[int, list[str]] = {}
    for reading, covered in read_stretches(solo):
        if reading.kind is ReadingKind.CHANGES:
            continue
        first, last = (grid.index_at(solo.notes[i].onset) for i in (covered.start, covered.stop - 1))
        where = "Here" if first == last else f"From here to bar {grid.bars[last].number}"
        told.setdefault(first, []).append(f"{where} the line is heard in {reading_name(reading)}.")
    return told


# -- sentences ------------------------------------------------------------------------------------------


def _sentences(found: Labelled, places_of: Mapping[str, int], places: Sequence[int]) -> Iterator[str]:
    """What the notes of a bar do, one sentence for each thing they do in a row."""
    for key, run in itertools.groupby(places, key=lambda i: _together(found, i)):
        indexes = list(run)
        notes = [found.frame.notes[i] for i in indexes]
        labels = [found.labels[i] for i in indexes]
        yield _capital(_sentence(found, places_of, key[0], notes, labels)) + "."


def _together(found: Labelled, i: int) -> tuple[str, object]:
    """What a note is told together with: its figure, the chord it belongs to, or where it leads."""
    label, note = found.labels[i], found.frame.notes[i]
    if label.group is not None:
        return "figure", label.group
    if label.function is Function.CHORD and label.device == "plain":
        return "tones", note.span
    if label.function is Function.PASSING and label.device == "passing" and label.target is not None:
        return "passing", label.target
    return "alone", i


def _sentence(
    found: Labelled, places_of: Mapping[str, int], kind: str, notes: Sequence[FramedNote], labels: Sequence[Label]
) -> str:
    match kind:
        case "tones":
            return _tones(found, notes, labels)
        case "passing":
            way = "pass" if len(notes) > 1 else "passes"
            return f"{names_of(notes)} {way} by step to {_goal(found, places_of, labels[0])}"
        case "figure":
            return _figure(found, places_of, notes, labels)
    return labels[0].reason.rstrip(".")


def _tones(found: Labelled, notes: Sequence[FramedNote], labels: Sequence[Label]) -> str:
    chord = chord_words(found.frame.span_of(notes[0]))
    if len(notes) == 1:
        return labels[0].reason.rstrip(".")
    degrees = " ".join(label.shown_degree for label in labels)
    does = "spell" if found.frame.span_of(notes[0]).written else "rest in"
    return f"{names_of(notes)} {does} {chord} ({degrees})"


def _figure(found: Labelled, places_of: Mapping[str, int], notes: Sequence[FramedNote], labels: Sequence[Label]) -> str:
    added = [
        (note, label)
        for note, label in zip(notes, labels, strict=True)
        if not (label.function is Function.CHORD and label.device == "plain")
    ]
    if not added:
        return f"{names_of(notes)} belong to the figure that follows"
    if added[0][1].function is Function.APPROACH and added[0][1].target is None:
        # Decided by hand, where nothing follows.
        return " ".join(label.reason for label in labels).rstrip(".")
    kind = figure_kind(added[0][1].figure)
    if kind is None:
        return " ".join(label.reason for label in labels).rstrip(".")
    return kind.phrase(
        Told(
            names_of(notes),
            len(notes),
            _goal(found, places_of, added[0][1]) if added[0][1].target else "what follows",
            " and then ".join(_spelled(notes, labels)) or "another chord",
            " and ".join(dict.fromkeys(chord_words(found.frame.span_of(note)) for note in notes)),
            " ".join(label.shown_degree for label in labels),
            added[0][1].device,
        )
    )


def _spelled(notes: Sequence[FramedNote], labels: Sequence[Label]) -> Iterator[str]:
    """What the notes spell, one thing after another."""
    for implied, group in itertools.groupby(zip(notes, labels, strict=True), key=lambda pair: pair[1].implied):
        if implied:
            yield shape_words([note for note, _ in group], implied) or symbol_words(implied)


def _goal(found: Labelled, places_of: Mapping[str, int], label: Label) -> str:
    return goal_words(found.frame, found.frame.notes[places_of[label.target or ""]])


def _capital(text: str) -> str:
    return text[:1].upper() + text[1:]
