"""Questions about a graph that was evaluated: where an element came from, what a text means where it stands."""
