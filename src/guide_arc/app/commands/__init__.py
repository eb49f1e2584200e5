"""One table of commands feeds menus, keys and palette."""
