"""From where a clip can be filmed, in words."""

from collections.abc import Mapping
from typing import Final

from guide_arc.core.model.track import StatedView

VIEW_WORDS: Final[Mapping[StatedView, str]] = {
    "left": "from the left",
    "right": "from the right",
    "front": "from the front",
    "back": "from the back",
    "front-left": "from front left",
    "front-right": "from front right",
    "back-left": "from back left",
    "back-right": "from back right",
}
# The same for a recording of which no view is said: it came in three dimensions.
ANY_VIEW_WORDS: Final[Mapping[str, str]] = {
    "none": "in 3D",
    **{str(view): words for view, words in VIEW_WORDS.items()},
}
