"""Blind tasting: how samples are coded and ordered, what a panel can show, and what its answers
mean."""
