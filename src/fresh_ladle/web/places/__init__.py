"""Every place a folder with all that is its own; the application finds them by it."""
