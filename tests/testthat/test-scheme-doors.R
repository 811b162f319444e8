# The same pair under the same scheme is the same relation from a function, the command, a brief and the desk.

set.seed(62)
n <- 160
class <- rep(seq_len(16), each = 10)
alike <- rnorm(16)[class]
areas <- rep(c("north", "south"), each = 80)
answers <- data.frame(class = sprintf("c%02d", class), area = areas, w = round(runif(n, 1, 3), 2))
answers$hours <- round(rexp(n, .3) + abs(alike) + 2, 2)
answers$effort <- round(answers$hours / 2 + rnorm(n), 2)
answers$age <- sample(16:60, n, TRUE)
true <- answers$hours + 3 * rnorm(n) + alike
for (k in 1:3) answers[[paste0("pv", k)]] <- round(true + 2 * rnorm(n), 2)
for (k in 1:12) answers[[paste0("rw", k)]] <- round(answers$w * sample(c(.5, 1.5), n, TRUE), 3)
answers$hours[3:9] <- NA

folder <- withr::local_tempdir(.local_envir = teardown_env())
file <- file.path(folder, "answers.csv")
write.csv(answers, file, row.names = FALSE, na = "")
clustered <- list(weight = "w", stratum = "area", cluster = "class")
replicated <- list(weight = "w", replicates = paste0("rw", 1:12), method = "brr")
values <- list(score = list("pv1", "pv2", "pv3"))
schemes <- list(
  simple = list(), clustered = list(design = clustered), replicates = list(design = replicated),
  plausible = list(plausible = values), "plausible, clustered" = list(design = clustered, plausible = values)
)
fields <- c("r", "ci_low", "ci_high", "p", "n", "df")
figures_of <- function(found) vapply(fields, function(field) c(as.numeric(found[[field]]), NA)[1], 0)

# Weights, strata and replicates by roles, plausible values by a role and a name: the command has its own words for both.
options_of <- function(scheme) {
  design <- as.list(scheme$design)
  names(design)[names(design) == "method"] <- "replicate-method"
  unlist(lapply(names(design), function(name) c(paste0("--", name), paste(design[[name]], collapse = ","))))
}

test_that("relate, matrix and rank tell one r, interval, p, df and n through R, command, brief and desk", {
  for (name in names(schemes)) for (coefficient in c("pearson", "spearman")) {
    scheme <- schemes[[name]]
    outcome <- if (is.null(scheme$plausible)) "effort" else "score"
    label <- paste(name, coefficient)
    rows <- list(variables = list("hours", outcome, "age"), coefficient = coefficient)
    brief <- c(list(data = list(file = "answers.csv")), scheme, list(
      pairs = list(list(x = "hours", y = outcome, coefficient = coefficient)), matrix = rows,
      settings = list(confidence = .9), share = list(rows = "none")
    ))
    path <- file.path(folder, "answers.yml")
    yaml::write_yaml(brief, path)
    read <- unsere:::read_brief(path)
    study <- unsere:::brief_study(read)
    document <- unsere:::results_document(unsere:::brief_results(read, study))
    written <- jsonlite::fromJSON(unsere:::json_text(document), simplifyVector = FALSE)
    truth <- figures_of(written$pairs[[1]]$relation)
    expect_false(anyNA(truth), label = label)
    same <- function(found, door) {
      figures <- figures_of(found)
      # A matrix leaves out what follows from n.
      left_out <- c(if (name == "simple" && grepl("matrix", door)) "df", if (grepl("rank", door)) c("p", "df"))
      told <- setdiff(fields, left_out)
      expect_equal(figures[told], truth[told], tolerance = 1e-12, label = paste(label, door))
    }
    same(written$matrix$pairs[[1]], "matrix of a brief")
    same(relate(study, "hours", outcome, coefficient = coefficient, confidence = .9), "R")
    matrix <- correlation_matrix(study, "hours", outcome, "age", coefficient = coefficient, confidence = .9)
    same(matrix$pairs[1, ], "matrix, R")
    if (is.null(scheme$plausible)) {
      further <- c("--coefficient", coefficient, "--confidence", .9, options_of(scheme))
      written <- json_of("relate", file, "hours", outcome, further)
      same(jsonlite::fromJSON(written), "command")
      written <- json_of(
        "matrix", file, "hours", outcome, "age", "--coefficient", coefficient, "--confidence", .9, options_of(scheme)
      )
      same(jsonlite::fromJSON(written)$pairs[1, ], "matrix of the command")
    }
    ranked <- rank_predictors(study, outcome, "hours", "age", coefficient = coefficient, confidence = .9)$predictors
    if (name == "simple") same(ranked[ranked$x == "hours", ], "rank, over the same cases")
    desk <- unsere:::new_desk(read$brief, folder)
    shown <- shiny::isolate(unsere:::desk_answer(desk, read$brief$pairs[[1]]))
    same(shown$relation, "desk")
  }
})
