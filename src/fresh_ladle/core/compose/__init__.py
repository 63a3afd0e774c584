"""A dish from nothing but roles, what is in the house, or the ratio of two lines."""
