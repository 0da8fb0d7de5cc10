"""A build in time: the same network with its heat capacities, driven by loads, bursts, limits and fan curves."""
