"""The days of services, worked out beside the pages that show them: in a process of their own, each
once."""

from __future__ import annotations

from fresh_ladle.core.service.schedule import Awaited, Impossible, OrderAsk, Schedule
from fresh_ladle.store.people.acting import acting
from fresh_ladle.store.services.orders import asked_of, kept_order, save_order
from fresh_ladle.web.state import Workbench
from fresh_ladle.web.work.jobs import Job
from fresh_ladle.web.work.processes import DAYS, Overrun, Telling

SHORTLY_S, AT_MOST_S = 0.3, 50.0
"""How long a page waits before it says that the day is being worked out, and a file before it gives
up."""


def order_of(
    workbench: Workbench, service_id: int, ask: OrderAsk, seconds: float
) -> Schedule | Impossible | Awaited:
    """The order of work of a kept service: as it was kept, or as it comes out within so many
    seconds; else it is awaited, and worked out meanwhile. Raises Overrun, once, where that
    failed."""
    if (found := _kept(workbench, service_id, ask)) is not None:
        return found
    job = _begun(workbench, service_id, ask)
    if not job.ended.wait(seconds):
        return Awaited()
    with workbench.days.lock:
        workbench.days.jobs.pop(service_id, None)
    if job.error:
        raise Overrun(job.error.rstrip("."))
    return _kept(workbench, service_id, ask) or Awaited()


def _kept(workbench: Workbench, service_id: int, ask: OrderAsk) -> Schedule | Impossible | None:
    with workbench.store() as connection:
        return kept_order(connection, service_id, ask)


def _begun(workbench: Workbench, service_id: int, ask: OrderAsk) -> Job:
    """The job that works a day out: the one there is, or a new one in place of one that was asked
    something else."""
    asked = asked_of(ask)
    with workbench.days.lock:
        before = workbench.days.jobs.get(service_id)
        if before is not None and before[0] == asked:
            return before[1]
        if before is not None:
            before[1].stop_asked.set()

        def work(job: Job) -> None:
            acting.set(None)  # Nobody does this: it follows from what somebody did.
            found = DAYS.run(worked_out, ask, stop_asked=job.stop_asked.is_set)
            with workbench.store() as connection:
                save_order(connection, service_id, ask, found)

        job = workbench.jobs.start(work, about="the day of a service")
        workbench.days.jobs[service_id] = asked, job
        return job


def worked_out(telling: Telling, ask: OrderAsk) -> Schedule | Impossible:
    return ask.solved()
