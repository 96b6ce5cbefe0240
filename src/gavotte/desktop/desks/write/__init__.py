"""The Write desk."""
