"""How long a dish keeps and how warm it may be held: what is known of it, what it says itself, for guests at risk."""
