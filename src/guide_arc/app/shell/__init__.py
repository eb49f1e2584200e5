"""The window about the places: rail, header, foot, menus, palette. It knows no place by name."""
