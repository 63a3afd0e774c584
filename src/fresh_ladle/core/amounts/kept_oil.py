"""Oil that was kept from a jar or a pan: oil with a smell of what lay in it, not the solids."""

from __future__ import annotations

import re

SURE_OF_KEPT_OIL = 0.7
"""Which oil it was, the line seldom says."""
_OF = (
    r"(?:from|off|out of|left from|left over from|left in|reserved from|kept from|drained"
    r" from|skimmed (?:from|off)|"
    r"of|in)"
)
_COOKED = r"(?:fried|cooked|roasted|confit\w*|infused|steeped|sizzled|browned|crisped|toasted|poached|lay|sat|came)"
_SAID = re.compile(
    rf"^(?:(?P<kind>olive|sunflower|canola|rapeseed|vegetable|peanut|grapeseed|avocado)\s+)?oil\s+"
    rf"(?:{_OF}\s+(?:the\s+|a\s+)?(?P<source>[a-z].+)"
    r"|(?:that\s+|which\s+|where\s+|in which\s+)?(?:the\s+)?(?P<fried>[a-z].*?)\s+(?:was |were"
    rf" |got )?{_COOKED}\b.*"
    r"|(?:off|from) the top of (?:the\s+)?(?P<top>.+))$",
    re.I,
)
_NAMED = re.compile(
    r"^(?:the\s+)?(?P<source>(?:sun-?dried"
    r" )?tomato(?:es)?|anchov(?:y|ies)|artichokes?|tuna|sardines?|"
    r"(?:garlic|shallot|onion|tomato|chil[ei]|chilli) confit|confit(?:"
    r" garlic)?|shallots?|onions?|scallions?)"
    r"(?:'s)?(?: jar| tin| can)? oil\b.*$",
    re.I,
)
_ALLIUM = re.compile(r"garlic|onion|shallot|leek|scallion|spring onion|ramp|chive", re.I)
_CHILE = re.compile(r"\bchil|chipotle|crisp\b|harissa|sichuan", re.I)
_IN_OLIVE_OIL = re.compile(r"sun-?dried|anchov|tuna|sardine|feta|olive|tomato", re.I)


def kept_oil(phrase: str) -> str | None:
    """What to look for instead of a phrase such as "oil the shallots fried in"; None when no oil
    was kept."""
    match = _SAID.match(phrase) or _NAMED.match(phrase)
    if match is None:
        return None
    said = match.groupdict()
    source = next((s for s in (said.get("source"), said.get("fried"), said.get("top")) if s), "")
    if _CHILE.search(source):
        return "chili oil"
    if _ALLIUM.search(source):
        return "garlic-infused oil"
    if said.get("kind"):
        return f"{said['kind']} oil"
    return "olive oil" if _IN_OLIVE_OIL.search(source) else "vegetable oil"
