"""Drawings that several places show."""
