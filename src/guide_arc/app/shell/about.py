"""What the program does not do: said once, in plain words."""

ABOUT = (
    "Guide Arc describes movement. It diagnoses nothing, and it does not replace a licensed "
    "clinician or local rules.\n\n"
    "Pain is not a training signal: stop, and see a licensed clinician.\n\n"
    "Every number carries how far it may be off. Where a recording can't show something, the "
    "program says so instead of guessing.\n\n"
    "Recordings stay on this computer, readable by you alone. Nothing is sent anywhere."
)
