"""The graph document: its schema, wires and order, and the published operators that it names."""
