# The map of the house: rooms, files with their lines and functions, and the calls between files, read by R's parser.
# `read_rooms()` returns it as data; run as a script (make rooms) it prints it.

# Who may call whom: a room may call those listed, and itself.
room_order <- list(
  measure = character(),
  caution = "measure",
  study = "measure",
  words = c("measure", "caution", "study"),
  ask = c("measure", "caution", "study", "words"),
  draw = c("measure", "study", "words", "ask"),
  report = c("measure", "caution", "study", "words", "ask", "draw"),
  command = c("measure", "caution", "study", "words", "ask", "draw", "report")
)

# Raising and checking errors is the same act in every room; its one home is the lowest.
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
  list(
    file = basename(path), room = sub("-.*$", "", basename(path)), lines = length(readLines(path)),
    functions = data.frame(name = names, lines = spans[is_function]), uses = unique(c(unlist(uses), others)),
    defines = vapply(Filter(function(e) is.call(e) && identical(e[[1]], as.name("<-")) && is.name(e[[2]]),
      as.list(expressions)
    ), function(e) as.character(e[[2]]), "")
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

#' Everything that goes against the plan: wrong arrows, files and functions that are too long, R inside the core
find_trespasses <- function(rooms, file_limit = 350L, function_limit = 60L) {
  room_of <- function(file) sub("-.*$", "", file)
  unknown <- setdiff(vapply(rooms$files, `[[`, "", "room"), names(room_order))
  from <- room_of(rooms$calls$from)
  to <- room_of(rooms$calls$to)
  wrong <- mapply(function(a, b) a != b && !b %in% room_order[[a]], from, to)
  long_files <- Filter(function(f) f$lines > file_limit, rooms$files)
  long_core <- rooms$core[rooms$core$lines > file_limit, ]
  functions <- do.call(rbind, lapply(rooms$files, function(f) if (nrow(f$functions)) cbind(f$functions, file = f$file)))
  long <- functions[functions$lines > function_limit, ]
  core_files <- rooms$core$file[grepl("src/core/", rooms$core$file)]
  with_r <- Filter(function(f) any(grepl("#include.*(R_ext|Rinternals|<R[.]h>|cpp11|Rcpp)",
    rooms$core_text[[basename(f)]])), core_files)
  c(
    sprintf("no such room: %s", unknown),
    sprintf("%s calls %s() of %s", rooms$calls$from[wrong], rooms$calls$name[wrong], rooms$calls$to[wrong]),
    vapply(long_files, function(f) sprintf("%s has %d lines", f$file, f$lines), ""),
    sprintf("%s has %d lines", long_core$file, long_core$lines),
    sprintf("%s() of %s has %d lines", long$name, long$file, long$lines),
    sprintf("%s includes a header of R", with_r)
  )
}

print_rooms <- function(rooms) {
  by_room <- split(rooms$files, factor(vapply(rooms$files, `[[`, "", "room"), names(room_order)))
  for (room in names(by_room)) {
    files <- by_room[[room]]
    cat(sprintf("%s: %d files, %d lines; may call %s\n", room, length(files), sum(vapply(files, `[[`, 0L, "lines")),
      if (length(room_order[[room]])) paste(room_order[[room]], collapse = ", ") else "nothing above the core"
    ))
    for (f in files) {
      to <- sort(unique(rooms$calls$to[rooms$calls$from == f$file]))
      cat(sprintf("  %-24s %4d lines, %2d functions (longest %d)\n", f$file, f$lines, nrow(f$functions),
        max(0L, f$functions$lines)
      ))
      if (length(to)) cat(strwrap(paste("->", paste(to, collapse = ", ")), 110, indent = 6, exdent = 9), sep = "\n")
    }
  }
  cat("core and bindings:\n")
  cat(sprintf("  %-24s %4d lines\n", rooms$core$file, rooms$core$lines), sep = "")
  trespasses <- find_trespasses(rooms)
  if (length(trespasses)) cat("against the plan:\n", paste0("  ", trespasses, "\n"), sep = "")
  cat(sprintf("rooms: %s\n",
    if (length(trespasses)) "some things stand in the wrong place." else "everything is in its place."))
}

if (sys.nframe() == 0L) print_rooms(read_rooms(getwd()))
