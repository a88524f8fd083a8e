# Thin: CMake does the work. `make demo` and `make check` are all a newcomer needs.
JOBS ?= $(shell nproc 2>/dev/null || echo 2)
WERROR ?= OFF
prefix ?= /usr/local
INSTALLED ?= build-install

.PHONY: all deps build demo dev check check-32 analyse coverage torture bench screenshots install uninstall package static source format clean

all: build

deps:
	@tools/deps build

build: deps
	@cmake -S . -B build -DCMAKE_BUILD_TYPE=Release -DWERROR=$(WERROR) -DCMAKE_INSTALL_PREFIX=$(prefix) >/dev/null
	@cmake --build build -j $(JOBS)

demo: build
	@build/squill --demo

# For working on it: a build with the sanitizers in build-dev, compile_commands.json for editors, and a look at the
# format before each commit.
dev:
	@tools/deps dev
	@cmake -S . -B build-dev -DCMAKE_BUILD_TYPE=Debug -DSANITIZE=ON >/dev/null
	@cmake --build build-dev -j $(JOBS)
	@ln -sf build-dev/compile_commands.json compile_commands.json
	@git config core.hooksPath tools/hooks

analyse:
	@tools/deps check
	@tools/analyse

coverage:
	@tools/coverage

check:
	@tools/deps check
	@$(MAKE) --no-print-directory build
	@cmake -S . -B build-sanitize -DCMAKE_BUILD_TYPE=Debug -DSANITIZE=ON -DWERROR=$(WERROR) >/dev/null
	@cmake --build build-sanitize -j $(JOBS) --target unit_tests \
		fuzz_keys fuzz_lives fuzz_contents fuzz_journal fuzz_kinds fuzz_settings fuzz_packets
	ctest --test-dir build-sanitize -L 'unit|fuzz' --output-on-failure -j $(JOBS)
	ctest --test-dir build --output-on-failure -j $$(($(JOBS) + 1)) # screens wait most of the time

# The core's tests as a program of 32 bits, where this machine's compiler can make one.
check-32:
	@tools/deps check-32
	@PKG_CONFIG_LIBDIR=/usr/lib/i386-linux-gnu/pkgconfig:/usr/share/pkgconfig cmake -S . -B build-32 \
		-DCMAKE_BUILD_TYPE=Release -DCMAKE_C_FLAGS=-m32 -DWERROR=$(WERROR) >/dev/null
	@cmake --build build-32 -j $(JOBS) --target unit_tests
	ctest --test-dir build-32 -L unit --output-on-failure -j $(JOBS)

# The long forms of what `make check` tries briefly: some hours. ROUNDS is how many kills.
torture: build
	@tools/torture

bench: build
	@bench/run

screenshots: build
	@tools/deps pictures
	@tools/screenshots

# The program and its papers alone: what it needs must be there. With DESTDIR and prefix, and no tests.
install:
	@cmake -S . -B build-install -DCMAKE_BUILD_TYPE=Release -DBUILD_TESTING=OFF -DCMAKE_INSTALL_PREFIX=$(prefix) >/dev/null
	@cmake --build build-install -j $(JOBS) --target installable
	@DESTDIR=$(DESTDIR) cmake --install build-install

uninstall:
	@test -f $(INSTALLED)/install_manifest.txt || { echo "Nothing was installed from here."; exit 1; }
	@sed 's|^|$(DESTDIR)|' $(INSTALLED)/install_manifest.txt | tr '\n' '\0' | xargs -0 rm -fv
	@sort -ru $(INSTALLED)/folders_made 2>/dev/null | tr '\n' '\0' | xargs -0r rmdir --ignore-fail-on-non-empty 2>/dev/null || true
	@rm -f $(INSTALLED)/folders_made

# A Debian package, in build-package.
package:
	@tools/deps package
	@cmake -S . -B build-package -DCMAKE_BUILD_TYPE=Release -DBUILD_TESTING=OFF -DCOMPRESS_PAGES=ON \
		-DCMAKE_INSTALL_PREFIX=/usr -DZSH_FOLDER=share/zsh/vendor-completions >/dev/null
	@cmake --build build-package -j $(JOBS) --target installable
	@cd build-package && SOURCE_DATE_EPOCH=$$(date -u -d "$$(sed -n "s/^set(RELEASE_DATE \([^)]*\)).*/\1/p" ../CMakeLists.txt)" +%s) cpack -G DEB

# One file that runs on any Linux of this processor: build-static/squill.
static:
	@tools/static

source:
	@cmake -S . -B build-package -DBUILD_TESTING=OFF >/dev/null
	@cd build-package && cpack --config CPackSourceConfig.cmake

format:
	clang-format -i $$(git ls-files '*.c' '*.h')

clean:
	rm -rf build build-sanitize
