"""Days and weeks in open formats: board text, JSON, iCalendar, a printed page."""
