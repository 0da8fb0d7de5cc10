"""A small logger that stands alone: reads a Linux host's sensors, writes CSV, sends batches to a live run."""
