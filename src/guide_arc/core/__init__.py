"""The measuring and judging core: numbers in, frozen values out; no files, no interface."""
