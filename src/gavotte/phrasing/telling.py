"""What is said of phrases: the lines of a phrase's card, and a sentence on what it does."""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction

from gavotte.giving_way import give_way
from gavotte.labelling.labeller import Labelled
from gavotte.labelling.wording import chord_words, degree_words, goal_words
from gavotte.phrasing.card import Card, Start, set_off_by
from gavotte.phrasing.collections import Chosen, collections_of
from gavotte.phrasing.motifs import Instance, Motif
from gavotte.phrasing.phrases import Phrase
from gavotte.phrasing.relations import Kind, Relation
from gavotte.solo.document import Function, Note
from gavotte.theory.degrees import shown_degree
from gavotte.theory.scale import SCALES, collection_pitch_classes

FUNCTION_NAMES = {
    Function.CHORD: "chord tone",
    Function.EXTENSION: "extension",
    Function.PASSING: "passing note",
    Function.APPROACH: "approach note",
    Function.OUTSIDE: "outside note",
}
_WORTH_NAMING, _MOST_TONES = 4.0, 7
"""How likely a collection must be to be named, and of how many tones at most: eight explain too much."""


@dataclass(frozen=True, slots=True)
class Recall:
    """What a phrase takes up: the motif at ``here``, and its ``relation`` to the one heard before, at ``there``."""

    here: Instance
    there: Instance
    relation: Relation


def counted(number: int, name: str) -> str:
    """A number of things: "1 note", "3 notes"."""
    return f"{number} {name}{'' if number == 1 else 's'}"


def quarters(length: Fraction) -> str:
    """A length: "2½ quarter notes", "an eighth", "0.12 of a quarter note"."""
    if length in _VALUES:
        return _VALUES[length]
    whole, over = divmod(length, 1)
    part = _PARTS.get(over, f"{float(over):.2f}"[1:] if over else "")
    if not whole and over:
        return f"0{part} of a quarter note"
    return f"{int(whole)}{part} quarter note{'' if length == 1 else 's'}"


_VALUES = {Fraction(1, 2): "an eighth", Fraction(1, 4): "a sixteenth", Fraction(3, 4): "a dotted eighth",
           Fraction(1, 3): "a triplet eighth", Fraction(2, 3): "a triplet quarter"}  # fmt: skip
_PARTS = {Fraction(1, 2): "½", Fraction(1, 3): "⅓", Fraction(2, 3): "⅔", Fraction(1, 4): "¼", Fraction(3, 4): "¾"}


def listed(words: Sequence[str]) -> str:
    """Several words: "busier", "busier and higher", "busier, longer and higher"."""
    return " and ".join(filter(None, (", ".join(words[:-1]), *words[-1:])))


def bar_number(found: Labelled, index: int) -> str:
    """The number of a note's bar, "pickup" before bar 1."""
    number = found.frame.grid.at(found.solo.notes[index].onset).number
    return str(number) if number > 0 else "pickup"


def bars_words(found: Labelled, first: int, last: int) -> str:
    """From which bar to which some notes stand: "Bars 5 to 8", "Bar 5", "Pickup to bar 4"."""
    begins, ends = bar_number(found, first), bar_number(found, last)
    if begins == ends:
        return "Pickup" if begins == "pickup" else f"Bar {begins}"
    return f"Pickup to bar {ends}" if begins == "pickup" else f"Bars {begins} to {ends}"


def place_of(found: Labelled, index: int) -> str:
    """Where a note begins: "4, the and of 2"."""
    return f"{bar_number(found, index)}, {found.frame.notes[index].place}"


def bar_words(found: Labelled, index: int) -> str:
    """The bar of a note: "bar 4", "the pickup"."""
    number = bar_number(found, index)
    return "the pickup" if number == "pickup" else f"bar {number}"


def landing_words(found: Labelled, index: int) -> str:
    """What a note is against its chord, or against the coming one where it is early."""
    frame, label = found.frame, found.labels[index]
    note = frame.notes[index]
    following = frame.following_span(note)
    if label.device != "anticipation" or following is None:
        return goal_words(frame, note)
    words = degree_words(label.degree, label.shown_degree)
    return f"{note.note.pitch.shown}, already the {words} of {chord_words(following)}"


def prepared_words(found: Labelled, index: int) -> str:
    """How a note is prepared by what leads to it: "by an enclosure", "by step from above"; "" for what only begins."""
    before = [label for label in found.labels[max(0, index - 4) : index] if label.target == found.solo.notes[index].id]
    framed = found.frame.notes[index]
    if any(label.device == "enclosure" for label in before):
        return "by an enclosure"
    if any(label.device.startswith("double") for label in before):
        return f"by two half steps from {'below' if before[-1].device == 'double-below' else 'above'}"
    if framed.rest_before:
        return ""
    # The way in looks past a pitch that is struck again.
    if index > 0 and found.frame.notes[index - 1].pitch == framed.pitch:
        return "by the same note"
    if framed.move_in is None:
        return ""
    side = "below" if framed.move_in > 0 else "above"
    if abs(framed.move_in) == 1:
        return f"by a half step from {side}"
    return f"by {'step' if abs(framed.move_in) == 2 else 'leap'} from {side}"


def start_words(found: Labelled, cards: Sequence[Card], k: int) -> str:
    """How a phrase begins, and whether that is new: "on the and of 1, the first to begin there"."""
    card = cards[k]
    place = found.frame.notes[card.first].place
    where = place if place.startswith("just after") else f"on {place}"
    words = f"with a pickup, {where}" if card.start is Start.PICKUP else where
    earlier = {found.frame.notes[other.first].place for other in cards[:k]}
    return f"{words}, where none began before" if k > 1 and place not in earlier else words


def tension_words(card: Card) -> str:
    """Where the tension lies: "inside, outside, inside"; one word where it stays so."""
    words = [_inside(value) for value in card.tension]
    told = [word for i, word in enumerate(words) if i == 0 or word != words[i - 1]]
    return ", ".join(told) if len(told) > 1 else f"{told[0]} throughout"


def _inside(tension: float) -> str:
    return "inside" if tension < _COLOURED else "coloured" if tension < _OUTSIDE else "outside"


_COLOURED, _OUTSIDE = 0.14, 0.32


def register_words(card: Card, cards: Sequence[Card]) -> str:
    """Where a phrase lies among those of the solo: "low", "in the middle", "high"."""
    middles = [other.middle for other in cards]
    low, high = min(middles), max(middles)
    if high - low < _A_FOURTH:
        return "in the middle"
    share = (card.middle - low) / (high - low)
    return "low" if share < 1 / 3 else "high" if share > 2 / 3 else "in the middle"


_A_FOURTH = 5


def chosen_from(found: Labelled, phrase: Phrase) -> tuple[Chosen, ...]:
    """The collections worth naming that a stretch is chosen from, the likeliest first.

    Of several names for the same tones the one on the tonic of the key is given, else the likeliest.
    """
    tonic = found.frame.ground.key_at(found.solo.notes[phrase.first].onset).key.tonic
    by_tones: dict[frozenset[int], Chosen] = {}
    for chosen in collections_of(found, phrase.first, phrase.last):
        if len(SCALES[chosen.collection]) > _MOST_TONES or chosen.score < _WORTH_NAMING:
            continue
        tones = collection_pitch_classes(chosen.collection, chosen.tonic.pitch_class)
        if tones not in by_tones or (chosen.tonic == tonic and by_tones[tones].tonic != tonic):
            by_tones[tones] = chosen
    return tuple(by_tones.values())


def chosen_words(found: Labelled, chosen: Chosen) -> str:
    """What a collection covers, leaves out and fails to explain: "12 of 14 notes; not B♭ F; never its 2"."""
    notes = found.solo.notes
    said = [f"{chosen.inside} of {counted(chosen.total, 'note')}"]
    if chosen.outside:
        names = dict.fromkeys(notes[i].pitch.name.shown for i in chosen.outside)
        said.append(f"not {' '.join(names)}")
    if chosen.left_out:
        said.append(f"leaves out {' '.join(_above(step) for step in chosen.left_out)}")
    return "; ".join(said)


def _above(semitones: int) -> str:
    names = ("1", "b2", "2", "b3", "3", "4", "b5", "5", "b6", "6", "b7", "7")
    return shown_degree(names[semitones % 12])


def functions_words(card: Card) -> str:
    """How many notes have each function: "5 chord tones, 1 passing note"."""
    return ", ".join(counted(number, FUNCTION_NAMES[function]) for function, number in card.functions)


def card_lines(found: Labelled, cards: Sequence[Card], k: int, kept: Sequence[int]) -> tuple[tuple[str, str], ...]:
    """The lines of a phrase's card, each a heading and what is said. ``kept`` are the notes on its strong beats."""
    card, notes, frame = cards[k], found.solo.notes, found.frame
    before = cards[k - 1] if k else None
    rest = f", after {quarters(card.rest_before)} of rest" if card.rest_before else ""
    last = frame.notes[card.last]
    lines = [
        ("Begins", f"{bar_words(found, card.first)}, {start_words(found, cards, k)}{rest}"),
        ("Ends", f"{bar_words(found, card.last)}, {last.place}"),
        ("Length", f"{quarters(card.length)}, {card.per_beat:.1f} notes a beat"
                   + (f", {round(100 * card.rests)} % rest" if card.rests >= _SOME_REST else "")),
        ("First note", goal_words(frame, frame.notes[card.first])),
        ("Last note", _landing(found, card.last)),
        ("Highest", goal_words(frame, frame.notes[card.highest])),
        *([("Longest", goal_words(frame, frame.notes[card.longest]))] if _stands_out(found, card) else []),
        ("Range", f"{_named(notes[_lowest(card, found)])} to {_named(notes[card.highest])}, "
                  f"{register_words(card, cards)}"),
        ("Contour", card.contour),
        ("Notes", functions_words(card)),
        ("Tension", tension_words(card)),
    ]  # fmt: skip
    leaning = _leaned_on(found, card)
    if leaning:
        lines.append(("Leans on", leaning))
    saved = _saved(found, card)
    if saved:
        lines.append(("Saved for the end", saved))
    pedal = _pedal(found, card)
    if pedal:
        lines.append(("Keeps coming back to", pedal))
    inside = [i for i in range(card.first, card.last + 1) if not notes[i].grace]
    foreign = sum(_is_foreign(found, i) for i in inside)
    if foreign:
        lines.append(("Foreign to the key", f"{foreign} of {counted(len(inside), 'note')}"))
    if kept:
        degrees = " ".join(found.labels[i].shown_degree for i in kept)
        lines.append(("Strong beats", f"{' '.join(notes[i].pitch.name.shown for i in kept)} ({degrees})"))
    if card.syncopated:
        lines.append(("Syncopated", counted(card.syncopated, "note")))
    apart = set_off_by(card, before)
    if apart:
        lines.append(("Beside the one before", listed(apart)))
    return tuple(lines)


_SOME_REST = 0.05


def _stands_out(found: Labelled, card: Card) -> bool:
    """Whether the longest note is longer than all others of the phrase."""
    notes = [note for note in found.solo.notes[card.first : card.last + 1] if not note.grace]
    longest = found.solo.notes[card.longest].duration
    return sum(note.duration >= longest for note in notes) == 1 < len(notes)


def _leaned_on(found: Labelled, card: Card) -> str:
    """The colours of the chords that are held or stressed: "the 9 of Gm7, the ♯11 of C7"."""
    said: dict[str, None] = {}
    for i in range(card.first, card.last + 1):
        note, label = found.frame.notes[i], found.labels[i]
        if label.function is Function.EXTENSION and (note.strong or note.held):
            said[f"the {label.shown_degree} of {chord_words(found.frame.span_of(note))}"] = None
    colours = list(said)
    more = len(colours) - _MOST_COLOURS
    return listed([*colours[:_MOST_COLOURS], f"{more} more"] if more > 0 else colours)


_MOST_COLOURS = 3


def _saved(found: Labelled, card: Card) -> str:
    """The last note, where a phrase of some length has not played it before in any octave, "" else."""
    notes = [note for note in found.solo.notes[card.first : card.last + 1] if not note.grace]
    last = notes[-1]
    if len(notes) < _LONG_ENOUGH or any(note.pitch.pitch_class == last.pitch.pitch_class for note in notes[:-1]):
        return ""
    return f"{last.pitch.shown}, not played before in this phrase"


def _pedal(found: Labelled, card: Card) -> str:
    """A pitch that is returned to again and again between other notes: "G, 5 times"; "" where there is none."""
    notes = [note for note in found.solo.notes[card.first : card.last + 1] if not note.grace]
    turns = [note for note, before in zip(notes, [None, *notes], strict=False)
             if before is None or note.pitch.midi != before.pitch.midi]  # fmt: skip
    counted_pitches = Counter(note.pitch.midi for note in turns)
    pitch, times = max(counted_pitches.items(), key=lambda item: item[1])
    if times < _OFTEN or times < _MUCH_OF_IT * len(turns):
        return ""
    return f"{next(note for note in turns if note.pitch.midi == pitch).pitch.shown}, {times} times"


_LONG_ENOUGH, _OFTEN, _MUCH_OF_IT = 6, 4, 0.3


def featured_words(found: Labelled, cards: Sequence[Card]) -> str:
    """The colour that is leaned on in most phrases: "leans on the 9 in 5 of 8 phrases"; "" for fewer than three."""
    phrases_of_degree: Counter[str] = Counter()
    for card in cards:
        degrees = {
            found.labels[i].shown_degree
            for i in range(card.first, card.last + 1)
            if found.labels[i].function is Function.EXTENSION
            and (found.frame.notes[i].strong or found.frame.notes[i].held)
        }
        phrases_of_degree.update(degrees)
    degree, number = max(phrases_of_degree.items(), key=lambda item: (item[1], item[0]), default=("", 0))
    return f"leans on the {degree} in {number} of {len(cards)} phrases" if number >= _FEATURED else ""


_FEATURED = 3


def _is_foreign(found: Labelled, index: int) -> bool:
    """Whether a note lies outside the key that is heard under it; in a blues nothing is foreign."""
    note = found.frame.notes[index]
    heard = found.frame.ground.key_at(note.note.onset)
    return not heard.blues and note.pitch % 12 not in heard.key.pitch_classes


def _named(note: Note) -> str:
    """A pitch with its octave: "B♭4"."""
    return f"{note.pitch.shown}{note.pitch.octave}"


def _lowest(card: Card, found: Labelled) -> int:
    inside = range(card.first, card.last + 1)
    return min((i for i in inside if not found.solo.notes[i].grace), key=lambda i: found.solo.notes[i].pitch.midi)


def sentence(found: Labelled, cards: Sequence[Card], k: int, recall: Recall | None) -> str:
    """What a phrase does, in a sentence: how it takes up what was heard, how it goes, and where it lands how."""
    card = cards[k]
    apart = set_off_by(card, cards[k - 1] if k else None)
    contour = card.contour
    head = _recall_words(found, recall, card, cards[k - 1] if k else None) if recall is not None else ""
    if not head and apart:
        head = f"{listed(apart)} than before"
    crossing = _crossing_words(found, card)
    landing = f"lands on {_landing(found, card.last)}"
    if card.first == card.last:
        return f"One note: {landing_words(found, card.last)}."
    parts = [part for part in (head, crossing, contour) if part]
    text = f"{', '.join(parts)}; {landing}."
    return text[0].upper() + text[1:]


def _landing(found: Labelled, index: int) -> str:
    """What a note is, and how it is prepared: "B, the 3rd of G7, by an enclosure"."""
    return ", ".join(filter(None, (landing_words(found, index), prepared_words(found, index))))


def _crossing_words(found: Labelled, card: Card) -> str:
    """Whether a phrase leads over the line of a section."""
    solo = found.solo
    first, last = solo.notes[card.first], solo.notes[card.last]
    for section in solo.sections:
        if first.onset < section.onset < last.end and section.onset > first.onset:
            where = "leads in over the bar line of" if section.onset - first.onset <= 4 else "runs on into"
            return f"{where} {section.label}"
    return ""


def _is_answer(found: Labelled, recall: Recall, card: Card, before: Card) -> bool:
    """Whether a phrase begins as the one before it did and lands elsewhere, both about as long: call and answer."""
    notes = found.solo.notes
    begins_alike = before.first <= recall.there.first <= before.first + (before.last - before.first) // 3
    lands_elsewhere = notes[card.last].pitch.pitch_class != notes[before.last].pitch.pitch_class
    as_long = before.length <= _ANSWER * card.length and card.length <= _ANSWER * before.length
    return begins_alike and lands_elsewhere and as_long and recall.here.last < card.last


_ANSWER = 2
"""How many times as long as the other a call or its answer may be."""


def _recall_words(found: Labelled, recall: Recall, card: Card, before: Card | None) -> str:
    where = bar_words(found, recall.there.first)
    if before is not None and _is_answer(found, recall, card, before):
        words = recall.relation.words
        return f"answers {where}: {'begins the same, ends otherwise' if recall.relation.kind is Kind.SAME else words}"
    match recall.relation.kind:
        case Kind.SAME:
            return f"says again what {where} said"
        case Kind.TURNED:
            return f"turns what {where} said: {recall.relation.words}"
        case _:
            return f"takes up {where}: {recall.relation.words}"


def recalls(
    motifs: Sequence[Motif], relations: Sequence[Sequence[Relation]], phrases: Sequence[Phrase]
) -> tuple[Recall | None, ...]:
    """For each phrase the weightiest motif it begins with that was heard before it, None where it begins with none.

    ``relations`` hold for each motif how each instance after the first is related to it.
    """
    # By where they begin, of those that begin together the weightiest first.
    known = sorted(
        (instance.first, rank, k) for rank, motif in enumerate(motifs) for k, instance in enumerate(motif.instances[1:])
    )
    firsts = [first for first, _, _ in known]
    found: list[Recall | None] = []
    for phrase in phrases:
        give_way()
        reach = phrase.first + max(1, (phrase.last - phrase.first) // 3)
        here = known[bisect_left(firsts, phrase.first) : bisect_right(firsts, reach)]
        heard = [(rank, first, k) for first, rank, k in here if motifs[rank].instances[0].last < phrase.first]
        if not heard:
            found.append(None)
            continue
        rank, _, k = min(heard)
        motif = motifs[rank]
        found.append(Recall(motif.instances[k + 1], motif.instances[0], relations[rank][k]))
    return tuple(found)
