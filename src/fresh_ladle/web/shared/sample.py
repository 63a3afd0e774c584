"""The sample that Read-in shows and the first tour begins with."""

from __future__ import annotations

SAMPLE = """White-bean and rosemary dip
Serves 8
1 (15 oz) can white beans, drained and rinsed
3 Tbsp extra-virgin olive oil
juice of half a lemon
2 cloves garlic, roasted
1 tsp fresh rosemary, chopped
1/2 tsp salt
black pepper to taste
a handful of parsley to garnish
"""
