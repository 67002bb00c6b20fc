"""Questions that are asked once for all rows of a table, and what they were answered with."""

from __future__ import annotations

from collections.abc import Mapping

from pine_ladder.core.plan import Frozen


class ImportQuestion(Frozen):
    """A question about a table: `choices` as shown, `guess` the likeliest of them."""

    id: str
    text: str
    choices: tuple[str, ...]
    guess: str


class Skipped(Frozen):
    """A row that is left out, by its line in the file (the headings being the first), and why."""

    row: int
    why: str


class Asked:
    """The questions of one look at a table, each answered by what was said or by its guess.

    `questions` keeps those that were asked, in their order; `wrong` says which answers are none of
    the choices.
    """

    def __init__(self, answers: Mapping[str, str] | None = None) -> None:
        self.answers = dict(answers or {})
        self.questions: list[ImportQuestion] = []
        self.wrong: list[str] = []

    def ask(self, question: ImportQuestion) -> str:
        """The answer to a question: the one given, else its guess."""
        if all(one.id != question.id for one in self.questions):
            self.questions.append(question)
        said = self.answers.get(question.id)
        if said is None:
            return question.guess
        if said not in question.choices:
            self.wrong.append(f"{question.id}: {said} is none of {', '.join(question.choices)}")
            return question.guess
        return said

    @property
    def open(self) -> list[ImportQuestion]:
        """Questions that nobody has answered yet."""
        return [question for question in self.questions if question.id not in self.answers]


Answers = Mapping[str, str]
