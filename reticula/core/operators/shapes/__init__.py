"""Starting shapes."""
