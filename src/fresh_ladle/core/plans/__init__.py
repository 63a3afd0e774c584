"""Whole plans: several changes at once that meet the targets and keep the taste, in kitchen
measures."""
