"""Value nodes: the language drawn as wires. Each writes an expression; a chain of them is a formula."""
