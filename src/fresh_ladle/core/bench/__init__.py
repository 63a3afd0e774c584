"""What goes into one bowl, as it goes in, and how that becomes the recipe."""
