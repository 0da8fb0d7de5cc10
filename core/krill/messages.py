"""Messages between processes of Krill on one machine: pickles behind their length, on any stream of bytes."""

import pickle
import struct
from typing import Any, Final, Protocol

_LENGTH: Final = struct.Struct("!Q")


class Stream(Protocol):
    """What bytes are read from and written to: a file, a pipe, a socket's file."""

    def read(self, size: int, /) -> bytes | None: ...
    def write(self, data: bytes, /) -> Any: ...
    def flush(self) -> None: ...


def send(stream: Stream, message: Any) -> None:
    packed = pickle.dumps(message, protocol=5)
    stream.write(_LENGTH.pack(len(packed)))
    stream.write(packed)
    stream.flush()


def receive(stream: Stream) -> Any:
    """The next message; EOFError where the other side has ended."""
    size = _LENGTH.unpack(_exactly(stream, _LENGTH.size))[0]
    return pickle.loads(_exactly(stream, size))  # noqa: S301 - both sides are Krill, as one user


def _exactly(stream: Stream, count: int) -> bytes:
    data = stream.read(count)
    if data is None or len(data) < count:
        raise EOFError("the other side has ended")
    return data
