"""Putting a build together and looking after it: the order of the work, gates, fill, parts, cautions, dues."""
