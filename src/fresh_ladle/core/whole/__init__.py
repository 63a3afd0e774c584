"""What is known of one recipe."""
