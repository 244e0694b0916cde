"""Speed, side by side with other libraries in one run: ``python -m bench [NAME ...]``."""
