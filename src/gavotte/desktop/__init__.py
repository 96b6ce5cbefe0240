"""Everything seen and clicked. The only room that knows Qt; nothing imports it."""
