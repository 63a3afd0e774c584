"""What several places show."""
