# Thin: CMake does the work. `make demo` and `make check` are all a newcomer needs.
JOBS ?= $(shell nproc 2>/dev/null || echo 2)
WERROR ?= OFF
prefix ?= /usr/local

.PHONY: all deps build demo check torture bench screenshots install format clean

all: build

deps:
	@tools/deps build

build: deps
	@cmake -S . -B build -DCMAKE_BUILD_TYPE=Release -DWERROR=$(WERROR) -DCMAKE_INSTALL_PREFIX=$(prefix) >/dev/null
	@cmake --build build -j $(JOBS)

demo: build
	@build/squill --demo

check:
	@tools/deps check
	@$(MAKE) --no-print-directory build
	@cmake -S . -B build-sanitize -DCMAKE_BUILD_TYPE=Debug -DSANITIZE=ON -DWERROR=$(WERROR) >/dev/null
	@cmake --build build-sanitize -j $(JOBS) --target unit_tests \
		fuzz_keys fuzz_contents fuzz_journal fuzz_kinds fuzz_settings
	ctest --test-dir build-sanitize -L 'unit|fuzz' --output-on-failure -j $(JOBS)
	ctest --test-dir build --output-on-failure -j $(JOBS)

# The long forms of what `make check` tries briefly: some hours. ROUNDS is how many kills.
torture: build
	@tools/torture

bench: build
	@bench/run

screenshots: build
	@tools/deps pictures
	@tools/screenshots

install: build
	@cmake --install build

format:
	clang-format -i $$(git ls-files '*.c' '*.h')

clean:
	rm -rf build build-sanitize
