"""The roles of the people of a practice: each may do all that those below it may."""

from __future__ import annotations

from enum import StrEnum


class Role(StrEnum):
    OWNER = "owner"
    DIETITIAN = "dietitian"
    COOK = "cook"
    READER = "reader"

    def may(self, least: Role) -> bool:
        """Whether this role reaches what is for `least` and those above it."""
        return _ORDER[self] >= _ORDER[least]


_ORDER = {role: height for height, role in enumerate(reversed(Role))}
WORDS = {
    Role.OWNER: "settings, people, copies, imports, and all that a dietitian does",
    Role.DIETITIAN: "targets, approval, cards, tastings, own foods, and all that a cook does",
    Role.COOK: "recipes and their drafts, plans, the bench, services and their records",
    Role.READER: "looks at recipes, cards, services and foods, practices, and changes nothing",
}
"""What each role is for, as the page of people says it."""
