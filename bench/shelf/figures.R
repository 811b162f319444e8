# Every figure of every set of the shelf at four sizes, as SVG: texts that leave the picture, overlap, are smaller than 7
# points or lie over dots are faults: Rscript bench/shelf/figures.R [SET ...]. SIZES=6.5x4,7x5 chooses sizes,
# KEEP=FOLDER keeps the pictures with faults.
suppressMessages(library(unsere))
here <- "bench/shelf"
for (file in c("forms.R", "studies.R", "doors.R")) source(file.path(here, file))
source("tests/testthat/helper-figure-text.R")
sizes <- strsplit(strsplit(Sys.getenv("SIZES", "3.3x2.5,6.5x4,7x5,13x8"), ",")[[1]], "x")
keep <- Sys.getenv("KEEP")
faults <- list()
drawn <- 0L

quietly <- function(code) tryCatch(code, unsere_error = function(e) NULL)

#' The figures that a set can give, as calls that draw them
figures_of_set <- function(study, set) {
  book <- codebook(study)
  measures <- book$variable[book$role == "measure" & book$level != "nominal"]
  groups <- book$variable[book$role %in% c("measure", "group") & book$level %in% c("nominal", "binary")]
  figures <- list()
  add <- function(name, code) figures[[name]] <<- code
  for (k in seq_along(set$pairs)) {
    local({
      pair <- set$pairs[[k]]
      add(paste0("scatter", k), function() draw_scatter(study, pair[1], pair[2]))
      add(paste0("residuals", k), function() draw_residuals(study, pair[1], pair[2]))
      add(paste0("time", k), function() draw_over_time(flag_spurious(study, pair[1], pair[2])))
      for (by in utils::head(setdiff(groups, pair), 2)) {
        local({
          by <- by
          add(sprintf("by%d%s", k, match(by, groups)), function() draw_scatter(study, pair[1], pair[2], by = by))
          add(sprintf("panels%d%s", k, match(by, groups)), function() {
            draw_scatter(study, pair[1], pair[2], by = by, panels = TRUE)
          })
          add(sprintf("levels%d%s", k, match(by, groups)), function() {
            draw_levels(relate_levels(study, pair[1], pair[2], by))
          })
        })
      }
    })
  }
  add("matrix", function() draw_matrix(correlation_matrix(study)))
  add("pairs", function() draw_pairs(study, correlation_matrix(study), most = 6))
  some <- utils::head(measures, 5)
  if (length(some) > 1L) {
    add("boxes", function() do.call(draw_box, c(list(study), as.list(some))))
    add("box1", function() draw_box(study, some[1]))
    add("distributions", function() do.call(draw_distribution, c(list(study), as.list(some))))
    add("quantiles", function() draw_quantiles(study, some[1]))
    add("predictors", function() draw_predictors(do.call(rank_predictors, c(list(study), as.list(some)))))
  }
  for (name in utils::head(groups, 3)) local({
    name <- name
    add(paste0("distribution-", match(name, groups)), function() draw_distribution(study, name))
  })
  if (!is.null(set$items)) {
    add("items", function() draw_items(do.call(check_items, c(list(study), as.list(set$items$names), set$items[-1]))))
  }
  figures
}

check_figure <- function(set, name, plot) {
  for (size in sizes) {
    drawn <<- drawn + 1L
    file <- sprintf("%s-%s-%s.svg", gsub("[^a-z]+", "-", tolower(set$name)), name, paste(size, collapse = "x"))
    path <- file.path(tempdir(), file)
    found <- tryCatch({
      unsere:::save_figure(plot, path, as.numeric(size[1]), as.numeric(size[2]))
      text_faults(path)
    }, error = function(e) paste("fault:", conditionMessage(e)))
    for (one in found) {
      faults[[length(faults) + 1L]] <<- data.frame(
        set = set$name, figure = name, size = paste(size, collapse = "x"), fault = one
      )
    }
    if (length(found) && nzchar(keep)) file.copy(path, keep, overwrite = TRUE)
  }
}

words <- commandArgs(TRUE)
makers <- ls(pattern = "^shelf_")
if (length(words)) makers <- intersect(makers, paste0("shelf_", words))
if (nzchar(keep)) dir.create(keep, FALSE, TRUE)
for (maker in makers) {
  set.seed(1)
  folder <- tempfile(maker)
  dir.create(folder)
  set <- get(maker)(folder)
  study <- read_study(set$file, missing_codes = set$missing_codes)
  if (!is.null(set$design)) study <- do.call(set_design, c(list(study), set$design))
  figures <- figures_of_set(study, set)
  for (name in names(figures)) {
    plot <- quietly(figures[[name]]())
    if (!is.null(plot)) check_figure(set, name, plot)
  }
}
faults <- do.call(rbind, faults)
if (!is.null(faults)) {
  kind <- sub(":.*$", "", faults$fault)
  print(table(kind, faults$size))
  print(table(sub("[0-9].*$|-.*$", "", faults$figure), faults$size))
  for (one in split(faults, paste(faults$set, faults$figure))) {
    cat(sprintf("%s, %s (%s)\n", one$set[1], one$figure[1], toString(unique(one$size))))
    cat(sprintf("    %s\n", utils::head(unique(one$fault), 3)), sep = "")
  }
}
cat(sprintf("figures: %d drawn, %d faults of text\n", drawn, NROW(faults)))
quit(status = as.integer(NROW(faults) > 0L))
