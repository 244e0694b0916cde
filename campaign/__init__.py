"""A long hunt for what breaks trust, on the running product: kills, crowds, a full disk, mutated and hostile input."""
