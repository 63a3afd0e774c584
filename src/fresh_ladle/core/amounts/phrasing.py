"""Turns of phrase put into the order the rest of the reader knows: "a sprig or two of thyme" is 1-2
sprigs."""

from __future__ import annotations

import re

from fresh_ladle.core.amounts.units import read_unit

_PURPOSE = {
    "season": "to taste",
    "salt": "to taste",
    "finish": "to finish",
    "drizzle": "to finish",
    "top": "for the top",
    "scatter": "for the top",
    "sprinkle": "for the top",
    "dust": "for the top",
    "garnish": "to garnish",
    "decorate": "to garnish",
    "serve": "to serve",
}
_TINY = re.compile(
    r"^(?:(?:an?|the) )?(?:tiny|teeny|wee|quick|light|gentle|modest|mean|very"
    r" small|tiniest|smallest)"
    r" (?P<unit>[a-z]+)\b",
    re.I,
)
_RULES: tuple[tuple[re.Pattern[str], str], ...] = tuple(
    (re.compile(pattern, re.I), replacement)
    for pattern, replacement in (
        (r"^(?:maybe|perhaps|probably|say|possibly|i use|i'd use|use|add|take)\s+(?=\d|an?\b|about\b|half\b)", ""),
        # What is said while one thinks, and what is done with the rest of a thing
        (r"^(?:(?:so|u+m+|u+h+|er+m?|okay|ok|and|then|well|also|like|oh)\b[,\s]+)+(?=[a-z\d])", ""),
        (r"^(?P<food>[^,]*?[a-z]) and (?P<use>(?:keep|reserve|save|discard|drain|rinse|mash|chop|slice)\b.*)$",
         r"\g<food>, \g<use>"),
        (r"^(?P<food>[^\d]+?)\s*[.…·_]{3,}\s*(?P<amount>\d.*)$", r"\g<amount> \g<food>"),
        (r",?\s*\b(?:of (?:your )?choice|of any kind|any kind|whatever you have)\b", ""),
        (r"\b(?:2|3|two|three)[- ]fingere?d?s? pinch", "good pinch"),
        (
            r"^(?P<amount>(?:\d[\d./ ]*\s*(?:k?g|oz|cups?|lb)\s+)?)(?P<food>[^,]*\b(?:lentil|rice|grain|quinoa"
            r"|bean|barley|freekeh|farro)s?),?\s+ready[- ](?:to[- ]eat|cooked|to[- ]use)\b.*$",
            r"\g<amount>cooked \g<food>",
        ),
        (r"^(?P<fill>scant|generous|heaping|heaped|level|rounded|good) (?P<count>\d[\d./ -]*)\s+(?=[a-z])",
         r"\g<count> \g<fill> "),
        # "3, about 1 kg eggplants": the count, and what they weigh together
        (r"^(?P<count>\d{1,2}),? (?P<weight>(?:about|around|roughly|approx\.?|some) \d[\d.,]* ?(?:k?g|lbs?|oz))\b,? "
         r"(?:of )?(?P<food>[a-z].*)$", r"\g<count> \g<food> (\g<weight>)"),
        (r"\bin (?:the|their) pods?\b", ", in the pod"),
        (r"\bsm\.\s+", "small "),
        (r"\bl(?:r)?ge?\.\s+", "large "),
        (r"\bmed\.\s+", "medium "),
        (r"^(?P<amount>\S+ balls? (?:of )?)(?=mozzarella\b)", r"\g<amount>fresh "),
        (r"^(?P<food>[a-z][^(\d]*?)\s*\((?P<note>[^()\d]*)\),?\s+(?P<amount>\d.*)$",
         r"\g<food> \g<amount>, \g<note>"),
        (
            r"^(?:1|an?|one) (?P<fruit>lemon|lime|orange),?(?: -)? (?:the )?zest and"
            r" (?:the )?(?:juice of half|half the juice)$",
            r"juice of 1/2 \g<fruit> + 1 \g<fruit>, zested",
        ),
        (r",?\s*(?:plus|and|\+) an? (?:good |little |small )?(?:splash|drizzle|bit|little|touch|pinch|dash|glug)$",
         ", plus more"),
        (r"^(?:the )?seeds? (?:from|of) (?P<count>\S+(?: an?)?) (?P<fruit>pomegranates?)\b",
        r"\g<count> \g<fruit>"),
        (r"\bmixed seeds\b", "pumpkin or sunflower seeds"),
        # "a lemon's worth of juice", "yolks of 2 eggs", "corn cut from 2 ears"
        (r"^(?P<count>\S+) (?P<fruit>lemon|lime|orange|grapefruit)s?'?s? worth(?: of juice)?\b",
         r"juice of \g<count> \g<fruit>"),
        (r"^(?P<part>yolk|white)s? (?:of|from) (?P<count>\S+) (?:large |medium |small )?eggs?\b",
         r"\g<count> egg \g<part>s"),
        (r"^(?P<food>[a-z][a-z ]*?),? (?:cut|sliced|stripped|shaved|picked|taken|off|kernels) (?:(?:from|off|of) )?"
         r"(?P<amount>\d\S* (?:ears?|cobs?|sprigs?|stalks?|stems?|pods?|bunch(?:es)?|heads?))$",
         r"\g<amount> \g<food>"),
        (r"^salt\s*(?:'?n'?|&amp;|/)\s*pepper\b|^s\s*(?:&|\+|and)\s*p\b", "salt and pepper"),
        (r"^equal parts (?:of )?(?P<foods>.+?),\s*(?P<amount>[^,]+?)\s+(?:of )?each$",
        r"\g<amount> each \g<foods>"),
        (
            r"^(?P<foods>[a-z][a-z' -]+?(?:,| and | & )[a-z' -]+),\s*(?P<amount>[^,]*?[a-z\d]\S*)\s*(?:of )?each$",
            r"\g<amount> each \g<foods>",
        ),
        (r"^(?P<count>\d+)\s*x\s+(?=[a-z])", r"\g<count> "),
        (r"^(?P<food>[a-z][a-z' -]+?)\s+x\s*(?P<count>\d+)(?P<after>,.*)?$",
        r"\g<count> \g<food>\g<after>"),
        (r"(?:,| -)\s*(?:lots|plenty|loads|a lot)(?: of it)?$", ", 1 lot"),
        (r"^(?:just )?enough (?P<food>.+?) (?P<use>to .+)$", r"\g<food>, \g<use>"),
        (r"\bto balance\b|\bfor balance\b|\bto adjust\b", "to taste"),
        (r"\bto (?:loosen|slacken|let (?:it |them )?down|thin)(?: (?:it|them|out))?(?: (?:out|down))?\b", "to thin"),
        (r"\b(?:yesterday's|day[- ]old|last night's|previously cooked|pre-?boiled)\b", "leftover"),
        (
            r"\bready[- ](?:to[- ]eat|cooked|to[- ]use)\b"
            r"(?=.*\b(?:lentil|rice|grain|quinoa|bean|barley|freekeh|farro))",
            "cooked",
        ),
        # "1/2 a jar", "2/3 of a 340 g block", "half the tin": a share of one
        (r"^(?P<share>(?:\d+\s+)?\d/\d)\s+(?:of\s+)?(?:an?|one|the)\s+(?=\S)", r"\g<share> "),
        (r"^(?P<count>\S+) (?P<where>(?:from|out of) (?:an?|the) (?:jar|can|tin|tub|packet)) of (?P<food>.+)$",
         r"\g<count> \g<food>, \g<where>"),
        # What follows a purpose or another liquid is no part of the name.
        (r"^(?P<food>[^,;(]*?[a-z]) (?P<use>(?:to|for) (?:boil|cook|blanch|poach|steam|soak|simmer)(?:ing)?"
         r"(?: (?:the|them|it|in|your)\b.*)?)$",
         r"\g<food>, \g<use>"),
        (r"^(?P<food>[^,;(]*?[a-z]) (?P<use>for (?:frying|cooking|saut\w+|brushing|greasing|roasting"
         r"|the (?:pan|tray))\b)",
         r"\g<food>, \g<use>"),
        (r"^(?P<food>[^,;(]*?\d[^,;(]*?[a-z]) (?P<use>(?:cooked|simmered|boiled|soaked|steeped|blended|whisked|mixed)"
         r" (?:in|with)\b)", r"\g<food>, \g<use>"),
        (r"^(?P<food>[^,;(]*?[a-z]) (?P<use>(?:loosened|thinned|let down|dissolved|popped|bloomed|sizzled|tempered"
         r"|tossed|mashed|blitzed|massaged|rubbed|squeezed|brushed|torn|broken|cut|grated|processed|scooped|peeled"
         r"|crushed|chopped|ground|scraped|shaved|sliced) (?:in|with|into|to|from|out of|over|by|through) )",
         r"\g<food>, \g<use>"),
        (r"^(?P<rest>.*?),?\s+(?:\+|&|and|plus|then) another (?P<unit>[a-z]+)\b(?P<use>.*)$",
         r"\g<rest> plus 1 more \g<unit>\g<use>"),
        (r"^(?P<rest>.*?),?\s+(?:\+|&|and|plus)\s+(?P<more>a (?:few|little|handful|bit)|some) (?=(?:for|to|on)\b)",
         r"\g<rest>, plus more "),
        (r"^(?:lashings|plenty|loads|lots|a lot|heaps|oodles|tons|masses|a (?:good|fair|generous) amount)(?: of)? ",
         "1 lot of "),
    )
)  # fmt: skip
_OR_TWO = re.compile(
    r"^(?:an?\s+)?(?P<size>(?:good|big|small|large|little)\s+)?(?P<unit>[a-z]+) or"
    r" (?:two|so|2)\b(?:\s+of)?\s*",
    re.I,
)
_WITH = re.compile(rf"^(?P<verb>{'|'.join(_PURPOSE)})(?:ed|d)?\s+with\s+(?P<food>.+)$", re.I)
_CITRUS = re.compile(
    r"^(?P<count>\S+)\s+(?P<fruit>lemon|lime|orange|grapefruit)(?:'s|s'|s)?\s+juice\b", re.I
)


def rephrased(plain: str) -> str:
    """The line with its turns of phrase put plainly. Nothing is dropped that tells a food or an
    amount."""
    if match := _WITH.match(plain):
        plain = f"{match['food']}, {_PURPOSE[match['verb'].lower()]}"
    if (match := _OR_TWO.match(plain)) and read_unit(match["unit"])[0]:
        count = "1-1.5" if re.search(r"\bor so\b", match[0], re.I) else "1-2"
        plain = f"{count} {match['size'] or ''}{match['unit']} of {plain[match.end() :]}"
    if (match := _CITRUS.match(plain)) and re.match(
        r"^(?:\d[\d./]*|an?|one|two|three|half)$", match["count"], re.I
    ):
        plain = f"juice of {match['count']} {match['fruit']}{plain[match.end() :]}"
    if (match := _TINY.match(plain)) and read_unit(match["unit"])[0]:
        plain = f"1 small {plain[match.start('unit') :]}"
    for pattern, replacement in _RULES:
        plain = pattern.sub(replacement, plain)
    return plain
