# The map of the house: rooms, files with their lines and functions, and the calls between files, read by R's parser.
# `read_rooms()` returns it as data; run as a script (make rooms) it prints it.

# What each room holds and whom it may call, from the ground up; every room may call itself and `error`.
room_plan <- list(
  language = list(holds = "templates and marks of the language in use", calls = character()),
  error = list(holds = "raising and checking errors; files written whole", calls = "bindings"),
  bindings = list(holds = "the core's entry points (generated)", calls = character()),
  measure = list(holds = "plain vectors in, estimates, tests and intervals out", calls = "bindings"),
  coefficient = list(holds = "one record a coefficient", calls = c("measure", "bindings")),
  read = list(holds = "bytes to columns: formats, layout, headings, cells, scales", calls = c("bindings", "measure")),
  codebook = list(holds = "what each variable is, in and out", calls = c("read", "measure")),
  source = list(
    holds = "where data live: files in chunks, tables of databases; an engine is one file",
    calls = c("bindings", "measure", "read", "codebook")
  ),
  study = list(
    holds = "the study, its narrow door, samples, derived variables, exclusions, the design",
    calls = c("bindings", "measure", "read", "codebook", "source")
  ),
  scheme = list(
    holds = "how an estimate is worked out and how sure it is",
    calls = c("bindings", "measure", "coefficient", "study")
  ),
  caution = list(
    holds = "one record a caution: its check and the templates of its texts",
    calls = c("measure", "coefficient", "scheme", "read", "codebook", "study")
  ),
  question = list(
    holds = "one question a file: the source, the scheme, the cautions, the result",
    calls = c("bindings", "measure", "coefficient", "scheme", "read", "codebook", "source", "study", "caution")
  ),
  words = list(
    holds = "facts to text: numbers, sentences, print, JSON, CSV",
    calls = c("bindings", "measure", "coefficient", "read", "codebook", "study", "caution")
  ),
  draw = list(
    holds = "figures from result objects", calls = c(
      "measure", "coefficient", "scheme", "read", "codebook", "study", "caution", "question", "words"
    )
  ),
  report = list(
    holds = "results to typed blocks, in the order of a report", calls = c(
      "measure", "coefficient", "scheme", "read", "codebook", "source", "study", "caution", "question", "words", "draw"
    )
  ),
  write = list(
    holds = "one output form a file: methods on blocks", calls = c(
      "bindings", "measure", "coefficient", "read", "codebook", "source", "study", "caution", "question", "words", "draw",
      "report"
    )
  ),
  command = list(
    holds = "the door of the shell: no computation, no sentence, no default", calls = c(
      "measure", "coefficient", "read", "codebook", "source", "study", "caution", "question", "words", "draw", "report",
      "write", "desk"
    )
  ),
  desk = list(
    holds = "the door of the page: a brief and views of it, no computation, no sentence, no default", calls = c(
      "measure", "coefficient", "read", "codebook", "source", "study", "caution", "question", "words", "draw", "report",
      "write"
    )
  )
)

room_of <- function(file) ifelse(file == "RcppExports.R", "bindings", sub("-.*$", "", file))

# A caution and a scheme need the sample, and a sample the study: they may call the files of samples alone.
narrow_doors <- list(
  "caution->study" = "study-sample.R", "scheme->study" = "study-sample.R", "command->desk" = "desk-open.R"
)

# Who may put things into words; all others keep templates and their figures.
speaking_rooms <- c("language", "words", "draw", "report", "write", "command", "desk")

# Whose fields are read by `$` in their own rooms alone; others ask by functions.
own_objects <- list(study = c("study", "source"))

#' Objects of `own_objects` whose fields a file takes by `$`
reached_into <- function(expressions) {
  reached <- character()
  look <- function(e) {
    if (is.call(e) && identical(e[[1]], as.name("$")) && is.name(e[[2]])) reached <<- c(reached, as.character(e[[2]]))
    if (is.call(e) || is.pairlist(e)) for (part in as.list(e)) if (!missing(part)) look(part)
  }
  for (e in as.list(expressions)) look(e)
  intersect(unique(reached), names(own_objects))
}

read_file <- function(path) {
  expressions <- parse(path, keep.source = TRUE)
  functions <- Filter(function(e) {
    is.call(e) && as.character(e[[1]])[1] %in% c("<-", "=") && is.name(e[[2]]) && is.call(e[[3]]) &&
      identical(e[[3]][[1]], as.name("function"))
  }, as.list(expressions))
  references <- attr(expressions, "srcref")
  spans <- vapply(references, function(r) as.integer(r)[3] - as.integer(r)[1] + 1L, 0L)
  is_function <- vapply(as.list(expressions), function(e) any(vapply(functions, identical, NA, e)), NA)
  names <- vapply(functions, function(e) as.character(e[[2]]), "")
  uses <- lapply(functions, function(e) {
    codetools::findGlobals(eval(e[[3]], new.env(parent = baseenv())), merge = TRUE)
  })
  others <- setdiff(unlist(lapply(as.list(expressions)[!is_function], all.names)), c("<-", "="))
  defines <- vapply(Filter(function(e) {
    is.call(e) && identical(e[[1]], as.name("<-")) && is.name(e[[2]])
  }, as.list(expressions)), function(e) as.character(e[[2]]), "")
  list(
    file = basename(path), room = room_of(basename(path)), lines = length(readLines(path)),
    functions = data.frame(name = names, lines = spans[is_function]), uses = unique(c(unlist(uses), others)),
    used_by = stats::setNames(uses, names), defines = defines,
    reached = reached_into(expressions)
  )
}

read_rooms <- function(root) {
  paths <- list.files(file.path(root, "R"), "[.]R$", full.names = TRUE)
  files <- lapply(paths[!basename(paths) %in% "unsere-package.R"], read_file)
  names(files) <- vapply(files, `[[`, "", "file")
  homes <- unlist(lapply(files, function(f) stats::setNames(rep(f$file, length(f$defines)), f$defines)))
  names(homes) <- sub("^[^.]+[.]R[.]", "", names(homes))
  calls <- do.call(rbind, lapply(files, function(f) {
    called <- intersect(f$uses, setdiff(names(homes), f$defines))
    if (length(called)) data.frame(from = f$file, to = unname(homes[called]), name = called)
  }))
  rownames(calls) <- NULL
  core <- list.files(file.path(root, "src"), "[.](cpp|hpp|h)$", recursive = TRUE, full.names = TRUE)
  list(files = files, calls = calls, core = data.frame(
    file = sub(paste0(root, "/"), "", core, fixed = TRUE), lines = vapply(core, function(p) length(readLines(p)), 0L),
    row.names = NULL
  ), core_text = stats::setNames(lapply(core, readLines), basename(core)))
}

#' Groups of files of one room that call each other round
find_circles <- function(rooms) {
  inner <- rooms$calls[room_of(rooms$calls$from) == room_of(rooms$calls$to), ]
  next_of <- split(inner$to, inner$from)
  reached <- function(from) {
    seen <- character()
    open <- unique(next_of[[from]])
    while (length(open)) {
      seen <- c(seen, open)
      open <- setdiff(unique(unlist(next_of[open])), seen)
    }
    seen
  }
  all <- lapply(stats::setNames(names(next_of), names(next_of)), reached)
  round <- names(all)[vapply(names(all), function(from) from %in% all[[from]], NA)]
  meets <- function(a, b) a %in% all[[b]] && b %in% all[[a]]
  groups <- unique(lapply(round, function(file) sort(round[vapply(round, meets, NA, file)])))
  vapply(groups, function(group) {
    held <- inner[inner$from %in% group & inner$to %in% group, ]
    sprintf("a circle: %s", paste(sprintf("%s calls %s() of %s", held$from, held$name, held$to), collapse = "; "))
  }, "")
}

#' Everything that goes against the plan: wrong arrows, circles, files and functions that are too long, R inside the core
find_trespasses <- function(rooms, file_limit = 350L, function_limit = 60L) {
  unknown <- setdiff(vapply(rooms$files, `[[`, "", "room"), names(room_plan))
  from <- room_of(rooms$calls$from)
  to <- room_of(rooms$calls$to)
  wrong <- mapply(function(a, b, file) {
    door <- narrow_doors[[paste(a, b, sep = "->")]]
    if (a == b || b %in% c("error", "language")) return(FALSE)
    !b %in% room_plan[[a]]$calls || (!is.null(door) && !file %in% door)
  }, from, to, rooms$calls$to)
  long_files <- Filter(function(f) f$lines > file_limit, rooms$files)
  long_core <- rooms$core[rooms$core$lines > file_limit & !grepl("RcppExports", rooms$core$file), ]
  functions <- do.call(rbind, lapply(rooms$files, function(f) if (nrow(f$functions)) cbind(f$functions, file = f$file)))
  long <- functions[functions$lines > function_limit, ]
  twice <- unique(functions$name[duplicated(functions$name)])
  speaks <- vapply(rooms$files, function(f) "say" %in% f$uses && !f$room %in% speaking_rooms, NA)
  strange <- lapply(rooms$files, function(f) Filter(function(object) !f$room %in% own_objects[[object]], f$reached))
  core_files <- rooms$core$file[grepl("src/core/", rooms$core$file)]
  of_r <- "#include.*(R_ext|Rinternals|<R[.]h>|Rcpp)"
  with_r <- Filter(function(f) any(grepl(of_r, rooms$core_text[[basename(f)]])), core_files)
  c(
    sprintf("no such room: %s", unknown),
    sprintf("%s calls %s() of %s", rooms$calls$from[wrong], rooms$calls$name[wrong], rooms$calls$to[wrong]),
    find_circles(rooms),
    vapply(long_files, function(f) sprintf("%s has %d lines", f$file, f$lines), ""),
    sprintf("%s has %d lines", long_core$file, long_core$lines),
    sprintf("%s() of %s has %d lines", long$name, long$file, long$lines),
    sprintf("%s() is defined twice", twice),
    sprintf("%s calls say(): it keeps templates, which words fill in", names(rooms$files)[speaks]),
    sprintf("%s takes a field of a %s by $", rep(names(strange), lengths(strange)), unlist(strange)),
    sprintf("%s includes a header of R", with_r)
  )
}

#' How many files call each function of a file, the most wanted first
count_callers <- function(rooms, file) {
  names <- rooms$files[[file]]$functions$name
  callers <- vapply(names, function(name) {
    length(unique(rooms$calls$from[rooms$calls$to == file & rooms$calls$name == name]))
  }, 0L)
  sort(callers[callers > 0], decreasing = TRUE)
}

print_room <- function(rooms, name, files) {
  plan <- room_plan[[name]]
  cat(sprintf("\n%s: %s\n", name, plan$holds))
  cat(sprintf(
    "  %d files, %d lines; may call %s\n", length(files), sum(vapply(files, `[[`, 0L, "lines")),
    if (length(plan$calls)) paste(plan$calls, collapse = ", ") else "nothing above the core"
  ))
  for (f in files) {
    to <- unique(rooms$calls$to[rooms$calls$from == f$file])
    to <- to[room_of(to) != "error" & room_of(to) != "language"]
    cat(sprintf(
      "  %-28s %4d lines, %2d functions (longest %d)\n", f$file, f$lines, nrow(f$functions),
      max(0L, f$functions$lines)
    ))
    if (length(to)) cat(strwrap(paste("calls", paste(sort(to), collapse = ", ")), 116, indent = 6, exdent = 8), sep = "\n")
    callers <- count_callers(rooms, f$file)
    if (length(callers)) {
      told <- paste(sprintf("%s %d", names(callers), callers), collapse = ", ")
      cat(strwrap(paste("called by files:", told), 116, indent = 6, exdent = 8), sep = "\n")
    }
  }
}

print_rooms <- function(rooms) {
  cat("The house from the ground up. A file's first word is its room; it may call its own room and those listed.\n")
  by_room <- split(rooms$files, factor(vapply(rooms$files, `[[`, "", "room"), names(room_plan)))
  cat("\ncore: the numeric kernels in plain C++17; bindings: one thin layer between R's vectors and the core\n")
  cat(sprintf("  %-28s %4d lines\n", rooms$core$file, rooms$core$lines), sep = "")
  for (room in names(by_room)) print_room(rooms, room, by_room[[room]])
  trespasses <- find_trespasses(rooms)
  if (length(trespasses)) cat("\nagainst the plan:\n", paste0("  ", trespasses, "\n"), sep = "")
  cat(sprintf(
    "rooms: %s\n",
    if (length(trespasses)) "some things stand in the wrong place." else "everything is in its place."
  ))
}

if (sys.nframe() == 0L) print_rooms(read_rooms(getwd()))
