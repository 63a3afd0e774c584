"""A dish made for many: how much, in which batches and order, bought where, kept how long, at what
cost."""
