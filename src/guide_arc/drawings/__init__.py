"""From a state to lines, areas, marks and words, without Qt: screen, report and test share it."""
