# Three commands matter: `make demo`, `make run` and `make test`. The rest serve them.
.PHONY: demo run test build check lines bench
demo:  ; @scripts/demo.sh
run:   ; @scripts/run.sh
test:  ; @scripts/test.sh
build: ; @scripts/build.sh
check: ; @scripts/check.sh
lines: ; @scripts/lines.sh
bench: ; @scripts/bench.sh
