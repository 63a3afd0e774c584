"""Words and turns by which lines of a page are told apart."""

from __future__ import annotations

import re

VERBS = frozenset(
    """
    add arrange assemble bake beat blanch blend blitz boil break bring broil brush char check chill
    chop coat combine cook cool core cover crush cube cut dice dip discard distribute divide dollop
    drain dress drizzle drop dry empty fill finish flake flip fluff fold fry garnish gently grate
    grill grind halve heat hold insert juice keep knead ladle lay layer leave let lift line make
    marinate mash massage measure melt microwave mince mix moisten mound open pack pat peel pick
    pile pinch pit place poach portion pour preheat prepare press process puree purée pulse push put
    quarter reduce refrigerate remove reserve rest return rinse roast roll rub run salt saute sauté
    scatter scoop score scrape scrub season separate serve set shake shave shell shred simmer sit
    skin slice smash soak soften spin spoon spread sprinkle squeeze stand start steam stem stir
    store strain strip strew stuff swirl taste tear thaw thin tip toast top toss transfer trim turn
    use warm wash whip whisk whizz whiz wilt wrap zest label plunge refresh ribbon seal shuck slit
    splash tie trickle
    """.split()
)
"""What a cook is told to do, as a sentence begins with it."""
CONNECTIVES = frozenset(
    """
    then next now first finally meanwhile and just once when after before while if you so lastly
    afterwards last gently carefully slowly quickly lightly thinly very finely immediately in using
    with to for at on
    """.split()
)
"""What may stand before the verb of such a sentence."""
PARTS = frozenset(
    """
    salad dressing sauce topping toppings garnish base marinade vinaigrette dip filling crust
    croutons crunch bowl bowls serve serving assembly optional seasoning rest vegetables greens
    beans marinated spice spices mix crumbs finish
    """.split()
)
"""What headings of parts are made of."""

UNIT = (
    r"(?:g|gr|grams?|kg|oz|ounces?|lbs?|pounds?|ml|cl|dl|l|lit(?:er|re)s?|cups?|c|tbsps?|tablespoons?|tblsp|tbs|T|tsps?"
    r"|teaspoons?|t|cans?|tins?|jars?|cloves?|bunch(?:es)?|handfuls?|pinch(?:es)?|sprigs?|slices?|packets?|packages?|pkg"
    r"|heads?|stalks?|ribs?|sticks?|medium|large|small)\b\.?"
)
"""By what food is measured out within a sentence: fewer words than a line knows
(`core/amounts/units.py`), since the bowls, pots and trays of a method hold no amounts."""
NUMBER = (
    r"(?<!\d)(?:\d{1,5} \d{1,2}/\d{1,2}|\d{1,5}(?:[.,/]\d{1,4})?(?!\d)\s?[½⅓⅔¼¾⅛⅜⅝⅞]?|[½⅓⅔¼¾⅛⅜⅝⅞])"
)
MEASURED = re.compile(rf"{NUMBER}(?:\s?(?:-|–|to)\s?{NUMBER})?\s?{UNIT}", re.I)
"""An amount with its unit, anywhere."""
AMOUNT_LAST = re.compile(
    rf"(?:[.…]{{2,}}|\t|\s[-–—:]|[,\s])\s?(?:about )?{NUMBER}(?:\s?[-–]\s?{NUMBER})?(?:\s?{UNIT})?"
    r"(?:,\s[\w ]{1,40})?(?:\t[^\t]{0,60})?$",
    re.I,
)
"""An amount after the food, behind dots, a dash, a comma or a tab."""
LOOSE = re.compile(
    r"^(?:so |um |uh |and |like |then )*(?:about|around|roughly|some|a few|a couple"
    r"|(?:a |one |two |half a )?(?:good |big |large |small )*"
    r"(?:handfuls?|bunch|pinch|splash|dash|glug|drizzle|knob|squeeze)"
    r"|half an?|one|two|three|four|five|six|an?|the juice|juice|zest|lots of|plenty of)\b",
    re.I,
)
"""How an amount begins that is said in words."""
AS_LIKED = re.compile(
    r"\b(?:to taste|as needed|as liked|to garnish|for garnish|optional|to serve|on top)\b", re.I
)
NOTE_WORD = re.compile(
    r"^(?:(?:recipe |cook's |chef's"
    r" )?(?:notes?|tips?(?=\s*:|$)|storage|variations?|substitutions?|make[- ]ahead"
    r"|do ahead|leftovers?|equipment)\b|(?:it |this |will )?keeps?\b|good (?:on|with)\b|goes"
    r" (?:well )?with\b"
    r"|serve[sd]? with\b.*\.$)",
    re.I,
)
FIRST_PERSON = re.compile(
    r"\b(?:i|i'm|i've|my|we|our|me|mother|grandma|aunt|friends?|kids|neighbou?r)\b", re.I
)
TELLS = re.compile(
    r"\b(?:it|it's|you|they|is|are|was|were|until|till|when|that|so"
    r" that|because|will|won't|don't|not|if|this)\b",
    re.I,
)
"""Words of whole sentences."""
OF_WORK = re.compile(
    r"\b(?:minutes?|mins?|hours?|hrs?|overnight|until|till|degrees|°\s?[CF]|\d{3}\s?[CF]\b|oven|bowl|pan|pot|skillet"
    r"|saucepan|blender|jar|tray|refrigerator|fridge|together|gently|well|aside)\b",
    re.I,
)
NUTRITION = re.compile(
    r"\b(?:calories|kcal|nutrition|carb\w*|sodium|protein|fat|fib(?:er|re)|potassium|phosphorus)\b",
    re.I,
)
SIGNS = re.compile(r"[|›»★☆©@“”]|https?:|www\.|\b\d{3}-\d{4}\b|→|←")
GREETING = re.compile(
    r"^(?:hi|hello|dear|from:|to:|subject:|sent:|love,?|cheers|best|thanks|thank you|regards|see"
    r" you|xx?)\b",
    re.I,
)
PREPARED = re.compile(
    r",\s*(?:\w+"
    r" ){0,3}(?:chopped|diced|sliced|minced|grated|drained|rinsed|peeled|crushed|shredded|halved|cubed|cut"
    r"|torn|crumbled|toasted|thawed|cooked|melted|softened|trimmed|stemmed|seeded|juiced|leaves|divided|packed|ground)\b",
    re.I,
)
TIME = re.compile(
    r"^(?:(?:prep\w*|cook\w*|chill\w*|total|active|rest\w*|soak\w*|ready|marinat\w*)"
    r"(?:\s+time)?(?:\s+in)?\b\s*:?\s*\(?\d"
    r"|(?:total|prep\w*|cook\w*|chill\w*|active) time\b|time\s*:"
    r"|\d{1,3}\s*(?:mins?|minutes|hours?|hrs?)(?:\s+(?:prep|cook)\w*|$)|hands[- ]on\b)",
    re.I,
)
HEADED = re.compile(
    r"^(?:for (?:the |your )?[\w '&-]{2,40}|to (?:serve|finish|garnish)|on (?:the"
    r" )?(?:top|side)|serve with"
    r"|optional):?$",
    re.I,
)
LIST_WORD = re.compile(
    r"^(?:the )?(?:ingredients?(?: list)?|(?:what )?you(?:'ll| will)?"
    r" need)\s*(?:\([^()]*\)\s*)?:?$",
    re.I,
)
METHOD_WORD = re.compile(
    r"^(?:the )?(?:method|directions?|instructions?|preparation|procedure|steps?|how to"
    r" (?:make|do) it"
    r"|(?:what|how) (?:to|you|we|i) (?:do|make|cook|prepare)(?:"
    r" it)?|process)\s*(?:\([^()]*\)\s*)?:?$",
    re.I,
)
AROUND = re.compile(
    r"[|›»★☆]"
    r"|^(?:home|search|menu|about(?: us)?|contact(?: us)?|sign in|log in|recipes?|all"
    r" recipes|newsletter|subscribe)$"
    r"|^(?:skip to|jump"
    r" to|print|pin|share|save|rate|reviews?|comments?|updated|published|by|author|photos?|difficulty"
    r"|course|cuisine|keywords?|diet(?:ary)?|follow|advertisement)\b"
    r"|^(?:prep\w*|cook\w*|chill\w*|total|active|ready)?\s*(?:time|in)\b|^(?:prep|cook|chill)\b.*\d",
    re.I,
)
"""What no title of a dish begins with, or holds."""
SWITCHES = re.compile(
    r"^(?:\d{1,5}(?:"
    r" (?:people|comments?|reviews?|ratings?|likes?|shares?|votes?|responses?|replies|views)\b.*)?"
    r"|[\d.,]+ ?(?:kcal|kj|cal(?:ories)?)|\d(?:\.\d+)? \(\d+\)"
    r"|us customary|metric|imperial|[\dx ]*\dx|cook mode.*|(?:de)?select all|add to"
    r" .*list|scale|units?|step \d+"
    r"|\d{1,2}\.?)(?:\s+(?:metric|imperial|us customary|us))?\s*:?$",
    re.I,
)
"""Buttons among the ingredients, and numbers of steps on lines of their own."""
AFTERWARDS = re.compile(
    r"^(?:(?:recipe )?(?:notes?|tips?|storage|nutrition(?: facts|"
    r" information)?|video|equipment|comments?.*|reviews?.*"
    r"|share this.*|print|related.*|newsletter)\s*:?$"
    r"|(?:did you|tried|have you|leave a|let (?:me|us) know|you (?:may|might) also|more"
    r" (?:recipes|like)|goes well with"
    r"|rate this|subscribe|follow (?:me|us)|join \d|calories: ))",
    re.I,
)
"""Where the method is over."""
DISH = re.compile(
    r"\b(?:salad|\w*slaw|dressing|dip|spread|vinaigrette|sauce|hummus|pesto|salsa|tabbouleh|raita|mayo\w*|guacamole"
    r"|chutney|filling|marinade|bowls?|rémoulade|aioli|chimichurri|kachumber|tzatziki)\b",
    re.I,
)
"""What dishes are called."""
WHOLE_RECIPE = re.compile(r"(?:recipes?|batch(?:es)?|portions?|servings?|quantity|of)\b", re.I)
"""What is taken of another recipe as a whole."""
SHORT_HEADING = re.compile(r"^[A-Za-z][\w '&-]{1,40}:$")
"""A few words and a colon: what follows belongs under them."""
BRACKETS = re.compile(r"\([^()]*\)|\[[^\[\]]*\]")
SENTENCE_ENDS = re.compile(
    r"\b(?!(?:tbsp|tblsp|tsp|pkg|approx)\b)[a-z]{3,}[.!?](?=\s+[A-Z]|$)", re.A
)
"""Ends of whole sentences, not of words cut short."""
THING = re.compile(
    r"^\W*(?:\d+\s+)?(?:\w+\s+){0,2}(?:skewers?|toothpicks?|cocktail sticks?|parchment(?:"
    r" paper)?|baking paper"
    r"|greaseproof paper|foil|kitchen (?:twine|string)|cheesecloth|muslin|paper"
    r" (?:towels?|cases|cups)"
    r"|cling ?film|plastic wrap)\b",
    re.I,
)
"""What stands in a list and is not eaten."""
