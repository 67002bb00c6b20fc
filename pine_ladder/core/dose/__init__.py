"""The dose of a session on each region of the body, 0 to 100."""

from pine_ladder.core.dose.dose import Dose, dose_of_piece, dose_of_session
from pine_ladder.core.dose.regions import Region

__all__ = ["Dose", "Region", "dose_of_piece", "dose_of_session"]
