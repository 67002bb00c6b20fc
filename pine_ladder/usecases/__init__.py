"""Use cases of a gym, one function each: routes, command line, jobs and demo call them."""
