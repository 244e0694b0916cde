"""The compiled back end: a script as one kernel that runs element by element, on all cores.

Building takes seconds, so it happens in a process of its own while the vector back end answers; what is built is kept on disk
under a hash of source and types.
"""

from reticula.core.language.compiled.build import Builder, builder
from reticula.core.language.compiled.running import Job, run_job

__all__ = ["Builder", "Job", "builder", "run_job"]
