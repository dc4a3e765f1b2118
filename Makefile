# Two commands matter: `make demo` and `make test`. The rest serve them.
.PHONY: demo test build check lines bench
demo:  ; @scripts/demo.sh
test:  ; @scripts/test.sh
build: ; @scripts/build.sh
check: ; @scripts/check.sh
lines: ; @scripts/lines.sh
bench: ; @scripts/bench.sh
