"""What is said about an item of the queue."""

from __future__ import annotations

from dataclasses import dataclass

from gavotte.desktop.desks.label.core_words import school_name
from gavotte.desktop.translation import QT_TRANSLATE_NOOP, said, translate
from gavotte.desktop.words import counted, device_words, function_words, key_words
from gavotte.labelling.labeller import Labelled
from gavotte.labelling.learning import Offer
from gavotte.labelling.questions import Asked, Question
from gavotte.labelling.slips import Remedy, Slip
from gavotte.solo.document import KeyRegion


@dataclass(frozen=True)
class Words:
    """``what`` it is, ``where``, in ``words`` and in ``short``, and what the two answers are called."""

    what: str
    where: str
    words: str
    short: str
    take: str
    leave: str


CHOICE_WORDS = {
    "sixth_is_tone": QT_TRANSLATE_NOOP("Gavotte", "6 and 13 count as chord tones"),
    "ninth_is_tone": QT_TRANSLATE_NOOP("Gavotte", "9 counts as a chord tone"),
    "accents_are_colours": QT_TRANSLATE_NOOP("Gavotte", "Accented notes are colours"),
    "leaps_are_colours": QT_TRANSLATE_NOOP("Gavotte", "Notes leapt to are colours"),
    "tones_enclose": QT_TRANSLATE_NOOP("Gavotte", "Chord tones may enclose"),
    "names_structures": QT_TRANSLATE_NOOP("Gavotte", "Chords over the chord are named"),
    "flags_clashes": QT_TRANSLATE_NOOP("Gavotte", "What rubs is called a clash"),
}
"""Each choice of a school as a statement."""

CHOICE_HINTS = {
    "sixth_is_tone": QT_TRANSLATE_NOOP("Gavotte", "Over major and dominant chords a natural 6 or 13 is a chord tone"),
    "ninth_is_tone": QT_TRANSLATE_NOOP("Gavotte", "Where the chord welcomes it, a natural 9 is a chord tone"),
    "accents_are_colours": QT_TRANSLATE_NOOP(
        "Gavotte", "A welcome tone on a strong beat is an extension, even if it resolves at once; else it is passing"
    ),
    "leaps_are_colours": QT_TRANSLATE_NOOP(
        "Gavotte", "A welcome tone that is leapt to is an extension, even if it resolves by step; else it is passing"
    ),
    "tones_enclose": QT_TRANSLATE_NOOP("Gavotte", "A chord tone and a note on the other side can enclose their target"),
    "names_structures": QT_TRANSLATE_NOOP("Gavotte", "A triad or seventh chord over the chord is named as one"),
    "flags_clashes": QT_TRANSLATE_NOOP("Gavotte", "Tones the chord does not welcome are called clashes, not colours"),
}
"""What each of them means."""


def words_of(item: Question, found: Labelled) -> Words:
    """The words for a question of the queue."""
    places = found.solo.places
    grid, notes = found.frame.grid, found.solo.notes
    place = grid.place(notes[places[item.first]].onset) if item.first else ""
    where = place[:1].upper() + place[1:]
    if item.slip is not None:
        take = {
            Remedy.CHORD: translate("Gavotte", "Move the chord"),
            Remedy.WRITTEN: translate("Gavotte", "Read it so"),
        }.get(item.slip.change)
        name = item.slip.pitch.shown if item.slip.pitch is not None else ""
        take = take or translate("Gavotte", "Make it {pitch}").format(pitch=name)
        return Words(
            translate("Gavotte", "Worth another listen"),
            where,
            f"{item.slip.words} {_likelier(item.slip)}",
            item.slip.words,
            take,
            translate("Gavotte", "It is right"),
        )
    if item.proposal is not None:
        last = grid.place(notes[places[item.last]].onset)
        return Words(
            translate("Gavotte", "Another reading"),
            translate("Gavotte", "{first} to {last}").format(first=where, last=last),
            item.proposal.words,
            translate("Gavotte", "Could be read by {name}").format(name=item.proposal.name),
            translate("Gavotte", "Read it so"),
            translate("Gavotte", "By the changes"),
        )
    if item.offer is not None:
        return _offer_words(item.offer, found)
    if item.asked is Asked.NO_CHORDS:
        return Words(
            translate("Gavotte", "No chords"),
            "",
            translate(
                "Gavotte",
                "No chord is written, so notes are named by their degree in the key. Infer chords from the notes, "
                "one to a bar, or read the whole solo by its key centre?",
            ),
            translate("Gavotte", "No chord is written"),
            translate("Gavotte", "Infer chords"),
            translate("Gavotte", "Read by the key"),
        )
    if item.key is not None:
        return _signature_words(item.key, found)
    if item.asked is Asked.BLUES:
        return _blues_words(found)
    label, name = found.labels[places[item.first]], notes[places[item.first]].pitch.shown
    called = f"{function_words(label.function, label)}, {device_words(label.device)}"
    return Words(
        translate("Gavotte", "In doubt"),
        where,
        label.reason,
        translate("Gavotte", "{pitch}: {called}?").format(pitch=name, called=called.lower()),
        translate("Gavotte", "Take it so"),
        translate("Gavotte", "Pass"),
    )


_MUCH = 3.0
"""How much less surprising a line is (in nats) that is much likelier."""


def _likelier(slip: Slip) -> str:
    """How much there is to say for a suggestion."""
    if slip.gain >= _MUCH:
        return translate("Gavotte", "So changed, the line would be much likelier.")
    return translate("Gavotte", "So changed, the line would be likelier.")


def _blues_words(found: Labelled) -> Words:
    heard = next(key for key in found.frame.ground.keys if key.blues)
    return Words(
        translate("Gavotte", "A blues?"),
        "",
        translate(
            "Gavotte",
            "This is heard as a blues in {tonic}: {why}. So the key's ♭3, ♭5 and ♭7 are at home over every chord.",
        ).format(tonic=heard.key.tonic.shown, why=heard.why),
        translate("Gavotte", "The changes are those of a blues"),
        translate("Gavotte", "It is one"),
        translate("Gavotte", "It is none"),
    )


def _signature_words(region: KeyRegion, found: Labelled) -> Words:
    name, written = key_words(region), key_words(found.solo.keys[0])
    words = translate(
        "Gavotte",
        "The signature says {written}, but the chords are those of {heard} from end to end. Much is written out "
        "without a signature. Is {heard} the key?",
    ).format(written=written, heard=name)
    return Words(
        translate("Gavotte", "Another key?"),
        "",
        words,
        translate("Gavotte", "The chords are those of {heard}").format(heard=name),
        translate("Gavotte", "Take {heard}").format(heard=name),
        translate("Gavotte", "Keep {written}").format(written=written),
    )


def _offer_words(offer: Offer, found: Labelled) -> Words:
    statement = said(CHOICE_WORDS[offer.choice])
    will = getattr(offer.school, offer.choice)
    evidence = offer.evidence
    total = evidence.other_way + evidence.as_it_is
    words = translate(
        "Gavotte",
        "You decided {some} of {total} notes the other way than the {school} school has it. "
        "{change}: “{statement}”? {labels} here would change.",
    ).format(
        some=evidence.other_way,
        total=total,
        school=school_name(found.frame.school.name),
        change=translate("Gavotte", "Choose") if will else translate("Gavotte", "No longer"),
        statement=statement,
        labels=counted(offer.changes, "label"),
    )
    return Words(
        translate("Gavotte", "You keep deciding otherwise"),
        "",
        words,
        translate("Gavotte", "Change the school: {statement}").format(statement=statement),
        translate("Gavotte", "Change it"),
        translate("Gavotte", "Keep the school"),
    )
