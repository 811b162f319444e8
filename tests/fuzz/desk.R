# Random events on the desk: what stands on the page is set and pressed, with values that fit and values that do not.
# Whatever is done, each place can still be shown, the brief can still be read, and what is undone comes back by redoing.

desk_of <- function(path, home) {
  unsere <- asNamespace("unsere")
  state <- unsere$new_desk(unsere$desk_brief(path), home)
  view <- shiny::reactiveValues(place = "bring")
  places <- unsere$desk_places()
  list(
    state = state, places = names(places),
    set = function(key, value) shiny::isolate(unsere$set_value(state, view, places, key, value)),
    act = function(what, value, fields) shiny::isolate(unsere$do_act(state, view, places, what, value, fields)),
    shown = function(place) {
      shiny::isolate({
        view$place <- place
        paste(unlist(lapply(intersect(c("top", "rest"), names(places[[place]])), function(part) {
          as.character(places[[place]][[part]](state, view))
        })), collapse = "\n")
      })
    },
    brief = function() unsere$brief_text(shiny::isolate(state$brief()))
  )
}

# What the page offers: controls to set and buttons to press.
marks_of <- function(html, mark) {
  found <- regmatches(html, gregexpr(sprintf("%s=\"[^\"]*\"", mark), html))[[1]]
  unique(gsub("&amp;", "&", sub("\"$", "", sub("^[^\"]*\"", "", found)), fixed = TRUE))
}

random_value <- function(names) {
  one(
    one(names), one(names), TRUE, FALSE, "", "1", "0.9", "-5", "quadratic", "spearman", "numeric", "group", "never < often",
    "log(x)", "a,b", "1,2", "<script>", "'", strrep("9", 30), "2000", "ja"
  )
}

try_desk <- function() {
  path <- if (runif(1) < 0.5) file.path(demo, one("learners.csv", "town_years.csv", "dial.csv", "test_items.csv")) else {
    tempfile("data", folder, ".csv")
  }
  if (!file.exists(path)) data.table::fwrite(random_table(), path)
  before <- digest_of_file(path)
  home <- tempfile("desk-", folder)
  dir.create(home)
  told <- function(code) tryCatch(suppressMessages(suppressWarnings(within_limit(code))), unsere_error = function(e) NULL)
  desk <- told(desk_of(path, home))
  if (is.null(desk)) return(invisible())
  names <- names(data.table::fread(path, nrows = 5))
  for (step in seq_len(12)) {
    place <- one(setdiff(desk$places, "write"))
    html <- within_limit(suppressWarnings(suppressMessages(desk$shown(place))))
    keys <- marks_of(html, "data-set")
    acts <- setdiff(marks_of(html, "data-act"), c("save", "run", "go"))
    if (length(keys) && runif(1) < 0.7) {
      told(desk$set(one(keys), random_value(names)))
    } else if (length(acts)) {
      told(desk$act(one(acts), random_value(names), list(
        case = random_value(names), reason = "seen", name = random_value(names), formula = "log(x)", x = one(names),
        y = one(names)
      )))
    }
    if (runif(1) < 0.15) {
      now <- desk$brief()
      told(desk$act("undo", NULL, list()))
      told(desk$act("redo", NULL, list()))
      if (!identical(desk$brief(), now)) stop("undone and redone, the brief is another")
    }
  }
  kept <- tempfile("brief-", folder, ".yml")
  writeLines(desk$brief(), kept)
  told(unsere:::open_brief(kept))
  if (!identical(digest_of_file(path), before)) stop("the data file was changed")
}

digest_of_file <- function(path) unname(tools::md5sum(path))
