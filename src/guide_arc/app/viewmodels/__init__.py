"""What the places show, without any widget: wishes come in, news go out as signals."""
