"""Every route of the API by who may call it, and values to fill its addresses with."""

from __future__ import annotations

FILLED = {
    "date": "2026-06-04",
    "key": "999999",
    "name": "nothing",
    "board_id": "999999",
    "piece_id": "999999",
    "person_id": "999999",
    "athlete_id": "999999",
    "class_id": "999999",
    "token": "nothing",
    "start": "06:30",
    "step": "999999",
    "mark": "nothing",
    "import_id": "999999",
    "programme_id": "999999",
    "letter_id": "999999",
    "table": "kit",
}

# Who may call what: written by hand, not read from the guards.
PUBLIC = """
GET    /calendar/{token}.ics
POST   /demo/sign-in
GET    /front-door
GET    /health
GET    /links/{token}
POST   /links/{token}
POST   /setup
POST   /sign-in
POST   /sign-in/forgotten
GET    /time
GET    /wall/{token}
GET    /wall/{token}/bests
GET    /wall/{token}/figures
GET    /wall/{token}/live
"""

MEMBER = """
GET    /bests
GET    /days/{date}/pieces/{key}/retests
GET    /days/{date}/pieces/{key}/rounds
GET    /days/{date}/pieces/{key}/standings
GET    /figures
GET    /figures/{name}
GET    /gym
GET    /ladders
GET    /live
GET    /me
GET    /me/about
PUT    /me/address
GET    /me/benchmarks
DELETE /me/calendar
GET    /me/calendar
POST   /me/calendar
GET    /me/clock
GET    /me/days/{date}
PUT    /me/days/{date}/check-in
GET    /me/days/{date}/classes
GET    /me/days/{date}/effort
PUT    /me/days/{date}/effort
POST   /me/days/{date}/pieces/{key}/answer
GET    /me/days/{date}/pieces/{key}/jots
POST   /me/days/{date}/pieces/{key}/jots
POST   /me/days/{date}/pieces/{key}/read
PUT    /me/days/{date}/pieces/{key}/score
GET    /me/days/{date}/pieces/{key}/trail
PUT    /me/days/{date}/place
GET    /me/days/{date}/places
GET    /me/days/{date}/words
PUT    /me/erase-wish
GET    /me/everything
DELETE /me/hearts
GET    /me/hearts
GET    /me/history
GET    /me/mail
PUT    /me/mail
PUT    /me/name
GET    /me/pace
GET    /me/profile
PUT    /me/profile
GET    /me/programmes
PUT    /me/programmes
GET    /me/sign-ins
DELETE /me/sign-ins/{mark}
GET    /me/strap
PUT    /me/strap
GET    /movements
GET    /movements/{name}
POST   /one-rep-max
POST   /password
POST   /sign-out
GET    /words
"""

COACH = """
GET    /athletes
POST   /athletes
PATCH  /athletes/{athlete_id}
GET    /athletes/overview
GET    /athletes/{athlete_id}/benchmarks
GET    /athletes/{athlete_id}/history
PUT    /athletes/{athlete_id}/override
GET    /athletes/{athlete_id}/pace
GET    /athletes/{athlete_id}/profile
PUT    /athletes/{athlete_id}/profile
GET    /athletes/{athlete_id}/strap
PUT    /athletes/{athlete_id}/strap
POST   /backup
GET    /everything
GET    /backups
GET    /bank
POST   /bank
DELETE /bank/{board_id}
POST   /bank/{board_id}/place
POST   /boards/change
GET    /classes/{class_id}/clock
POST   /classes/{class_id}/clock
DELETE /classes/{class_id}/clock/{step}
PUT    /classes/{class_id}/clock/{step}
POST   /classes/{class_id}/finishes/keep
PUT    /classes/{class_id}/here/{person_id}
GET    /classes/{class_id}/lanes/{key}
PUT    /classes/{class_id}/lanes/{key}
POST   /cycles/day
POST   /cycles/plan
GET    /cycles/{date}
GET    /cycles/{date}/boards
GET    /cycles/{date}/calendar
GET    /days
GET    /days/{date}
PUT    /days/{date}
GET    /days/{date}/board
PUT    /days/{date}/classes/{start}
POST   /days/{date}/classes/{start}/move
PUT    /days/{date}/classes/{start}/place
PUT    /days/{date}/classes/{start}/plan
POST   /days/{date}/clear
POST   /days/{date}/copy
GET    /days/{date}/floor
POST   /days/{date}/drafts
POST   /days/{date}/forward
GET    /days/{date}/next-time
GET    /days/{date}/page
GET    /days/{date}/pieces
GET    /days/{date}/pieces/{key}/choices
GET    /days/{date}/pieces/{key}/foretold
GET    /days/{date}/pieces/{key}/jots
POST   /days/{date}/pieces/{key}/jots
POST   /days/{date}/pieces/{key}/jots/keep
POST   /days/{date}/pieces/{key}/put
POST   /days/{date}/pieces/{key}/read
GET    /days/{date}/pieces/{key}/scaling
PUT    /days/{date}/pieces/{key}/scores/{person_id}
POST   /days/{date}/pieces/{key}/scores/{person_id}/judge
GET    /days/{date}/pieces/{key}/scores/{person_id}/trail
GET    /days/{date}/places
GET    /days/{date}/plan
PUT    /days/{date}/published
GET    /days/{date}/sheet
GET    /days/{date}/steps
POST   /days/{date}/tell
GET    /earlier
POST   /headings/read
POST   /headings/write
POST   /imports
POST   /imports/look
POST   /lines/read
POST   /lines/write
GET    /mail
PUT    /mail/weekly
POST   /mail/{letter_id}/again
PUT    /movements
DELETE /movements/{name}
GET    /people
POST   /people
POST   /people/invitations
POST   /people/many
POST   /people/read
PATCH  /people/{person_id}
POST   /people/{person_id}/erase
GET    /people/{person_id}/erasing
POST   /people/{person_id}/link
GET    /pieces
POST   /pieces
DELETE /pieces/{piece_id}
POST   /preview
GET    /programmes
POST   /programmes
DELETE /programmes/{programme_id}
PUT    /programmes/{programme_id}
POST   /scores/import
POST   /scores/import/look
GET    /scores/imports
DELETE /scores/imports/{import_id}
GET    /settings
PUT    /settings
GET    /settings/bare-loads
GET    /setup/open
GET    /shape
PUT    /shape
POST   /shape/look
GET    /tables/{table}
POST   /tables/{table}
POST   /testrun
GET    /walls
POST   /walls
DELETE /walls/{token}
GET    /week/{date}
GET    /week/{date}/boards
GET    /week/{date}/calendar
POST   /week/{date}/preview
GET    /week/{date}/season
POST   /warm-ups
POST   /week/{date}/template
POST   /week/{date}/tell
PUT    /week/{date}/theme
"""

TABLE = {"public": PUBLIC, "member": MEMBER, "coach": COACH}


def rows(table: str) -> list[tuple[str, str]]:
    return [(row.split()[0], f"/api{row.split()[1]}") for row in table.strip().splitlines()]
