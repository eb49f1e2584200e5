"""What places share: the open library, reviews, intake, clips, jobs. Never a widget, a dialog or a
place."""
