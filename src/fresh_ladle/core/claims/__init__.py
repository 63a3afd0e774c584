"""Which nutrition claims a dish may bear, by the public rules of the US, and of the EU and UK."""
