"""How the gym trains, as it is kept among its settings."""

from __future__ import annotations

from pine_ladder.core.day.training_style import TrainingStyle
from pine_ladder.store.models import Gym

STYLE = "style"
"""The setting of how the gym trains."""


def style_of(gym: Gym) -> TrainingStyle:
    """How the gym trains; the usual style where it has chosen none."""
    return TrainingStyle.model_validate(gym.settings.get(STYLE, {}))
