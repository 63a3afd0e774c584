"""A class from a recipe: what is done before, what each table does, how long each part takes."""
