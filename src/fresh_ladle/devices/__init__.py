"""Scales and thermometers: one small interface, an adapter for what is plugged in, and stand-ins
that ship."""
