"""Old scores brought into the gym in the browser, and taken back."""

from __future__ import annotations

from playwright.sync_api import expect

TABLE = """date,piece,person,entered
2024-03-03,Two miles,Tomas Keel,15:12
2024-03-03,Two miles,Thomas Keel,15:40
2024-03-03,Two miles,Finn Wicker,soon
"""


GOOD = TABLE.replace("soon", "17:05")


def test_a_table_is_looked_at_its_names_answered_and_taken_back(visit):
    page = visit.enter("Maren Tolle", at="/gym#import")
    old = page.get_by_role("region", name="Old scores")
    old.get_by_label("The table").fill("date,piece\n2024-03-03,Two miles")
    old.get_by_role("button", name="Look at it").click()
    expect(old.get_by_role("alert")).to_contain_text("no column person or entered")
    with page.expect_file_chooser() as choosing:
        old.get_by_role("button", name="From a file").click()
    choosing.value.set_files({"name": "old.csv", "mimeType": "text/csv", "buffer": GOOD.encode()})
    old.get_by_role("button", name="Look at it").click()
    expect(old.get_by_role("status")).to_contain_text(
        "1 new score, 2 of doubtful names. 1 day will be written for them."
    )
    old.get_by_label("Who is Thomas Keel? 1 score").select_option("leave out")
    old.get_by_label("Who is Finn Wicker? 1 score").select_option("somebody new")
    # Another answer is another table: it is looked at again before it is kept.
    expect(old.get_by_role("button", name="Import", exact=True)).to_have_count(0)
    old.get_by_role("button", name="Look at it").click()
    expect(old.get_by_role("status")).to_contain_text("2 new scores, 1 of doubtful names.")
    old.get_by_role("button", name="Import", exact=True).click()
    expect(old.get_by_text("2 scores brought in.")).to_be_visible()
    page.goto(f"{visit.base}/day/2024-03-03/compare")
    expect(page.get_by_role("main")).to_contain_text("Finn Wicker")
    page.goto(f"{visit.base}/gym#import")
    old.get_by_role("button", name="Undo: 2 scores").click()
    expect(old.get_by_text("2 scores taken back.")).to_be_visible()


def test_entries_that_say_nothing_together_are_refused_by_line(visit):
    page = visit.enter("Maren Tolle", at="/gym#import")
    old = page.get_by_role("region", name="Old scores")
    old.get_by_label("The table").fill(TABLE)
    old.get_by_role("button", name="Look at it").click()
    expect(old.get_by_role("listitem").first).to_contain_text(
        "line 2: what was done is not told: give the piece in a column board"
    )


def test_kit_comes_in_from_a_table(visit):
    page = visit.enter("Maren Tolle", at="/gym#import")
    tables = page.get_by_role("region", name="Tables")
    tables.get_by_label("What it holds").select_option("kit")
    tables.get_by_label("The table's rows").fill("kit,count\nsled,2\nbox,9\nrower,many")
    tables.get_by_role("button", name="Look at it").click()
    lines = tables.get_by_role("listitem")
    expect(lines.nth(0)).to_have_text("sled: 2 new")
    expect(lines.nth(1)).to_contain_text("changed: 8 was there")
    expect(lines.nth(2)).to_contain_text("refused: many is no number")
    tables.get_by_role("button", name="Save 2").click()
    expect(tables.get_by_text("2 kept.")).to_be_visible()
    page.reload()
    page.get_by_role("button", name="Kit", exact=True).click()
    expect(page.get_by_label("Kit: sled")).to_have_value("2")


MESSY = """Datum;Athlete;WOD;Result;Level
14/03/2024;Keel, Tomas;Gull;12:30;Rx
14/03/2024;Finn Wicker;Gull;CAP+12;sc
14/03/2024;;Gull;9:59;
14/03/2024;Tomas Keel;Gull;-;
"""


def test_a_file_of_another_program_is_shown_before_it_is_saved_and_undone_as_one(visit):
    page = visit.enter("Maren Tolle", at="/gym#import")
    part = page.get_by_role("region", name="Import a file")
    with page.expect_file_chooser() as choosing:
        part.get_by_role("button", name="Choose a file").click()
    choosing.value.set_files({"name": "old.csv", "mimeType": "text/csv", "buffer": MESSY.encode()})
    expect(part.get_by_role("status")).to_contain_text("2 new, 0 changed, 0 already here, 2 rows")
    expect(part.get_by_label("Column “WOD”")).to_have_value("piece")
    expect(part.get_by_label("Which tier does “sc” mean?")).to_have_value("Scaled")
    part.get_by_text("Rows left out", exact=True).click()
    expect(part.get_by_role("listitem").first).to_contain_text("row 4: there is no name")
    part.get_by_role("button", name="Import 2 of 4 rows").click()
    expect(part.get_by_text("Imported: 2 new, 0 changed.")).to_be_visible()
    old = page.get_by_role("region", name="Old scores")
    old.get_by_role("button", name="Undo: 2 scores").click()
    expect(old.get_by_text("2 scores taken back.")).to_be_visible()
