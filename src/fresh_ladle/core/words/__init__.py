"""How figures and sentences are said."""
