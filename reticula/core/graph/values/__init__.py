"""Value nodes: chains of them as formulas, and formulas as chains."""
