"""Published laws that Krill does not solve with: what its own are held against."""
