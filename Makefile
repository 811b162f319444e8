# Every target says what it does and ends in a line that says how it went. `make help` lists them.
SHELL := /bin/bash
.DEFAULT_GOAL := help
LIBRARY := $(CURDIR)/.build/library
export R_LIBS := $(LIBRARY)$(if $(R_LIBS),:$(R_LIBS))
SOURCES := DESCRIPTION NAMESPACE $(shell find R src exec inst man -type f ! -name '*.o' ! -name '*.so' 2>/dev/null)
STAMP := .build/installed

.PHONY: help setup demo test test-fast test-databases check lint rooms document demo-data install screenshots site bench shelf shelf-figures sanitize fuzz faults mutate coverage test-current clean

help: ## list the targets
	@grep -hE '^[a-z-]+:.*##' $(MAKEFILE_LIST) | sed -E 's/^([a-z-]+):.*## /  make \1|/' | column -t -s '|'

setup: ## install what is missing (R packages from Debian or CRAN); does nothing when all is there
	@tools/setup.sh

$(STAMP): $(SOURCES)
	@echo "build: installing unsere into .build/library ..."
	@mkdir -p $(LIBRARY)
	@[ -z "$$(find src -name '*.h*' -newer $(STAMP) 2>/dev/null)" ] || rm -f src/*.o src/*.so # R's make does not follow headers
	@MAKEFLAGS=-j2 R CMD INSTALL --no-docs --no-test-load --library=$(LIBRARY) . >.build/install.log 2>&1 || { tail -n 25 .build/install.log; echo "build: failed; the whole log is in .build/install.log"; exit 1; }
	@touch $@

demo: ## from the demo file to a page, in unsere-demo/
	@tools/setup.sh demo
	@$(MAKE) --no-print-directory $(STAMP)
	@echo "demo: running 'unsere demo --out unsere-demo' ..."
	@$(LIBRARY)/unsere/exec/unsere demo --out unsere-demo && echo "demo: done. Open unsere-demo/report.html in a browser." || { echo "demo: failed."; exit 1; }

test: setup $(STAMP) ## run all tests
	@echo "test: running the tests ..."
	@Rscript tools/test.R

test-fast: $(STAMP) ## the quick part of the tests, for a developer's loop
	@Rscript tools/test.R --fast

test-databases: $(STAMP) ## the same questions of SQLite, PostgreSQL and MariaDB as of memory (installs the servers)
	@tests/databases/run.sh

check: ## R CMD check on a built package
	@tools/setup.sh check
	@tools/check.sh

lint: ## look for style that departs from the tidyverse's
	@tools/setup.sh check
	@Rscript tools/lint.R

rooms: ## print the rooms of the house: files, lines, functions, calls between files
	@Rscript tools/rooms.R

document: ## write what is generated: registration, NAMESPACE, help pages, the schema of briefs, lists
	@tools/setup.sh check
	@Rscript tools/document.R && echo "document: done."

demo-data: ## write the demo data again from its seeded script
	@tools/setup.sh
	@Rscript data-raw/make-demo.R && echo "demo-data: done."

install: setup ## install the package for this user, and put `unsere` on the PATH
	@tools/install.sh

screenshots: ## take the pictures of docs/screenshots again
	@tools/setup.sh
	@tools/setup.sh screenshots
	@$(MAKE) --no-print-directory $(STAMP)
	@tools/screenshots.sh

site: ## build the site (help, articles, figures) as pages into .build/site, without network
	@tools/setup.sh
	@tools/setup.sh site
	@$(MAKE) --no-print-directory $(STAMP)
	@Rscript tools/site.R

bench: setup $(STAMP) ## run the benchmarks of bench/ and set their tables as docs/figures.md
	@tools/bench.sh

shelf-figures: setup $(STAMP) ## every figure of the shelf at four sizes: texts that leave the picture, overlap or are too small
	@Rscript bench/shelf/figures.R

shelf: setup $(STAMP) ## every question, figure and report on a shelf of strangers' surveys
	@Rscript bench/shelf/run.R

sanitize: ## the core's claims with warnings as errors and under the sanitizers; lines reached
	@tools/sanitize.sh

fuzz: setup $(STAMP) ## throw random files, briefs, options and data at everything, for two minutes
	@Rscript tests/fuzz/fuzz.R $(SECONDS_OF_FUZZ)

faults: setup $(STAMP) ## let each call on a file fail once: over a run of a brief, a walk through the desk, a streamed matrix, a query
	@tests/faults/run.sh
	@tests/faults/run.sh desk
	@tests/faults/run.sh stream
	@tests/faults/run.sh query

mutate: setup $(STAMP) ## are the tests sharp? changes the computation in 240 places, and counts which changes a test catches
	@Rscript tools/mutate.R $(MUTANTS)

coverage: ## which share of the R lines the tests reach
	@tools/setup.sh
	@tools/setup.sh coverage
	@$(MAKE) --no-print-directory $(STAMP)
	@Rscript tools/coverage.R

test-current: setup ## run all tests with the current versions of CRAN
	@tools/test-current.sh

clean: ## remove what was built
	@rm -rf .build unsere.Rcheck unsere_*.tar.gz src/*.o src/*.so && echo "clean: done."
