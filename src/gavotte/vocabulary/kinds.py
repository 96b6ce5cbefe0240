"""What kind of thing some notes are, as a query that finds all others of it."""

from __future__ import annotations

from gavotte.harmony.ground import ground_of
from gavotte.labelling.labeller import Labelled
from gavotte.solo.document import Function
from gavotte.vocabulary.contexts import context_spans, contexts_between
from gavotte.vocabulary.query import DEVICE_MEANINGS


def kind_of(found: Labelled, first: int, last: int) -> str:
    """The query for all of the kind that the notes from ``first`` to ``last`` (indexes) are.

    A figure with what it leads to; else the context the notes are played over; else what they end on.
    """
    solo, labels = found.solo, found.labels
    for label in labels[first : last + 1]:
        if label.target is None or label.function is not Function.APPROACH:
            continue
        goal = labels[solo.places[label.target]].degree if label.target in solo.places else ""
        word = label.device if label.device in DEVICE_MEANINGS else str(label.function)
        return f"{word} of {goal}" if goal else word
    start, end = solo.notes[first].onset, max(note.end for note in solo.notes[first : last + 1])
    contexts = contexts_between(context_spans(ground_of(solo)), start, end)
    if contexts:
        return f'in "{contexts[0]}"'
    return f"to {labels[last].degree}" if labels[last].degree else str(labels[last].function)
