"""The rules of the job: pure functions on frozen models, free of web, database and files."""
