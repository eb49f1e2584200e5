"""Work spread over a team's machines by Dask's distributed scheduler (the extra `team`).

Each worker opens the library separately: all machines reach the same server and the same folder of
recordings.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from typing import Any, Final

from guide_arc.core.model.errors import BadInput

# How long a scheduler is waited for, and how often a job goes to another worker when its own is
# lost.
_WAITS: Final = "10s"
_TRIES: Final = 2


def on_cluster(
    work: Callable[[Any], Any], jobs: Sequence[Any], scheduler: str
) -> Iterator[tuple[Any, Any]]:
    """(job, what it gave) as they come from the workers; a sentence for a job that no worker could
    finish.

    Raises BadInput if the extra is not there or the scheduler does not answer.
    """
    try:
        from distributed import Client, as_completed  # noqa: PLC0415
    except ImportError:
        raise BadInput("other machines need the extra 'team'; install guide-arc[team]") from None
    try:
        client: Any = Client(scheduler, timeout=_WAITS, set_as_default=False)
    except (OSError, ValueError) as error:
        raise BadInput(
            f"the scheduler at {scheduler} does not answer ({error}); start it, or leave it out"
        ) from None
    try:
        if not client.scheduler_info()["workers"]:
            raise BadInput(f"the scheduler at {scheduler} has no workers; start some")
        with client.as_current():
            futures = client.map(work, jobs, pure=False, retries=_TRIES)
            job_of = {future.key: job for future, job in zip(futures, jobs, strict=True)}
            coming = as_completed(futures)
        for future in coming:
            job = job_of[future.key]
            lost = future.exception()
            if lost is None:
                yield job, future.result()
            else:
                yield job, f"set {job[0]}: its worker was lost ({type(lost).__name__})"
    finally:
        client.close()
