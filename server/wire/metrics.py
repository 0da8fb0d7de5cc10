"""What is counted of the work of a server, in the open Prometheus text format."""

from typing import Final

from prometheus_client import Counter, Histogram

_SECONDS: Final = (0.01, 0.03, 0.1, 0.3, 1, 3, 10, 30)

REQUESTS: Final = Counter("krill_requests", "Requests answered", ["operation", "method", "status"])
LATENCY: Final = Histogram("krill_request_seconds", "Time to an answer", ["operation"], buckets=_SECONDS)
QUESTIONS: Final = Counter("krill_questions", "Long questions, by how they ended", ["function", "ended"])
WAITED: Final = Histogram("krill_question_wait_seconds", "Time until a long question's turn", buckets=_SECONDS)
WORKED: Final = Histogram("krill_question_work_seconds", "Work on a long question", ["function"], buckets=_SECONDS)
ROWS: Final = Counter("krill_log_rows", "Rows of logs taken in")
