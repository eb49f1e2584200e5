"""Guide Arc: measures a recorded training set against the intended path."""

import logging

__version__ = "0.1.0"

# Nothing is printed where nobody keeps a log: a command says what is wrong in a sentence, without a
# traceback.
logging.getLogger("guide_arc").addHandler(logging.NullHandler())
