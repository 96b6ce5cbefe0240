"""The Listen desk."""
