"""What a desk is: the protocol, its commands as data, and the studio it works in."""
