"""The Label desk's parts: the note card, the queue, harmony and readings, the analysis as text, the school."""
