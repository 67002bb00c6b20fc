"""Drafts of a day, a week, a warm-up and a cycle: proposed with their reasons, never published."""

from pine_ladder.core.drafting.day import Draft, Refused, draft_day
from pine_ladder.core.drafting.prompt import Prompt, prompt_of

__all__ = ["Draft", "Prompt", "Refused", "draft_day", "prompt_of"]
