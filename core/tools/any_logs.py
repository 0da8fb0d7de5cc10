"""How much of made logs is read rightly, by subject: python tools/any_logs.py [COUNT] [FIRST SEED] [--settling] [-v]."""

import sys
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parents[1] / "tests"))

from independent.any_logs import any_log
from independent.log_scores import SUBJECTS, Score, score
from strategies import recipe


def main() -> None:
    figures = [int(word) for word in sys.argv[1:] if word.isdigit()]
    count, first = (*figures, 200, 0)[:2] if len(figures) != 1 else (figures[0], 0)
    build, total, points = recipe(), Score(), []
    for seed in range(first, first + count):
        made = any_log(seed)
        try:
            one = score(made, build, "--settling" in sys.argv)
        except Exception as error:  # a tool that counts what breaks
            one = Score()
            for subject in SUBJECTS:
                one.say(subject, right=False, what=f"{type(error).__name__}: {error}")
        if "-v" in sys.argv:
            for wrong in one.wrong:
                print(seed, wrong)
        points.append(one.points)
        total.add(one)
    for subject in (*SUBJECTS, "held", "truly settled"):
        print(f"{subject:24s}{100 * total.share(subject):6.1f} %  of {total.of[subject]}")
    print(f"points, mean of logs    {100 * sum(points) / len(points):6.1f} %")


if __name__ == "__main__":
    main()
