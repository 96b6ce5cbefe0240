"""Names that come from rooms without Qt, marked so that they can be translated: forms and tunings."""

from __future__ import annotations

from gavotte.desktop.translation import QT_TRANSLATE_NOOP

FORM_WORDS = (
    QT_TRANSLATE_NOOP("Gavotte", "Blues, three chords"),
    QT_TRANSLATE_NOOP("Gavotte", "Blues, quick change"),
    QT_TRANSLATE_NOOP("Gavotte", "Blues, ii-V at the close"),
    QT_TRANSLATE_NOOP("Gavotte", "Blues, descending ii-V"),
    QT_TRANSLATE_NOOP("Gavotte", "Blues, dominants on the way"),
    QT_TRANSLATE_NOOP("Gavotte", "Minor blues"),
    QT_TRANSLATE_NOOP("Gavotte", "Minor blues, ii-V"),
    QT_TRANSLATE_NOOP("Gavotte", "A-A-B-A, bridge of dominants"),
    QT_TRANSLATE_NOOP("Gavotte", "A-A-B-A, bridge to IV"),
    QT_TRANSLATE_NOOP("Gavotte", "A-B-A-C"),
    QT_TRANSLATE_NOOP("Gavotte", "ii-V-I, four bars"),
    QT_TRANSLATE_NOOP("Gavotte", "ii-V-I, two bars"),
    QT_TRANSLATE_NOOP("Gavotte", "ii-V-I in minor"),
    QT_TRANSLATE_NOOP("Gavotte", "Turnaround vamp"),
    QT_TRANSLATE_NOOP("Gavotte", "Modal vamp, minor"),
    QT_TRANSLATE_NOOP("Gavotte", "Modal vamp, suspended"),
    QT_TRANSLATE_NOOP("Gavotte", "Rock, i-VI-III-VII"),
)
"""The names of ``FORMS``, in their order."""

TUNING_WORDS = (
    QT_TRANSLATE_NOOP("Gavotte", "Guitar"),
    QT_TRANSLATE_NOOP("Gavotte", "Bass, 4 strings"),
    QT_TRANSLATE_NOOP("Gavotte", "Bass, 5 strings"),
)
"""The names of ``TUNINGS``, in their order."""
