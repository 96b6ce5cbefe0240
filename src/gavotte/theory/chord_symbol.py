"""Chord symbols as text: reading the everyday spellings and writing one normal form.

Reading is all or nothing. A sign that is not understood raises ChordSymbolError with its position; no
part of a symbol is ever skipped. A ♭ or ♯ right after the root letter always belongs to the root.
"""

from __future__ import annotations

import re
from dataclasses import replace
from functools import lru_cache

from gavotte.theory.chord import TENSIONS, Chord, ChordSymbol, NoChord, RepeatChord, UnreadChord
from gavotte.theory.pitch import PitchName, music_accidentals


class ChordSymbolError(ValueError):
    """A text that is no chord symbol. ``position`` is the 0-based index of the sign that was not understood."""

    def __init__(self, text: str, position: int, why: str) -> None:
        super().__init__(f"{why} (at sign {position + 1} of “{text}”)")
        self.text, self.position, self.why = text, position, why


# One sign for each idea; all replacements keep the length, so positions stay those of the user's text.
_SAME_SIGN = str.maketrans(
    {
        "♭": "b",
        "♯": "#",
        "−": "-",
        "–": "-",
        "‑": "-",
        "△": "Δ",
        "∆": "Δ",
        "^": "Δ",
        "º": "°",
        "˚": "°",
        "Ø": "ø",
        "Φ": "ø",
    }
)
_ROOT = re.compile(r"[A-G](?:#{1,3}|b{1,3})?")
_BASS = re.compile(r"/([A-G](?:#{1,3}|b{1,3})?)$")
_TOKEN = re.compile(
    r"""(?P<separator>[\s,()\[\]]+)
      | (?P<minor>minor|min|mi|m(?!a(?!dd|ug|lt)))
      | (?P<major>major|[Mm]aj|MAJ|[Mm]a|M|Δ|[jJ](?=7|9|11|13))
      | (?P<dominant>dom)
      | (?P<half>ø)
      | (?P<dim>dim|°|o(?!m))
      | (?P<aug>aug)
      | (?P<sus>sus(?P<sus_degree>[24])?)
      | (?P<alt>alt)
      | (?P<add>add(?P<add_degree>[#b]?(?:13|11|9|6|4|2)))
      | (?P<omit>(?:no|omit)(?P<omit_degree>[35]))
      | (?P<six_nine>6/9|69)
      | (?P<altered>[#b](?P<altered_degree>13|11|9|6|5))
      | (?P<sign>[+-])
      | (?P<number>13|11|9|7|6|5|4|2)""",
    re.VERBOSE,
)
_LONGEST_KEPT = 24
_AFTER_SIGN = re.compile(r"13|11|9|5")
_STACKED = {"7": (), "9": ("9",), "11": ("9", "11"), "13": ("9", "13")}
_ALIASES = {"2": "9", "4": "11", "b6": "b13", "#4": "#11"}


@lru_cache(maxsize=4096)
def parse_chord_symbol(text: str) -> ChordSymbol:
    """Read a chord symbol, N.C., or a repeat sign (%). Raises ChordSymbolError."""
    lead = len(text) - len(text.lstrip())
    symbol = text.strip().translate(_SAME_SIGN)
    if symbol.upper().replace(".", "").replace(" ", "") in ("NC", "NOCHORD"):
        return NoChord()
    if symbol in ("%", "/", "//"):
        return RepeatChord()
    root = _ROOT.match(symbol)
    if root is None:
        if not symbol:
            raise ChordSymbolError(text, 0, "there is nothing to read")
        hint = "; write B or Bb" if symbol[0] in "Hh" else "; a chord starts with a capital A to G"
        raise ChordSymbolError(text, lead, f"“{symbol[0]}” is no root{hint}")
    bass = _BASS.search(symbol, root.end())
    end = bass.start() if bass else len(symbol)
    reader = _Reader(text, lead)
    reader.read(symbol, root.end(), end)
    chord = reader.chord(PitchName.parse(root.group()))
    return replace(chord, bass=PitchName.parse(bass.group(1))) if bass else chord


class _Reader:
    """Collects what the signs after the root say."""

    def __init__(self, text: str, lead: int) -> None:
        self.text, self.lead = text, lead
        self.third, self.fifth, self.seventh = "3", "5", ""
        self.major_sign: str = ""
        self.dim = self.sixth = self.altered = self.numbered = False
        self.omitted: set[str] = set()
        self.stacked: tuple[str, ...] = ()
        self.written: set[str] = set()
        self.height = ""

    def fail(self, position: int, why: str) -> ChordSymbolError:
        return ChordSymbolError(self.text, position + self.lead, why)

    def read(self, symbol: str, position: int, end: int) -> None:
        while position < end:
            token = _TOKEN.match(symbol, position, end)
            if token is None:
                raise self.fail(position, self.complaint(symbol[position:end]))
            position = self.take(token, symbol, end)

    @staticmethod
    def complaint(rest: str) -> str:
        if rest[0] in "#b":
            return f"“{rest[0]}” must stand before 5, 9, 11 or 13"
        if rest[0] == "/":
            return "after “/” comes the bass note, a capital A to G"
        return f"“{rest[0]}” has no meaning here"

    def take(self, token: re.Match[str], symbol: str, end: int) -> int:
        """Take one sign; return where the next begins."""
        position, after = token.start(), token.end()
        match token.lastgroup:
            case "minor":
                self.third = "b3"
            case "major":
                self.major_sign = token.group()
                if self.numbered and not self.height:
                    self.height = "7"
            case "half":
                self.third, self.fifth, self.seventh = "b3", "b5", "b7"
            case "dim":
                self.third, self.fifth, self.dim = "b3", "b5", True
            case "aug":
                self.fifth = "#5"
            case "sus" | "sus_degree":
                self.third = token["sus_degree"] or "4"
            case "alt":
                self.altered = True
            case "add" | "add_degree":
                self.add(token["add_degree"])
            case "omit" | "omit_degree":
                self.omitted.add(token["omit_degree"])
            case "six_nine":
                self.sixth = True
                self.written.add("9")
            case "altered" | "altered_degree":
                self.alter(token.group(), position)
            case "sign":
                return self.take_sign(token.group(), symbol, after, end)
            case "number":
                self.number(token.group())
        return after

    def take_sign(self, sign: str, symbol: str, after: int, end: int) -> int:
        """Take + or -: an alteration before a number that follows one, else augmented or minor."""
        number = _AFTER_SIGN.match(symbol, after, end)
        alters = number is not None and (self.numbered or (sign == "+" and number.group() in ("5", "11", "13")))
        if alters and number is not None:
            self.alter(("#" if sign == "+" else "b") + number.group(), after - 1)
            return number.end()
        if sign == "+":
            self.fifth = "#5"
        elif self.numbered:
            raise self.fail(after - 1, "“-” after a number must stand before 5, 9 or 13")
        else:
            self.third = "b3"
        return after

    def alter(self, degree: str, position: int) -> None:
        degree = _ALIASES.get(degree, degree)
        self.numbered = True
        if degree in ("b5", "#5"):
            if self.fifth in ("b5", "#5") and self.fifth != degree:
                self.written.add("#11" if degree == "b5" else "b13")
            else:
                self.fifth = degree
        elif degree in TENSIONS:
            self.written.add(degree)
        else:
            raise self.fail(position, f"“{degree}” is no tension; use b9, #9, #11 or b13")

    def add(self, degree: str) -> None:
        degree = _ALIASES.get(degree, degree)
        if degree == "6":
            self.sixth = True
        else:
            self.written.add(degree if degree in TENSIONS else "9")

    def number(self, number: str) -> None:
        first, self.numbered = not self.numbered, True
        if number in _STACKED:
            if first or not self.height or number == "7":
                self.height = self.height if self.height and number == "7" else number
                self.stacked += _STACKED[number]
            else:
                self.written.add(number)
        elif number == "6":
            self.sixth = True
        elif number == "5":
            if first and self.third == "3":
                self.omitted.add("3")
        elif number == "2":
            self.written.add("9")
        elif number == "4" and self.third == "3":
            self.third = "4"

    def chord(self, root: PitchName) -> Chord:
        if self.altered:
            return Chord(root, fifth="", seventh="b7", altered=True)
        seventh, sixth, third = self.seventh, self.sixth, self.third
        if self.height or self.major_sign == "Δ":
            if self.major_sign:
                seventh = "7"
            elif self.dim:
                seventh = "bb7"
            else:
                seventh = "b7"
        if self.major_sign == "Δ" and sixth and not self.height:
            seventh = ""
        written = set(self.written)
        if sixth and seventh:
            sixth = False
            written.add("13")
        numbers = {degree.lstrip("b#") for degree in written}
        written |= {degree for degree in self.stacked if degree not in numbers}
        # A major third under an eleventh is left out by every player who writes C11.
        if self.height == "11" and third == "3" and seventh == "b7":
            third = ""
        return Chord(
            root,
            third="" if "3" in self.omitted else third,
            fifth="" if "5" in self.omitted else self.fifth,
            seventh=seventh,
            sixth=sixth,
            tensions=tuple(t for t in TENSIONS if t in written),
        )


@lru_cache(maxsize=4096)
def read_or_keep(text: str) -> ChordSymbol:
    """The chord symbol a text is, or the text itself where it is none. Raises ChordSymbolError for an empty text."""
    try:
        return parse_chord_symbol(text)
    except ChordSymbolError:
        # No space and no bar line: the text must still fit into a line of chords.
        kept = re.sub(r"[\s|\[\]]+", "", text)
        if not kept:
            raise
        return UnreadChord(kept[:_LONGEST_KEPT])


def parse_chord(text: str) -> Chord:
    """Read a chord symbol that must be a chord. Raises ChordSymbolError for N.C. and repeat signs too."""
    symbol = parse_chord_symbol(text)
    if not isinstance(symbol, Chord):
        raise ChordSymbolError(text, 0, f"“{text}” is no chord")
    return symbol


def write_chord_symbol(symbol: ChordSymbol) -> str:
    """The normal form, in plain letters: "Ebm7b5", "G7(b9,#11)", "C13sus4", "D/F#", "N.C.", "%"."""
    if not isinstance(symbol, Chord):
        return str(symbol)
    quality, height, extras = _parts(symbol)
    return f"{symbol.root}{quality}{height}{extras}" + (f"/{symbol.bass}" if symbol.bass else "")


def _parts(chord: Chord) -> tuple[str, str, str]:
    """Quality ("m", "dim", "+"), height with sus ("7", "maj9", "13sus4") and what stands behind."""
    if chord.altered:
        return "", "7alt", ""
    tensions = list(chord.tensions)
    extras: list[str] = []
    quality = "m" if chord.third == "b3" else ""
    fifth = chord.fifth
    number = _height(chord, tensions)
    diminished = chord.third == "b3" and fifth == "b5" and chord.seventh != "b7" and not chord.sixth
    if diminished:
        quality, fifth = "dim", "5"
    augmented = chord.third == "3" and fifth == "#5" and not chord.seventh and not chord.sixth
    if augmented and not tensions:
        quality, fifth = "+", "5"
    if chord.seventh == "7":
        height = f"maj{number}"
        if quality in ("m", "dim"):
            height = f"({height})"
    elif chord.seventh:
        height = number
    elif chord.sixth and "9" in tensions:
        tensions.remove("9")
        height = "6/9"
    else:
        height = "6" if chord.sixth else ""
    if chord.third in ("4", "2"):
        height += f"sus{chord.third}"
    if fifth in ("b5", "#5"):
        extras.append(fifth)
    for tension in tensions:
        bare = chord.seventh or tension[0] in "b#"
        extras.append(tension if bare else f"add{tension}")
    if not chord.third and number != "11":
        power = not chord.seventh and not chord.sixth and not extras and fifth == "5"
        if power:
            height = "5"
        else:
            extras.append("no3")
    if not fifth:
        extras.append("no5")
    return quality, height, _behind(quality + height, extras)


def _height(chord: Chord, tensions: list[str]) -> str:
    """The stack's number; takes the tensions it implies out of ``tensions``."""
    if not chord.seventh:
        return ""
    ninth = any(t.endswith("9") for t in tensions)
    if not chord.third and "9" in tensions and "11" in tensions:
        tensions.remove("9")
        tensions.remove("11")
        return "11"
    if chord.third == "b3" and chord.seventh == "b7" and "9" in tensions and "11" in tensions and "13" not in tensions:
        tensions.remove("9")
        tensions.remove("11")
        return "11"
    if "13" in tensions and ninth:
        tensions.remove("13")
        if "9" in tensions:
            tensions.remove("9")
        return "13"
    if "9" in tensions:
        tensions.remove("9")
        return "9"
    return "7"


def _behind(before: str, extras: list[str]) -> str:
    if not extras:
        return ""
    bare = len(extras) == 1 and extras[0][0] in "b#" and before not in ("", "+") and before[-1] != ")"
    return extras[0] if bare else f"({','.join(extras)})"


def chord_display(symbol: ChordSymbol) -> tuple[str, str, str, str]:
    """The four pieces a chord symbol is set in: root, quality on the line, superscript, slash bass.

    Musicians' signs are used: Δ for a major seventh, ø for m7♭5, ° for diminished.
    """
    if not isinstance(symbol, Chord):
        return str(symbol), "", "", ""
    quality, height, extras = _parts(symbol)
    if symbol.is_half_diminished and extras.startswith("b5"):
        quality, extras = "", extras[2:]
        height = "ø" + height
    elif symbol.is_half_diminished and extras.startswith("(b5"):
        quality, height = "", "ø" + height
        extras = "(" + extras[4:] if extras[3:4] == "," else ""
    if quality == "dim":
        quality, height = "", "°" + height
    height = height.replace("(maj", "Δ").replace(")", "").replace("maj", "Δ")
    bass = f"/{symbol.bass.shown}" if symbol.bass else ""
    superscript = height.replace("sus4", "sus") + _music_alterations(extras)
    return symbol.root.shown, quality, superscript, bass


def _music_alterations(text: str) -> str:
    return re.sub(r"[b#](?=\d)", lambda m: music_accidentals(m.group()), text).replace(",", " ")


def shown_chord(symbol: ChordSymbol) -> str:
    """The chord symbol in one line of music type: "E♭m7", "Bø7", "G7(♭9 ♯11)"."""
    return "".join(chord_display(symbol))
