"""What is ticked, timed and noted beside a build sheet: records of the work, no figures of the document."""
