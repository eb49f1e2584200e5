"""The nouns of the product, as frozen values that can't be wrong."""
