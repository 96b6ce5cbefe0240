"""Teaching sheets as values: what they are put together of, and what becomes of it for each reader."""
