"""What reasons claim, tried on the notes: ``PYTHONPATH=. python benchmarks/reasons.py [SOLOS] [--read]``.

Every reason, of labels and of their alternatives, on the composed lines, the labelled passages, the demo's solos and
SOLOS solos made by chance (1,000 unless said otherwise) is taken apart; the tally is by kind of claim. With ``--read``
it prints twenty instances of each sentence from the solos made by chance, to be read by eye.
"""

from __future__ import annotations

import random
import sys
from collections import Counter
from pathlib import Path

from tests.labelling.claims import TEMPLATES, Ear, claims, reasons_of, template_of
from tests.labelling.lines import LINES, solo_of
from tests.random_solos import random_solo

from gavotte.demo.solos import DEMO_SOLOS
from gavotte.formats.passage import read_passages
from gavotte.labelling.labeller import label_solo
from gavotte.solo.document import Solo

PASSAGES = Path("tests/data/passages.json")
INSTANCES = 20


def tally(solos: list[Solo]) -> tuple[Counter[str], Counter[str], dict[str, list[str]]]:
    """How often each kind of claim is made, how often it does not hold, and the reasons by template."""
    made: Counter[str] = Counter()
    wrong: Counter[str] = Counter()
    said: dict[str, list[str]] = {name: [] for name in TEMPLATES}
    for solo in solos:
        ear, places = Ear(solo), solo.places
        for i, label in enumerate(label_solo(solo)):
            for reason, target in reasons_of(label):
                line = " ".join(ear.name(k) for k in range(max(0, i - 3), min(len(solo.notes), i + 5)))
                said[template_of(reason)[0]].append(f"{reason}   [{line}]")
                for claim, is_so in claims(ear, i, reason, None if target is None else places[target]):
                    made[claim] += 1
                    wrong[claim] += not is_so
    return made, wrong, said


def main(number: int, read: bool) -> None:
    """Print the tally, or instances to read."""
    by_chance = [random_solo(seed) for seed in range(number)]
    composed = [solo_of(line) for line in LINES] + [make() for make in DEMO_SOLOS]
    composed += [passage.solo for passage in read_passages(PASSAGES.read_text(encoding="utf-8"))]
    if read:
        chance = random.Random(1)
        for name, reasons in tally(by_chance)[2].items():
            print(f"== {name} ({len(reasons)})")
            for reason in chance.sample(reasons, min(INSTANCES, len(reasons))):
                print("  ", reason)
        return
    for title, solos in (("composed and labelled by hand", composed), ("made by chance", by_chance)):
        made, wrong, _ = tally(solos)
        print(f"{title}: {len(solos)} solos, {sum(len(solo.notes) for solo in solos)} notes")
        for claim, count in made.most_common():
            print(f"  {claim:26} {count:7} claimed {wrong[claim]:4} wrong")


if __name__ == "__main__":
    numbers = [int(text) for text in sys.argv[1:] if text.isdigit()]
    main(numbers[0] if numbers else 1000, "--read" in sys.argv)
