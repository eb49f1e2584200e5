"""The screens: one package each, none of which knows another."""
