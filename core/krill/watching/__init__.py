"""A run while it goes on: what the samples so far say of where it settles, what is off, what nears a limit, what failed."""
