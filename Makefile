# Chapto: make demo · make test · make check · make bench · make install · make dist
SHELL := /bin/bash
PYTHON ?= python3
VENV := .venv
BIN := $(VENV)/bin
STAMP := $(VENV)/.installed
TOOLS := $(VENV)/.test-tools
# A sound server, a screen, a look at system calls, and the desktop's own checks, for the tests that want the real thing; they are skipped without.
TESTING := pulseaudio pulseaudio-utils xvfb strace appstream desktop-file-utils man-db
# What Qt needs to start and draw, and the plug-ins it loads.
SYSTEM := libegl1 libgl1 libopengl0 libglib2.0-0 libdbus-1-3 libfontconfig1 libfreetype6 libxkbcommon0 \
  libxkbcommon-x11-0 libx11-xcb1 libxcb-cursor0 libxcb-icccm4 libxcb-image0 libxcb-keysyms1 libxcb-randr0 \
  libxcb-render-util0 libxcb-shape0 libxcb-shm0 libxcb-sync1 libxcb-xfixes0 libxcb-xinerama0 libxcb-xkb1 libpulse0
PROBE := import ctypes.util, sys; \
  sys.exit(any(ctypes.util.find_library(n) is None for n in \
  ("EGL", "GL", "glib-2.0", "dbus-1", "fontconfig", "xkbcommon", "xcb-cursor", "pulse")))

.PHONY: demo test system quick check format bench pictures layers soak dist wheels install uninstall clean
demo: $(STAMP)
	$(BIN)/chapto demo

# What fails beside others, three at a time on a busy machine, has to hold by itself; what fails there too is a failure.
test: $(STAMP) $(TOOLS)
	QT_QPA_PLATFORM=offscreen $(BIN)/python -m pytest -n 3 --dist worksteal -m "not alone" || \
	  QT_QPA_PLATFORM=offscreen $(BIN)/python -m pytest -m "not alone" --last-failed --last-failed-no-failures none
	QT_QPA_PLATFORM=offscreen $(BIN)/python -m pytest -m alone

# The core alone, for every few minutes of work on it.
quick: $(STAMP)
	QT_QPA_PLATFORM=offscreen $(BIN)/python -m pytest -n 2 -m "not slow" tests/clock tests/document tests/lexicon \
	  tests/matlog tests/pacing tests/programme tests/publish tests/review tests/store

# Kills at random moments, five hundred of them, and property tests with new examples.
soak: $(STAMP)
	CHAPTO_KILLS=500 CHAPTO_EXAMPLES=1000 QT_QPA_PLATFORM=offscreen $(BIN)/python -m pytest -n 2 tests/app/test_kill.py \
	  tests/store tests/document tests/pacing tests/programme tests/publish

check: $(STAMP)
	$(BIN)/ruff format --check src tests bench docs
	$(BIN)/ruff check src tests bench docs
	$(BIN)/mypy
	$(BIN)/lint-imports

format: $(STAMP)
	$(BIN)/ruff format src tests bench docs
	$(BIN)/ruff check --fix src tests bench docs

# The benches compare with the `ffmpeg` program, which nothing else here needs.
bench: $(STAMP)
	@command -v ffmpeg >/dev/null || { [ "$$(id -u)" = 0 ] && apt-get update -qq && apt-get install -y -qq --no-install-recommends ffmpeg; } \
	  || { echo "The render bench compares with ffmpeg. Please run: sudo apt-get install ffmpeg"; exit 1; }
	QT_QPA_PLATFORM=offscreen $(BIN)/python bench/seek.py
	QT_QPA_PLATFORM=offscreen $(BIN)/python bench/render.py
	QT_QPA_PLATFORM=offscreen $(BIN)/python bench/footage.py
	$(BIN)/python bench/find.py
	$(BIN)/python bench/start.py
	$(BIN)/python bench/opened_again.py
	$(BIN)/python bench/playing.py
	$(BIN)/python bench/talked.py
	$(BIN)/python -m bench.fit
	$(BIN)/python -m bench.lacing
	$(BIN)/python -m bench.writing
	$(BIN)/python -m bench.large
	$(BIN)/python -m bench.good_to_watch
	$(BIN)/python -m bench.words_found 20
	$(BIN)/python -m bench.listening
	$(BIN)/python -m bench.following
	$(BIN)/python -m bench.marks
	$(BIN)/python -m bench.scripts_in
	$(BIN)/python -m bench.hour_in_window
	$(BIN)/python -m bench.drafting
	$(BIN)/python -m bench.names
	$(BIN)/python -m bench.reviewing
	$(BIN)/python -m bench.shelf
	QT_QPA_PLATFORM=offscreen $(BIN)/python bench/pieces.py

pictures: $(STAMP)
	$(BIN)/chapto pictures --force docs/screenshots

layers: $(STAMP)
	$(BIN)/python docs/draw_layers.py docs/layers.svg

# A wheel and an sdist, and both put to work in environments of their own.
dist: $(STAMP)
	rm -rf dist build/fresh
	$(BIN)/python -m build --quiet --no-isolation --outdir dist
	for made in dist/*.whl dist/*.tar.gz; do \
	  rm -rf build/fresh && $(PYTHON) -m venv build/fresh \
	  && build/fresh/bin/pip install --quiet --constraint constraints.txt "$$made" \
	  && build/fresh/bin/chapto --version \
	  && env -u DISPLAY -u WAYLAND_DISPLAY build/fresh/bin/chapto demo --folder build/fresh/demo --force >/dev/null || exit 1; done

# What the Flatpak is built from, without a network: the wheel and all it needs.
wheels: $(STAMP)
	rm -rf packaging/wheels
	$(BIN)/python -m build --quiet --no-isolation --wheel --outdir packaging/wheels
	$(BIN)/python -m pip download --quiet --constraint constraints.txt --dest packaging/wheels packaging/wheels/*.whl

install: $(STAMP)
	$(BIN)/python -m chapto.app.desktop install

uninstall: $(STAMP)
	$(BIN)/python -m chapto.app.desktop uninstall

# Once, as root: what Qt needs, and what the tests use beyond it.
system:
	apt-get install -y -qq --no-install-recommends $(SYSTEM) $(TESTING)

$(STAMP): pyproject.toml constraints.txt
	@$(PYTHON) -c '$(PROBE)' || { \
	  if [ "$$(id -u)" = 0 ]; then apt-get update -qq && apt-get install -y -qq --no-install-recommends $(SYSTEM); \
	  else echo "Qt needs some system libraries. Please run this line once, then make again:"; \
	    echo "  sudo apt-get install --no-install-recommends $(SYSTEM)"; exit 1; fi; }
	$(PYTHON) -m venv $(VENV)
	$(BIN)/python -m pip install --quiet --upgrade pip
	$(BIN)/python -m pip install --quiet --constraint constraints.txt --editable '.[dev,listen]'
	touch $(STAMP)

$(TOOLS): $(STAMP)
	@(for tool in pulseaudio parec Xvfb strace appstreamcli desktop-file-validate man; do command -v $$tool >/dev/null || exit 1; done) || { \
	  if [ "$$(id -u)" = 0 ]; then apt-get update -qq && apt-get install -y -qq --no-install-recommends $(TESTING); \
	  else echo "Some tests are skipped. For all of them: sudo apt-get install --no-install-recommends $(TESTING)"; fi; }
	touch $(TOOLS)

clean:
	rm -rf $(VENV) build dist packaging/wheels .mypy_cache .ruff_cache .pytest_cache .import_linter_cache
