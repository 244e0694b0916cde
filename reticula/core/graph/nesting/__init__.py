"""A graph as an operator: its dials as parameters, its inputs and outputs, its contracts."""
