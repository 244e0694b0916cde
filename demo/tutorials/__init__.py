"""The graphs of the tutorials, as they are at the end: ``python -m demo.tutorials.graphs`` writes them as JSON."""
