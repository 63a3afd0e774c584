"""Dishes of which a caution must be raised, and look-alikes of which it must not."""
