"""From a driving measure to repetitions and their phases (formats: reps and phases)."""
