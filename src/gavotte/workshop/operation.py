"""What a step of the workshop is: an operation with the values that were chosen for it, and how a chain of them works.

An operation declares its options, from which the desk makes its controls; a recipe is a chain of steps with a name.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, replace

from gavotte.solo.document import Solo
from gavotte.workshop.etude import Stock
from gavotte.workshop.piece import Piece

Value = str | int | bool


@dataclass(frozen=True)
class Option:
    """Something that can be chosen: its name, its words, and what it is at first.

    A ``str`` with ``choices`` (value and words) is one of these, one without them a text; an ``int`` lies between
    ``lowest`` and ``highest``; a ``bool`` is on or off. With ``of_lines`` it is one of the lines there are around, by
    its name; what ``is_hidden`` has no control of its own, what
    ``is_tapped`` is a rhythm that can be tapped in. ``only_if`` names another option with the values under which
    this one counts.
    """

    name: str
    words: str
    default: Value
    choices: tuple[tuple[str, str], ...] = ()
    lowest: int = 0
    highest: int = 0
    hint: str = ""
    of_lines: bool = False
    is_hidden: bool = False
    is_tapped: bool = False
    only_if: tuple[str, frozenset[Value]] | None = None

    def accepted(self, value: object) -> Value:
        """The value where it can be one of this option's, else what it is at first."""
        if type(value) is not type(self.default):
            return self.default
        if isinstance(value, str) and self.choices and value not in dict(self.choices):
            return self.default
        if isinstance(value, int) and not isinstance(value, bool):
            return max(self.lowest, min(self.highest, value))
        return value


def one_of(name: str, words: str, choices: Sequence[tuple[str, str]], default: str = "", hint: str = "") -> Option:
    """An option with some choices, the first of which is chosen at first unless another one is named."""
    return Option(name, words, default or choices[0][0], tuple(choices), hint=hint)


@dataclass(frozen=True)
class Around:
    """What operations may use beside the piece: other ``lines`` by their names (the open solo, licks), and ``stock``,
    which gives all licks that can be laid over a progression.
    """

    lines: Mapping[str, Solo] = field(default_factory=dict)
    stock: Callable[[], Sequence[Stock]] = tuple


NOTHING_AROUND = Around()


class Values:
    """The values of a step, each by the name of its option."""

    def __init__(self, operation: Operation, chosen: Mapping[str, Value]) -> None:
        self._options = {option.name: option for option in operation.options}
        self._values = {option.name: option.accepted(chosen.get(option.name)) for option in operation.options}

    def text(self, name: str) -> str:
        """What was chosen or written."""
        return str(self._values[name])

    def number(self, name: str) -> int:
        """A number."""
        return int(self._values[name])

    def is_on(self, name: str) -> bool:
        """Whether it is on."""
        return bool(self._values[name])

    def value(self, name: str) -> Value:
        """What it is, whatever its kind."""
        return self._values[name]

    def words(self, name: str) -> str:
        """What was chosen, in words."""
        value, option = self._values[name], self._options[name]
        if isinstance(value, bool):
            return option.words.lower() if value else ""
        if option.choices:
            return dict(option.choices)[str(value)]
        return f"{option.words.lower()} {value}" if value != "" else ""

    def counts(self, name: str) -> bool:
        """Whether an option counts with the others as they are."""
        only_if = self._options[name].only_if
        return only_if is None or self._values[only_if[0]] in only_if[1]


class OperationError(ValueError):
    """What an operation can't do, in words."""


Apply = Callable[[Piece, Values, Around], Piece]
"""What an operation does. Raises OperationError where it can do nothing, with what is to be done instead."""


@dataclass(frozen=True)
class Operation:
    """Something that can be made of a piece. ``name`` is how recipes keep it, ``words`` how it is called.

    ``told`` says in a few words what a step with some values does; ``choosing`` is the option whose values are worth
    being heard one after the other, ``and_choosing`` a second one, each of whose values goes with each of the first;
    ``looks_around`` says that it may use what is around, so that it is worked anew when that is another.
    """

    name: str
    words: str
    family: str
    hint: str
    options: tuple[Option, ...]
    apply: Apply
    told: Callable[[Values], str] | None = None
    choosing: str = ""
    and_choosing: str = ""
    looks_around: bool = False

    def option(self, name: str) -> Option:
        """One of its options. Raises KeyError."""
        return next(option for option in self.options if option.name == name)

    def summary(self, chosen: Mapping[str, Value]) -> str:
        """What a step of it does, shortly."""
        values = Values(self, chosen)
        if self.told is not None:
            return self.told(values)
        there = [option.name for option in self.options if not option.is_hidden]
        said = [values.words(name) for name in there if values.counts(name)]
        return ", ".join(filter(None, said))


@dataclass(frozen=True, slots=True)
class Step:
    """A step of a chain: an operation by its name, the values chosen for it, and whether it is on."""

    operation: str
    values: tuple[tuple[str, Value], ...] = ()
    is_on: bool = True

    def with_value(self, name: str, value: Value) -> Step:
        """The step with another value for one of its options."""
        return replace(self, values=tuple(sorted({**dict(self.values), name: value}.items())))


@dataclass(frozen=True, slots=True)
class Recipe:
    """A chain of steps under a name."""

    name: str
    steps: tuple[Step, ...]


@dataclass(frozen=True)
class Stage:
    """What a step of a chain has made: its piece, and what it could not do (``problem``); where it ``failed`` outright
    that is the piece it was given.
    """

    piece: Piece
    problem: str = ""
    failed: bool = False


def worked(
    source: Piece,
    steps: Sequence[Step],
    operations: Mapping[str, Operation],
    around: Around = NOTHING_AROUND,
    before: Worked | None = None,
) -> Worked:
    """A chain of steps worked through from the source. What ``before`` has of the same beginning is not made again."""
    stages: list[Stage] = []
    piece = source
    same = before is not None and before.source is source
    for place, step in enumerate(steps):
        operation = operations.get(step.operation)
        looks = operation is not None and operation.looks_around and (before is None or before.around is not around)
        if same and not looks and before is not None and place < len(before.steps) and before.steps[place] == step:
            stages.append(before.stages[place])
        else:
            same = False
            stages.append(_stage(piece, step, operations, around))
        piece = stages[-1].piece
    return Worked(source, tuple(steps), tuple(stages), around)


def _stage(piece: Piece, step: Step, operations: Mapping[str, Operation], around: Around) -> Stage:
    operation = operations.get(step.operation)
    if not step.is_on:
        return Stage(piece)
    if operation is None:
        return Stage(piece, f"There is no step called {step.operation[:40]!r} in this Gavotte.", True)
    if not piece.solo.notes:
        return Stage(piece, "Nothing is left to work on. Switch an earlier step off.", True)
    try:
        made = operation.apply(replace(piece, told=(), way=""), Values(operation, dict(step.values)), around)
    except OperationError as error:
        return Stage(piece, str(error), True)
    return Stage(made, " ".join(made.told))


@dataclass(frozen=True)
class Worked:
    """A chain worked through: the source, its steps, and the stage each has made."""

    source: Piece
    steps: tuple[Step, ...]
    stages: tuple[Stage, ...]
    around: Around = NOTHING_AROUND

    @property
    def result(self) -> Piece:
        """What comes out in the end."""
        return self.stages[-1].piece if self.stages else self.source
