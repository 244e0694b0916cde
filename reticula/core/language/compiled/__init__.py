"""The compiled back end: a script as one kernel that runs element by element, on all cores.

Building takes seconds, so it happens in a process of its own while the vector back end answers; what is built is kept
on disk under a hash of source and types.
"""

from reticula.core.language.compiled.executor import Job, run_job
from reticula.core.language.compiled.kernel_store import Builder, builder

__all__ = ["Builder", "Job", "builder", "run_job"]
