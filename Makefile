# make start     installs what is missing, starts everything, loads the demo
# make upgrade   the same: data of an older release are brought up at the next start
# make test      installs what is missing, runs lint and all tests, parts of them beside each other
# make lint      style, types, layering, and that generated files are current
# make backup FILE=a.zip    one archive of projects, shapes and packages, while people work or not
# make restore FILE=a.zip   fills an empty installation from it
# make campaign  a long hunt on the running product: kills, crowds, a full disk, odd input (MINUTES=20)
# make damage    thousands of damaged files of every format (FILES=20000)
# make company   two browsers at one graph, cut off and killed meanwhile (EDITS=1000)
# make hunt      property tests with thousands of random meshes, programs and chains
# make bench     speed, side by side with other libraries
# make generate  writes what is made from the code: OpenAPI, TypeScript types, type stubs, operator pages, demo
# make docs      builds the documentation site, which the application serves under /docs
# make wheel     builds dist/reticula-*.whl with page, documentation and demo inside

PYTHON := .venv/bin/python
CORE := $(shell find reticula/core -name '*.py')
WEB := $(shell find web/src web/public web/index.html -type f)

TOLD := geometry/mesh/geo.py language/script.py packages/package.py errors.py
DOCS := mkdocs.yml $(shell find docs -name "*.md" -o -name "*.png" -o -name "*.webp") $(TOLD:%=reticula/core/%)

.PHONY: start backup restore upgrade test lint campaign damage company hunt bench generate docs wheel

start: .venv/.ready .venv/.kernels web/dist/index.html site/index.html
	@tools/packages.sh mariadbd=mariadb-server
	@exec $(PYTHON) -m reticula.launch

upgrade: start

backup: .venv/.ready
	@$(PYTHON) -m reticula.cli backup "$(FILE)"

restore: .venv/.ready
	@tools/packages.sh mariadbd=mariadb-server
	@$(PYTHON) -m reticula.cli restore "$(FILE)"

test: .venv/.dev .venv/.kernels web/dist/index.html site/index.html
	@tools/packages.sh mariadbd=mariadb-server chromium=chromium
	@$(PYTHON) -m tools.run_parts

lint: .venv/.dev web/node_modules/.ready
	@$(PYTHON) -m tools.run_parts lint page

campaign: .venv/.dev .venv/.kernels web/dist/index.html
	@tools/packages.sh mariadbd=mariadb-server
	@$(PYTHON) -m campaign $(or $(MINUTES),20) --out docs/trust.md

damage: .venv/.dev .venv/.kernels
	$(PYTHON) -m campaign.damaged_files $(or $(FILES),20000)

company: .venv/.dev .venv/.kernels web/dist/index.html
	@tools/packages.sh mariadbd=mariadb-server chromium=chromium
	@$(PYTHON) -m campaign.two_browsers $(or $(EDITS),1000)

hunt: .venv/.dev .venv/.kernels
	HYPOTHESIS_PROFILE=campaign $(PYTHON) -m pytest tests/core tests/reference

bench: .venv/.dev .venv/.kernels
	$(PYTHON) -m bench

generate: .venv/.dev web/node_modules/.ready
	$(PYTHON) -m tools.generated

docs: site/index.html

wheel: .venv/.dev web/dist/index.html site/index.html
	@$(PYTHON) -m tools.wheel

site/index.html: .venv/.ready $(DOCS)
	@NO_MKDOCS_2_WARNING=1 $(PYTHON) -m mkdocs build --quiet --strict
	@touch $@

.venv/.ready: requirements.lock pyproject.toml
	@tools/check_tools.sh
	@tools/packages.sh ensurepip=python3-venv
	@test -x $(PYTHON) || python3 -m venv .venv
	$(PYTHON) -m pip install -q --disable-pip-version-check --require-hashes -r requirements.lock
	@echo "$(CURDIR)" > $$($(PYTHON) -c 'import sysconfig; print(sysconfig.get_path("purelib"))')/reticula.pth
	@printf '#!/bin/sh\nexec "%s/$(PYTHON)" -m reticula.cli "$$@"\n' "$(CURDIR)" > .venv/bin/reticula && chmod +x .venv/bin/reticula
	@touch $@

.venv/.dev: .venv/.ready requirements-dev.lock
	$(PYTHON) -m pip install -q --disable-pip-version-check --require-hashes -r requirements-dev.lock
	@touch $@

.venv/.kernels: .venv/.ready $(CORE)
	@echo "Building the compiled kernels (a few minutes, once) …"
	@$(PYTHON) -m reticula.core.precompile
	@touch $@

web/node_modules/.ready: web/package-lock.json
	@tools/check_tools.sh
	cd web && npm ci --no-audit --no-fund
	@touch $@

web/dist/index.html: web/node_modules/.ready $(WEB) web/vite.config.ts web/vite.notebook.config.ts
	cd web && npx vite build --logLevel warn && npx vite build --logLevel warn --config vite.notebook.config.ts
	@touch $@
