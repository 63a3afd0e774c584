"""Pages for phones: short links, and the lane by which phones in the room come in."""
