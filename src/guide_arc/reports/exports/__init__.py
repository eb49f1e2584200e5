"""What can leave a set: one file each, which declares its EXPORT. Menus, dialog and docs follow."""
