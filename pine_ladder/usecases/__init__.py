"""What a gym does, one function each: routes, command line, jobs and demo call these."""
