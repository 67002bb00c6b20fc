"""The tables of the store, in rooms: each name is to be had from here."""

from pine_ladder.store.models.base import MARK, Base, empty_every_table
from pine_ladder.store.models.boards import BankedBoard, Day, KeptPiece, PieceRow, WeekTheme
from pine_ladder.store.models.doors import (
    CalendarLink,
    FailedSignIn,
    KnownDevice,
    OneTimeLink,
    SetupCode,
    SignIn,
)
from pine_ladder.store.models.floor import (
    Attendance,
    ClassPlan,
    ClockStep,
    EffortRow,
    GroupsRow,
    GymClass,
    Jot,
    LateCancel,
    SignUp,
)
from pine_ladder.store.models.gym import (
    ClassTime,
    Follow,
    Gym,
    Kit,
    OwnMovementRow,
    Programme,
    Tier,
    Track,
    WallLink,
)
from pine_ladder.store.models.hearts import HeartRow, Strap
from pine_ladder.store.models.letters import MailRow, MailUnwanted, Word
from pine_ladder.store.models.people import Belief, Learning, OverrideRow, Person, ProfileRow
from pine_ladder.store.models.scores import RequestRow, ScoreImport, ScoreRow, ScoreTrail

__all__ = [
    "MARK",
    "Attendance",
    "BankedBoard",
    "Base",
    "Belief",
    "CalendarLink",
    "ClassPlan",
    "ClassTime",
    "ClockStep",
    "Day",
    "EffortRow",
    "FailedSignIn",
    "Follow",
    "GroupsRow",
    "Gym",
    "GymClass",
    "HeartRow",
    "Jot",
    "KeptPiece",
    "Kit",
    "KnownDevice",
    "LateCancel",
    "Learning",
    "MailRow",
    "MailUnwanted",
    "OneTimeLink",
    "OverrideRow",
    "OwnMovementRow",
    "Person",
    "PieceRow",
    "ProfileRow",
    "Programme",
    "RequestRow",
    "ScoreImport",
    "ScoreRow",
    "ScoreTrail",
    "SetupCode",
    "SignIn",
    "SignUp",
    "Strap",
    "Tier",
    "Track",
    "WallLink",
    "WeekTheme",
    "Word",
    "empty_every_table",
]
