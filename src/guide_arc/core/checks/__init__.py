"""One file per check name; `registry.CHECKS` holds them all."""
