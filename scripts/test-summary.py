#!/usr/bin/env python3
"""Says what a test run ran, in how long, and what share of the lines its tests covered.

Reads what Surefire, JaCoCo and Vitest left under each module's target folder. The last line counts
all tests; the exit code is 1 where nothing ran.
"""

import csv
import json
import sys
import xml.etree.ElementTree as xml
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
MODULES = ["core", "demo", "document", "web", "server", "e2e", "bench"]


def java(module, since):
    """(tests, failures, skipped, seconds, covered, lines) of a module's tests, None without any."""
    tests = failed = skipped = 0
    seconds = 0.0
    for report in sorted((module / "target/surefire-reports").glob("TEST-*.xml")):
        if report.stat().st_mtime < since:
            continue
        suite = xml.parse(report).getroot()
        tests += int(suite.get("tests", 0))
        failed += int(suite.get("failures", 0)) + int(suite.get("errors", 0))
        skipped += int(suite.get("skipped", 0))
        seconds += float(suite.get("time", "0").replace(",", ""))
    covered = lines = 0
    coverage = module / "target/site/jacoco/jacoco.csv"
    if coverage.exists() and coverage.stat().st_mtime >= since:
        with coverage.open() as rows:
            for row in csv.DictReader(rows):
                covered += int(row["LINE_COVERED"])
                lines += int(row["LINE_COVERED"]) + int(row["LINE_MISSED"])
    return (tests, failed, skipped, seconds, covered, lines) if tests else None


def web(module, since):
    """The same of the screens' tests."""
    report = module / "target/vitest.json"
    if not report.exists() or report.stat().st_mtime < since:
        return None
    result = json.loads(report.read_text())
    seconds = sum(it["endTime"] - it["startTime"] for it in result["testResults"]) / 1000
    covered = lines = 0
    coverage = module / "target/coverage/coverage-summary.json"
    if coverage.exists() and coverage.stat().st_mtime >= since:
        total = json.loads(coverage.read_text())["total"]["lines"]
        covered, lines = total["covered"], total["total"]
    return (
        result["numTotalTests"],
        result["numFailedTests"],
        result["numPendingTests"],
        seconds,
        covered,
        lines,
    )


def main():
    since = float(sys.argv[1]) if len(sys.argv) > 1 else 0.0
    print(f"{'module':<10}{'tests':>8}{'failed':>8}{'skipped':>9}{'seconds':>9}  lines covered")
    all_tests = all_failed = all_skipped = 0
    for name in MODULES:
        found = (web if name == "web" else java)(ROOT / name, since)
        if found is None:
            continue
        tests, failed, skipped, seconds, covered, lines = found
        share = f"{100 * covered / lines:.0f} % of {lines:,}" if lines else "not counted"
        print(f"{name:<10}{tests:>8,}{failed:>8}{skipped:>9}{seconds:>9.0f}  {share}")
        all_tests += tests
        all_failed += failed
        all_skipped += skipped
    print(f"{all_tests - all_failed - all_skipped} passed, {all_failed} failed, {all_skipped} skipped")
    return 0 if all_tests else 1


if __name__ == "__main__":
    sys.exit(main())
