"""The Vocabulary desk."""
