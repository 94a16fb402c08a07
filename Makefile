# Two commands do all the set-up on a fresh machine: `make demo` and `make test`.
PYTHON ?= python3
VENV := .venv
BIN := $(VENV)/bin
STAMP := $(VENV)/.setup-done
# What Qt needs from Debian to open a window or to render without one.
DEBIAN := libglib2.0-0 libegl1 libgl1 libfontconfig1 libdbus-1-3 libxkbcommon0 libxkbcommon-x11-0 libxcb-cursor0 libxcb-icccm4 libxcb-keysyms1 libxcb-shape0 libxcb-randr0 libxcb-render-util0 libxcb-image0 libxcb-xinerama0

.PHONY: setup demo test sweep check install uninstall bench calibrate shots monkey kill bundle formats lock clean

setup: $(STAMP)

$(STAMP): requirements.lock pyproject.toml
	@./tools/debian-packages $(DEBIAN)
	test -x $(BIN)/python || $(PYTHON) -m venv $(VENV)
	$(BIN)/pip install --quiet --disable-pip-version-check --require-hashes -r requirements.lock
	$(BIN)/pip install --quiet --disable-pip-version-check --no-deps -e .
	@$(BIN)/python -m compileall -q src/trebb  # as pip does for what it installs: the window opens a third sooner
	@touch $(STAMP)

demo: setup
	$(BIN)/trebb demo

test: setup
	OPENBLAS_NUM_THREADS=1 QT_QPA_PLATFORM=offscreen $(BIN)/python -m pytest -n 3 --dist loadfile --no-loadscope-reorder

# Every machine, family and size that the suite goes over in part.
sweep: setup
	OPENBLAS_NUM_THREADS=1 QT_QPA_PLATFORM=offscreen $(BIN)/python -m pytest -n 3 --dist loadfile --no-loadscope-reorder --sweep

check: setup
	$(BIN)/ruff format --check --quiet src tests tools
	$(BIN)/ruff check src tests tools
	$(BIN)/mypy
	$(BIN)/lint-imports
	$(BIN)/python tools/unreached.py

# For this user, or below PREFIX: command, menu entry, icons, kind of file, manual page, completion.
PREFIX ?= $(HOME)/.local
install: setup
	QT_QPA_PLATFORM=offscreen $(BIN)/python -m trebb.app.cli install $(PREFIX)

uninstall: setup
	QT_QPA_PLATFORM=offscreen $(BIN)/python -m trebb.app.cli uninstall $(PREFIX)

# One folder in dist/ that runs without Python or a compiler, and its archive.
bundle: setup
	@./tools/debian-packages binutils
	$(BIN)/python tools/bundle.py dist
	TREBB_BUNDLE=$$(ls $(CURDIR)/dist/*.tar.gz) QT_QPA_PLATFORM=offscreen $(BIN)/python -m pytest tests/bundle

bench: setup
	QT_QPA_PLATFORM=offscreen $(BIN)/python tools/bench.py

# A random user on the demo machines: SEED, MACHINE (lathe, mill, drill or all), COUNT of gestures.
SEED ?= 1
MACHINE ?= all
COUNT ?= 10000
monkey: setup
	QT_QPA_PLATFORM=offscreen $(BIN)/python -m trebb.app.monkey --seed $(SEED) --machine $(MACHINE) --count $(COUNT)

# Kill -9 of the real window while it takes readings, adds photographs, exports: KILLS times.
KILLS ?= 1000
kill: setup
	QT_QPA_PLATFORM=offscreen $(BIN)/python -m trebb.app.kill --seed $(SEED) --count $(KILLS)

# How often Trebb is right on machines simulated without its own model: MACHINES of them a row.
MACHINES ?= 200
calibrate: setup
	OPENBLAS_NUM_THREADS=1 $(BIN)/python tools/calibrate.py $(MACHINES)

formats: setup
	$(BIN)/python -m trebb.core.stating.page docs/FORMATS.md
	$(BIN)/python -m trebb.core.survey.page docs/FORMATS.md
	$(BIN)/python -m trebb.logbook.exchange.schemas docs/schemas

shots: setup
	QT_QPA_PLATFORM=offscreen $(BIN)/python -m trebb.app.shots docs/screenshots

lock:
	$(BIN)/pip install --quiet pip-tools
	rm -f requirements.lock
	$(BIN)/pip-compile --quiet --extra dev --strip-extras --no-header --allow-unsafe --generate-hashes -o requirements.lock pyproject.toml

clean:
	rm -rf $(VENV) demo-output build
