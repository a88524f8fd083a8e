#!/usr/bin/env python3
"""Writes for one berth how deep the water is.

    tides.py --berth 3 tide.log
"""
import argparse
from dataclasses import dataclass

LOW_WATER = 2.5  # metres that a ferry needs


@dataclass
class Tide:
    """A level of the water, as the gauge writes it."""

    time: str
    level: float

    def is_low(self) -> bool:
        return self.level < LOW_WATER

    def __str__(self):
        word = "low" if self.is_low() else "deep enough"
        return f"{self.time}: {self.level:.2f} m, {word}"


def read_log(path, berth=None):
    """All tides of a log; of one berth only, if that is given."""
    with open(path, encoding="utf-8") as log:
        for line in log:
            fields = line.split()
            if len(fields) < 7 or line.startswith('#'):
                continue
            if berth is None or fields[4] == str(berth):
                yield Tide(fields[1], float(fields[6]))


if __name__ == "__main__":
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--berth", type=int, default=1)
    parser.add_argument("log")
    options = parser.parse_args()
    for tide in read_log(options.log, options.berth):
        print(tide)
