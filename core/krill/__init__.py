"""Krill's computation: heat and flow networks of small housings. Knows nothing of servers and browsers."""

CORE_VERSION = "0.2.0"
