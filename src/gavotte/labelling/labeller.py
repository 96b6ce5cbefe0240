"""Labelling a solo: the one entrance to this room."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import takewhile

from gavotte.giving_way import give_way
from gavotte.labelling.chords_in_force import ChordSpan
from gavotte.labelling.explanation import Explanation
from gavotte.labelling.figures import figure_kind
from gavotte.labelling.frame import Frame, barred_and_phrased_alike
from gavotte.labelling.framed_note import FramedNote
from gavotte.labelling.reasons import decided_reason, reason
from gavotte.labelling.search import Verdict, decide
from gavotte.labelling.tension import tension
from gavotte.labelling.wording import degree_of, own_degree
from gavotte.solo.by_identity import kept_by_identity
from gavotte.solo.differences import not_shared
from gavotte.solo.document import Decision, Function, Solo
from gavotte.solo.label import Alternative, Label, Sustained
from gavotte.solo.school import School
from gavotte.theory.chord_symbol import shown_chord, write_chord_symbol
from gavotte.theory.degrees import shown_above_tonic, shown_degree

_UNCERTAIN, _NO_CHORD, _UNREAD = 0.6, 0.72, 0.5
"""What is left of a label's confidence on a note its transcriber doubts, without a chord, on one nobody can read."""
_FEW = 40
"""Notes, chords or decisions a small step changes at most."""


@dataclass(frozen=True)
class Labelled:
    """A solo with its labels, and what they were made from.

    ``ruled`` are the labels as the rules alone have them, ``labels`` those with the user's decisions in force.
    ``costs`` holds for each note what its explanation cost (see ``costs``); figures share theirs out.
    """

    frame: Frame
    ruled: tuple[Label, ...]
    labels: tuple[Label, ...]
    costs: tuple[float, ...]

    @property
    def solo(self) -> Solo:
        """The solo that was labelled."""
        return self.frame.solo


def label_solo(solo: Solo, school: School | None = None) -> tuple[Label, ...]:
    """One label for each note, in order. The user's decisions stand; what the rules say becomes an alternative.

    The school is the solo's own unless another one is given.
    """
    return labelled(solo, school).labels


def labelled(solo: Solo, school: School | None = None, like: Labelled | None = None) -> Labelled:
    """A solo with its labels. With ``like``, nearly the same solo labelled before, only what can have changed is new.

    The school is the solo's own unless another one is given.
    """
    frame = Frame(solo, school or solo.school, None if like is None else like.frame)
    first, last = frame.changed
    verdicts = decide(frame, frame.school, first, last)
    groups = _groups(frame, verdicts)
    ruled = [
        _label(frame, note, verdict, groups) for note, verdict in zip(frame.notes[first:last], verdicts, strict=True)
    ]
    costs = [verdict.cost for verdict in verdicts]
    if like is not None and (first, last) != (0, len(frame.notes)):
        behind = last - frame.moved
        ruled = [*like.ruled[:first], *ruled, *like.ruled[behind:]]
        costs = [*like.costs[:first], *costs, *like.costs[behind:]]
    labels = _with_decisions(frame, ruled, like)
    return Labelled(frame, tuple(ruled), labels, tuple(costs))


def _with_decisions(frame: Frame, ruled: Sequence[Label], like: Labelled | None) -> tuple[Label, ...]:
    """The labels with the user's decisions in force; what nothing has changed about is taken from ``like``."""
    solo = frame.solo
    if not solo.decisions:
        return tuple(ruled)
    decisions = _by_note(solo.decisions)

    def decided(index: int) -> Label:
        rule = ruled[index]
        decision = decisions.get(rule.note)
        return rule if decision is None else _decided(frame, frame.notes[index], rule, decision)

    first, last = frame.changed
    changed: set[str] = set()
    if like is not None:
        changed = {decision.note for decision in not_shared(like.solo.decisions, solo.decisions)}
    if like is not None and len(changed) <= _FEW and (first, last) != (0, len(ruled)):
        labels = [*like.labels[:first], *map(decided, range(first, last)), *like.labels[last - frame.moved :]]
        for place in (solo.places[note] for note in changed if note in solo.places):
            labels[place] = decided(place)
        return tuple(labels)
    known: dict[int, Label] = {}
    if like is not None:
        known = {
            id(rule): label
            for rule, label in zip(like.ruled, like.labels, strict=True)
            if rule is not label and rule.note not in changed
        }
    return tuple(
        known[id(rule)]
        if id(rule) in known
        else _decided(frame, note, rule, decisions[rule.note])
        if rule.note in decisions
        else rule
        for note, rule in zip(frame.notes, ruled, strict=True)
    )


@kept_by_identity(4)
def _by_note(decisions: tuple[Decision, ...]) -> dict[str, Decision]:
    return {decision.note: decision for decision in decisions}


def is_small_step(before: Solo, after: Solo) -> bool:
    """Whether a solo differs so little from another that labelling it like that one takes no time to speak of."""
    same_ground = (
        barred_and_phrased_alike(before, after)
        and before.keys == after.keys
        and before.heard_keys == after.heard_keys
        and before.school.says_like(after.school)
    )
    if not same_ground:
        return False
    others = (
        not_shared(before.notes, after.notes),
        not_shared(before.chords, after.chords),
        not_shared(before.decisions, after.decisions),
    )
    return all(len(items) <= _FEW for items in others)


def _groups(frame: Frame, verdicts: list[Verdict]) -> dict[int, str]:
    """Figures that hold more than one note, by identity, each called by the first note it explains.

    So an edit elsewhere changes no name.
    """
    figures = (verdict.figure for verdict in verdicts)
    return {id(f): frame.notes[min(f.explains)].note.id for f in figures if f is not None and len(f.members) > 1}


def _label(frame: Frame, note: FramedNote, verdict: Verdict, groups: dict[int, str]) -> Label:
    give_way()
    explanation = verdict.explanation
    span = frame.span_of(note)
    group = None if verdict.figure is None else groups.get(id(verdict.figure))
    confidence = verdict.confidence * _ground(span) * (_UNCERTAIN if note.note.uncertain else 1.0)
    return Label(
        note=note.note.id,
        function=explanation.function,
        device=explanation.device,
        degree=explanation.degree or note.degree,
        chord=span.text,
        scale=span.scale.name,
        target=_id(frame, explanation.target),
        implied=explanation.implied or (verdict.figure.spells.get(note.index) if verdict.figure else None),
        group=group,
        figure="" if verdict.figure is None or group is None else verdict.figure.kind,
        confidence=round(confidence, 3),
        reason=reason(frame, note, explanation),
        alternatives=tuple(_alternative(frame, note, rival.explanation) for rival in verdict.rivals),
        sustained=_sustained(frame, note),
        tension=tension(frame, note) if explanation.device != "anticipation" else 0.0,
        shown=own_degree(frame, note) if explanation.degree is None else degree_of(frame, explanation.degree),
        heard=_heard(frame, note),
        other=_other_degree(frame, note),
    )


def _ground(span: ChordSpan) -> float:
    """How far a label can be trusted for the chord it stands on."""
    return 1.0 if span.written else _UNREAD if span.unread else _NO_CHORD


def _heard(frame: Frame, note: FramedNote) -> str:
    """What the note is read against, where that is not the written chord."""
    if frame.span_of(note).over is not None:
        return f"over {shown_chord(frame.span_of(note).chord)}"
    return "" if note.centre is None else note.centre.shown


def _other_degree(frame: Frame, note: FramedNote) -> str:
    """The degree above the key centre's tonic, or against the written chord where another one is heard."""
    written = frame.span_of(note).over
    if written is not None:
        return shown_degree(written.degree_of(note.pitch % 12), frame.school.naming)
    if note.centre is None:
        return ""
    return shown_above_tonic(note.pitch - note.centre.tonic.pitch_class)


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


def _decided(frame: Frame, note: FramedNote, label: Label, decision: Decision) -> Label:
    """The label with the user's decision in force and the rules' own answer first among the alternatives."""
    give_way()
    kind = (decision.function, decision.device)
    if kind == (label.function, label.device):
        return replace(label, decided=True, confidence=1.0)
    heard = next((a for a in label.alternatives if (a.function, a.device) == kind), None)
    if heard is not None:
        target, text = heard.target, heard.reason
    else:
        goal = _likely_target(frame, note, decision.function)
        target = _id(frame, goal)
        text = decided_reason(frame, note, decision.function, None if goal is None else frame.notes[goal])
    own = Alternative(label.function, label.device, label.target, label.reason)
    others = tuple(a for a in label.alternatives if (a.function, a.device) != kind)
    figure = figure_kind(label.figure)
    stays = figure is not None and decision.device in figure.devices
    return replace(
        label,
        function=decision.function,
        device=decision.device,
        target=target,
        reason=text,
        alternatives=(own, *others),
        confidence=1.0,
        decided=True,
        degree=note.degree,
        implied=None,
        # A note that is called something else has left its figure; the others go on being one.
        group=label.group if stays else None,
        figure=label.figure if stays else "",
    )


def _likely_target(frame: Frame, note: FramedNote, function: Function) -> int | None:
    """Where a note that the user calls passing or approach leads: the next resting point after it, not over a rest."""
    if function not in (Function.PASSING, Function.APPROACH):
        return None
    for k in range(note.index + 1, min(note.index + 5, len(frame.notes))):
        if frame.notes[k - 1].rest_after:
            break
        if frame.is_resting_point(k):
            return k
    return note.after
