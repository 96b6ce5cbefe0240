"""Have music21 read all the MusicXML files it ships and keep what it found in tests/data/corpus.json.

    .venv/bin/python -m benchmarks.corpus

Takes some ten minutes. The test of the corpus compares Gavotte's reading with this file.
"""

from __future__ import annotations

import json
import warnings
from concurrent.futures import ProcessPoolExecutor
from fractions import Fraction
from pathlib import Path

from music21 import chord, converter, harmony, note, stream
from tests.formats.corpus import FILES, ROOT, Placed, digest

DATA = Path(__file__).parents[1] / "tests" / "data" / "corpus.json"


def _exact(value: float | Fraction) -> Fraction:
    return Fraction(value).limit_denominator(10000)


def reading(name: str) -> dict[str, object]:
    """What music21 finds in a file: number and digest of the notes, and the chord symbols."""
    warnings.simplefilter("ignore")
    score = converter.parse(ROOT / name, forceSource=True)
    notes: list[Placed] = []
    chords: list[list[object]] = []
    for part in list(getattr(score, "parts", [])) or [score]:
        for bar, measure in enumerate(part.toSoundingPitch().getElementsByClass(stream.Measure)):
            for element in measure.flatten().notes:
                at = _exact(element.offset)
                if isinstance(element, harmony.ChordSymbol):
                    root = element.root()
                    classes = sorted({pitch.pitchClass for pitch in element.pitches})
                    chords.append([bar, str(at), root.pitchClass if root else None, classes])
                elif not element.duration.isGrace and isinstance(element, note.Note | chord.Chord):
                    length = _exact(element.quarterLength)
                    notes += [(bar, at, length, pitch.midi) for pitch in element.pitches]
    chords.sort(key=lambda row: (row[0], Fraction(str(row[1]))))
    return {"notes": len(notes), "digest": digest(notes), **({"chords": chords} if chords else {})}


def main() -> None:
    """Read everything, two files at a time."""
    with ProcessPoolExecutor(2) as pool:
        found = dict(zip(FILES, pool.map(reading, FILES, chunksize=8), strict=True))
    lines = ",\n".join(f"{json.dumps(name)}: {json.dumps(value)}" for name, value in found.items())
    DATA.write_text("{\n" + lines + "\n}\n", encoding="utf-8")


if __name__ == "__main__":
    main()
