"""Logs of any logger: bytes to text, text to a table, cells to figures with units, a clock, and what each channel is."""
