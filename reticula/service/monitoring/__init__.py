"""What can be seen of the running service: its log, and its figures."""
