"""Labelling a solo: the one entrance to this room."""

from __future__ import annotations

from dataclasses import replace
from itertools import takewhile

from gavotte.labelling.decision import Verdict, decide
from gavotte.labelling.explanation import Explanation, Figure
from gavotte.labelling.frame import Frame, FramedNote
from gavotte.labelling.reasons import decided_reason, reason
from gavotte.labelling.school import LINEAR, School
from gavotte.labelling.tension import tension
from gavotte.solo.document import Decision, Function, Solo
from gavotte.solo.label import Alternative, Label, Sustained
from gavotte.theory.chord_symbol import write_chord_symbol


def label_solo(solo: Solo, school: School = LINEAR) -> tuple[Label, ...]:
    """One label for each note, in order. The user's decisions stand; what the rules say becomes an alternative."""
    return label_frame(Frame(solo), school)


def label_frame(frame: Frame, school: School = LINEAR) -> tuple[Label, ...]:
    """The labels of a solo whose frame is known already."""
    verdicts = decide(frame, school)
    groups = _group_numbers(verdicts)
    decisions = {decision.note: decision for decision in frame.solo.decisions}
    labels = []
    for note, verdict in zip(frame.notes, verdicts, strict=True):
        label = _label(frame, note, verdict, groups)
        decision = decisions.get(note.note.id)
        labels.append(label if decision is None else _decided(frame, note, verdict, label, decision))
    return tuple(labels)


def _group_numbers(verdicts: list[Verdict]) -> dict[int, int]:
    """Figures that hold more than one note, numbered in the order they appear (by identity)."""
    numbers: dict[int, int] = {}
    for verdict in verdicts:
        if verdict.figure is not None and len(verdict.figure.members) > 1:
            numbers.setdefault(id(verdict.figure), len(numbers) + 1)
    return numbers


def _label(frame: Frame, note: FramedNote, verdict: Verdict, groups: dict[int, int]) -> Label:
    explanation = verdict.explanation
    span = frame.span_of(note)
    confidence = explanation.confidence * (0.6 if note.note.uncertain else 1.0)
    return Label(
        note=note.note.id,
        function=explanation.function,
        device=explanation.device,
        degree=explanation.degree or note.degree,
        chord=span.text,
        scale=span.scale.name,
        target=_id(frame, explanation.target),
        implied=explanation.implied or _implied(verdict.figure),
        group=None if verdict.figure is None else groups.get(id(verdict.figure)),
        confidence=round(confidence, 3),
        reason=reason(frame, note, explanation),
        alternatives=tuple(_alternative(frame, note, other) for other in verdict.alternatives),
        sustained=_sustained(frame, note),
        tension=tension(frame, note) if explanation.device != "anticipation" else 0.0,
    )


def _implied(figure: Figure | None) -> str | None:
    return None if figure is None else figure.implied


def _id(frame: Frame, index: int | None) -> str | None:
    return None if index is None else frame.notes[index].note.id


def _alternative(frame: Frame, note: FramedNote, explanation: Explanation) -> Alternative:
    return Alternative(
        explanation.function, explanation.device, _id(frame, explanation.target), reason(frame, note, explanation)
    )


def _sustained(frame: Frame, note: FramedNote) -> tuple[Sustained, ...]:
    """What a note becomes over each chord that starts while it sounds."""
    if not note.sounds_on:
        return ()
    pitch_class, end = note.note.pitch.pitch_class, note.note.end
    sounding_into = takewhile(lambda span: span.onset < end, frame.spans[note.span + 1 :])
    return tuple(
        Sustained(span.text or write_chord_symbol(span.chord), span.chord.degree_of(pitch_class))
        for span in sounding_into
        if span.onset > note.note.onset
    )


def _decided(frame: Frame, note: FramedNote, verdict: Verdict, label: Label, decision: Decision) -> Label:
    """The label with the user's decision in force and the rules' own answer first among the alternatives."""
    same = decision.function is label.function and decision.device == label.device
    if same:
        return replace(label, decided=True, confidence=1.0)
    heard = next(
        (e for e in verdict.alternatives if (e.function, e.device) == (decision.function, decision.device)), None
    )
    target = heard.target if heard else _likely_target(frame, note, decision.function)
    text = (
        reason(frame, note, heard)
        if heard
        else decided_reason(frame, note, decision.function, None if target is None else frame.notes[target])
    )
    own = Alternative(label.function, label.device, label.target, label.reason)
    others = tuple(a for a in label.alternatives if (a.function, a.device) != (decision.function, decision.device))
    return replace(
        label,
        function=decision.function,
        device=decision.device,
        target=_id(frame, target),
        reason=text,
        alternatives=(own, *others),
        confidence=1.0,
        decided=True,
        degree=note.degree,
        implied=None,
    )


def _likely_target(frame: Frame, note: FramedNote, function: Function) -> int | None:
    """Where a note that the user calls passing or approach leads: the next resting point after it."""
    if function not in (Function.PASSING, Function.APPROACH):
        return None
    later = range(note.index + 1, min(note.index + 5, len(frame.notes)))
    return next((k for k in later if frame.is_resting_point(k)), note.after)
