#!/usr/bin/env bash
# Checks a workspace in a pipeline: DIR is the workspace, OUT where the reports go. Stops with the
# exit code of the first step that fails: 1 no or findings, 3 wrong input, 4 a source, 6 not known.
set -euo pipefail
dir="$1"
out="$2"
sober="${SOBER:-sober}"
mkdir -p "$out"
code=0
$sober expect -w "$dir" --junit "$out/expectations.xml" --sarif "$out/expectations.sarif" || code=$?
$sober findings -w "$dir" --weight high \
  --junit "$out/findings.xml" --sarif "$out/findings.sarif" || [ "$code" -ne 0 ] || code=$?
exit "$code"
