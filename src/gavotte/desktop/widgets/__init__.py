"""The small widgets all desks are made of."""
