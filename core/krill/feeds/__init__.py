"""What feeds what: watts and amperes of every plug, lead and supply, against what they bear."""
