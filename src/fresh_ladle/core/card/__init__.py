"""What leaves the kitchen on a card: figures, cautions for its reader, variations, steps."""
