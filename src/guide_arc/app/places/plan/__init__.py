"""Plan: what to do next, drawn to scale in time, with why and what the regions had."""
