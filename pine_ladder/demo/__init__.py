"""Kittiwake Hall, the demo gym: invented, and the same from the same seed."""

from pine_ladder.demo.gym import ZONE, NotTheDemo, load_demo, reset

__all__ = ["ZONE", "NotTheDemo", "load_demo", "reset"]
