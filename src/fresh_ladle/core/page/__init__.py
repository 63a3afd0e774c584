"""A recipe as it stands in the world: what each line of a page is, decided for the whole text
together."""
