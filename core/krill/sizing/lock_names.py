"""What a lock on an address may be called."""

from collections.abc import Iterator

from krill.document.build import Build


def names_of(build: Build, address: str) -> Iterator[str]:
    """An address, its owner, the part that a place belongs to, the source or mover that a workload tells something."""
    owner, _, field = address.partition("/")
    yield owner
    yield address
    place = build.place_owners().get(owner)
    if place is not None:
        yield place[1].id
    table, _, told = field.partition("/")
    if table in ("movers", "watts") and told:
        yield told
        yield f"{table}/{told}"
