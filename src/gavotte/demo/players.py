"""Three invented players and what they like to play. ``HABITS`` says of each what is theirs: it was written down before
anything was looked for in their solos, so that one can see what is found again.
"""

from __future__ import annotations

from gavotte.demo.phrasebook import Player

HABITS = {
    "Odo Vantongeren": (
        "climbs 3 5 ♭7 ♭9 on dominants",
        "encloses the 3rd of the chord of rest from the ♭7 and the ♭13 of its dominant",
        "ends phrases on the 9",
    ),
    "Ilka Rosenquill": (
        "slides from the ♭3 into 3 5 13",
        "reaches the root from a half step below, and stays there",
        "ends phrases on the root",
    ),
    "Perpetua Lindqvarn": (
        "climbs a whole chord from the root to the 9, after an eighth's rest",
        "approaches the 5 twice from above: 13 ♭13 5",
        "ends phrases on the 5",
    ),
}

ODO = Player(
    "Odo Vantongeren",
    {
        "turn": (
            "5/8 3v 1v 7v 3 5^ b7^ b9^ ; 5v b3 1 b7v 3 5^ b7^ b9^",
            "r/8 1 3^ 5^ b7 5 3 1 ; b3/4 5/8 1 b7 5 b7 b13",
            "3/4. 5/8 3 5^ b7^ b9^ ; 1v/4 5/4 r/2",
        ),
        "cad": (
            "b3/8 5^ b7^ 9^ 3v 5^ b7^ b9^ ; 5v 3v 1v 7v 9^/4 r/4",
            "1/8 b3 5 1^ b7v 5 b7 b13 ; 3/4 1/8 5v 9^/4 r/4",
            "5/8 b3 1 b7v 3 5^ b7^ b9^ ; 5v/4. 3/8 9/4 r/4",
        ),
        "ii-V": (
            "1/8 b3^ 5^ b7^ 9^ b7v 5v b3v ; 3 5^ b7^ b9^ 1v b7v b7 b13",
            "r/4 5/8 b3 1 b7v 1 b3 ; 3/4 r/8 3 5^ b7^ b9^ 1v",
            "5/8 b7 9 5v b3/4 1/4 ; 3/8 5^ b7^ b9^ 5v 3 b7^ b13",
        ),
        "home": (
            "3/8 5 7 9^ 5v 3 1 7v ; 9/2 r/2",
            "3/4 r/4 r/8 5 3 1 ; 7v 1 9 5v 9^/4 r/4",
            "r/8 3 5^ 7^ 9^ 7 5 3 ; 1/4 5v/4 9^/4 r/4",
        ),
        "min": (
            "1/8 9 b3 5 1^ 13v 5 b3 ; 9/4. 1/8 5v/4 r/4",
            "5/4 b3/8 1 9/4 r/4 ; r/8 5v 1^ b3^ 9v/4 r/4",
            "b3/8 9 1 5v 1 b3 5 9^ ; 1v/4 r/4 r/2",
        ),
        "mcad": (
            "1/8 b3^ b5^ b7^ 3v 5^ b7^ b9^ ; 5v b3 1 5v 9^/4 r/4",
            "b5/8 b3 1 b7v 3 5^ b7^ b9^ ; 1v/4 5/4 9/4 r/4",
            "1/4 b3/8 b5 b7v 5 b9 1 ; b3/4 9/4 r/2",
        ),
        "dom": (
            "3/8 5^ b7^ b9^ 1v b7v 5v 3v ; 1/4 r/8 3 5^ b7^ b9^ 1v",
            "13/8 5 3 1 b7v 1 9 3 ; 3 5^ b7^ b9^ 5v/4 r/4",
            "1/8 9 3 5 b7 5 3 1 ; 9/4. 3/8 5^ b7^ b9^ 1v",
        ),
        "blues": (
            "3/8 5^ b7^ b9^ 1v/4 r/4 ; r/8 3 5^ b7^ 9^ b7v 5v 3v",
            "1/4 b3/8 3 5/4 13/4 ; 5/8 3 1 b7v 9^/4 r/4",
            "r/8 5v 13 1^ 3 1 13v 5 ; b7/4 5/8 3 9/4 r/4",
        ),
        "four": (
            "1/8 3 5 b7 9 b7 5 3 ; 1 b3^ b5^ bb7^ b5v b3 1/4",
            "3/4 5/8 b7 b9 1 b7 5 ; b3 b5 bb7 1^ bb7/4 r/4",
        ),
        "to VI": (
            "5/8 3 1 b7v 3/4 r/4 ; 3/8 5^ b7^ b9^ 1v b7 5 3",
            "5/4 3/4 1/8 b7v 5v 3 ; 3 5^ b7^ b9^ 5v/4 r/4",
        ),
    },
    55,
    82,
)

ILKA = Player(
    "Ilka Rosenquill",
    {
        "turn": (
            "b3/8 3 5 13 5/4 3/4 ; b3/4 1/4 7/8 1/4.",
            "1/8 1 1/4 3/8 3 3/4 ; b3/8 b3 5/4 3/4 r/4",
            "r/4 b3/8 3 5 13 5 3 ; 1 b3 5 b7 7 1/4.",
        ),
        "cad": (
            "5/8 b3 1 b7v 1 3 5 3 ; b3 3 5 13 1^/4 r/4",
            "1/4 b3/8 5 5 3 7 1 ; 3/4 7v/8 1/4. r/4",
            "b7/8 5 b3 1 3/4 5/8 b7 ; 7 1/4. r/2",
        ),
        "ii-V": (
            "1/8 1 b3 5 b7/4 5/4 ; 3/8 1 b7v 1 7v 1/4.",
            "r/8 5v b7 1^ b3/4 1/4 ; 5/8 5 5 3 1/4 r/4",
            "b3/4. 1/8 5v/4 r/4 ; b3/8 3 5 13 1^/4 r/4",
        ),
        "home": (
            "b3/8 3 5 13 1^/4 r/4 ; r/8 13v 5 3 7v 1/4.",
            "1/4 r/8 5v 13 1 3/4 ; 7v/8 1/4. r/2",
            "5/8 5 5/4 13/8 5 3/4 ; b3/8 3 1/4 r/2",
        ),
        "min": (
            "1/8 b3 11 5 b7 5 11 b3 ; 1/2 r/2",
            "5/4 b7/8 1^ b3/4 1/4 ; b7v/8 5 7 1^ 1/4 r/4",
            "r/4 5v/8 b7 1^/4 b3/4 ; 11/8 b3 1 7v 1/4 r/4",
        ),
        "mcad": (
            "b5/8 b3 1 b7v 3 5 b7 5 ; b3 1 7v 1 1/4 r/4",
            "1/8 b3 b5/4 5/8 3 1 b7v ; 7v 1/4. r/2",
            "r/8 1 b3 b5 b9 1 b7 5 ; 1/4 b3/4 7v/8 1/4.",
        ),
        "dom": (
            "b3/8 3 5 13 1^/4 13/4 ; 5/8 3 b3 1 7v 1/4.",
            "1/8t 1 1 3/4 5/8t 5 5 13/4 ; b7/8 5 3 1 b3 3 1/4",
            "r/4 b3/8 3 5/4 b7/4 ; 13/8 5 3 1 7v 1/4.",
        ),
        "blues": (
            "b3/8 3 5 13 1^/4 r/4 ; r/8 b3 1 b7v 5v/4 1^/4",
            "1/4. 1/8 b3 3 1/4 ; 5/8 5 3 1 7v 1/4.",
            "r/4 5v/8 13 1^ b3 3 1 ; b7/4 5/4 7/8 1/4.",
        ),
        "four": (
            "1/8 3 5 13 b7/4 13/4 ; 1/8 b3 b5 b3 1/4 r/4",
            "b3/8 3 5 13 5/4 3/4 ; b5/4 b3/8 1 bb7v 1/4.",
        ),
        "to VI": (
            "b3/8 3 5 13 5 3 1/4 ; 3/8 1 b7v 1 7v 1/4.",
            "1/4 5v/8 13 1/4 3/4 ; b9/8 1 b7 5 3/4 r/4",
        ),
    },
    50,
    77,
)

PERPETUA = Player(
    "Perpetua Lindqvarn",
    {
        "ii-V": (
            "r/8 1 b3^ 5^ b7^ 9^ ; 13v b13 5 3 1/4",
            "r/8 5v b3 1 b7v 1 ; 3/4 13/8 b13 5/4",
            "b3/4 1/8 b3^ 5^ b7^ ; 9 b9 1 13v b13 5",
        ),
        "home": (
            "r/8 1 3^ 5^ 7^ 9^ ; 7/4 5/4 r/4",
            "5/4. 3/8 1/4 ; r/8 3 13 b13 5/4",
            "r/8 13 b13 5 3 1 ; 5/2 r/4",
            "1/8 3^ 5^ 7^ 9/4 ; 13v/8 b13 5/4 r/4",
        ),
        "min": (
            "r/8 1 b3^ 5^ b7^ 9^ ; b7/4 b3/8 1 5v/4",
            "b3/4 9/8 1 5v/4 ; r/8 b7 13 b13 5/4",
            "r/8 5 13 b13 5 b3 ; 1/4 5/4 r/4",
        ),
        "dom": (
            "r/8 1 3^ 5^ b7^ 9^ ; 13v b13 5 3 1/4",
            "3/4 5/8 b7 9/4 ; r/8 13 b13 5 3/4",
            "b7/8 5 3 1 b7v 1 ; 5/2 r/4",
        ),
        "mii-V": (
            "r/8 1 b3^ b5^ b7^ 1^ ; b9 1 b7 5 3/4",
            "b5/4 b3/8 1 b7v/4 ; 3/8 5 b9 1 b13 5",
        ),
        "modal": (
            "r/8 1 b3^ 5^ b7^ 9^ b7 5 ; 13 b13 5/4 r/2",
            "r/8 5v b7 1^ 9^ b3 1 b7 ; 5/4 b3/8 1 5/4 r/4",
            "b3/4. 9/8 1/4 5v/4 ; r/8 b7 13 b13 5/4 r/4",
            "r/8 1 b3^ 5^ b7^/4 9/4 ; 1v/8 b7 13 b13 5/2",
            "9/8 1 b7 5 b3/4 5/4 ; r/8 11 b3 9 5/4 r/4",
        ),
    },
    55,
    86,
)
