# Part of the entry script: runs the test parts and adds up their own counts. The last line is "N passed, N failed".
part=$1
passed=0
failed=0
results=.keralith/results
rm -rf "$results"
mkdir -p "$results"

# Simulated devices leave what they print and send in a folder of this run.
export KERALITH_SPOOL="$PWD/.keralith/spool"
rm -rf "$KERALITH_SPOOL"

# Adds what a test program counted in its own results file; a run that left a count out is a failure.
add() { # add NAME PASSED FAILED ERRORS
  if [ -z "$2" ] || [ -z "$3" ] || [ -z "$4" ]; then
    say "$1 left no results"
    failed=$((failed + 1))
    return
  fi
  passed=$((passed + $2))
  failed=$((failed + $3 + $4))
}

dotnet_tests() { # dotnet_tests NAME
  say "$1"
  local xml="$PWD/$results/$1.xml"
  dotnet "tests/$1/bin/Release/net10.0/$1.dll" -result-xml "$xml" -noColor -noLogo || true
  local head
  head=$(grep -o '<assembly [^>]*>' "$xml" 2>/dev/null | head -1 || true)
  add "$1" "$(attribute passed "$head")" "$(attribute failed "$head")" "$(attribute errors "$head")"
}

attribute() { sed -n "s/.* $1=\"\([0-9]*\)\".*/\1/p" <<<"$2"; }

browser_tests() {
  say "browser tests"
  need_chromium
  need_npm tests/e2e
  build_cli
  (cd tests/e2e && npx playwright test) || true
  local counts
  counts=$(node -e '
    const { stats } = JSON.parse(require("fs").readFileSync(".keralith/results/e2e.json", "utf8"));
    console.log(stats.expected, stats.unexpected + stats.flaky);' 2>/dev/null || true)
  read -r good bad <<<"$counts" || true
  # A run that could not begin has counted nothing: that is a failure, not a pass.
  [ "${good:-0}" = 0 ] && [ "${bad:-0}" = 0 ] && good=
  add "browser tests" "${good:-}" "${bad:-}" 0
}

say "building"
quietly "building" dotnet build Keralith.slnx -c Release
if [ "$part" = all ]; then
  say "checking the format"
  quietly "restoring the formatter" dotnet tool restore
  if dotnet csharpier check . >"$log" 2>&1 && dotnet format style Keralith.slnx --verify-no-changes --no-restore >>"$log" 2>&1; then
    passed=$((passed + 1))
  else
    say "the format is off; dotnet csharpier format . and dotnet format style mend it:"; head -20 "$log" >&2; failed=$((failed + 1))
  fi
fi
if [ "$part" = core ] || [ "$part" = all ]; then dotnet_tests Core.Tests; fi
if [ "$part" = data ] || [ "$part" = all ]; then dotnet_tests Data.Tests; fi
if [ "$part" = web ] || [ "$part" = all ]; then need_patroni; dotnet_tests Web.Tests; fi
if [ "$part" = e2e ] || [ "$part" = all ]; then browser_tests; fi
echo "$passed passed, $failed failed"
[ "$failed" = 0 ] && [ "$passed" -gt 0 ]
