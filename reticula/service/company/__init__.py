"""Who is at a graph: pages hear of each other and of edits."""
