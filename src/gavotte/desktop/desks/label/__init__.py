"""The Label desk."""
