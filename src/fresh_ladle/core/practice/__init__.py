"""Practice for the eye and the judgement: exercises made from foods and recipes, and how well they
were answered."""
