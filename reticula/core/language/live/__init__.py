"""What a text gives for one element, part by part and round by round, while it is being written."""

from reticula.core.language.live.live_run import live_formula, live_script
from reticula.core.language.live.record import Block, Live, Loop, Mark, Reading, Seen

__all__ = ["Block", "Live", "Loop", "Mark", "Reading", "Seen", "live_formula", "live_script"]
