"""The sides that a camera can see, as they are chosen from."""

from typing import Final

VIEW_WORDS: Final = {"left": "from the left", "right": "from the right", "front": "from the front",
                     "back": "from the back"}  # fmt: skip
