"""What runs beside the requests: one supervised loop, and the jobs that run in it."""

from pine_ladder.jobs.loop import Loop, LoopHealth

__all__ = ["Loop", "LoopHealth"]
