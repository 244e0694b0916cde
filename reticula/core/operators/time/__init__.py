"""Operators that look at other frames: motion, paths over time, the input at another frame, and blends."""
