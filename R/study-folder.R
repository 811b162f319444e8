# A folder, a pattern or several paths as one study: files of one form, read one by one and joined.

#' Whether a path names several files
#' @noRd
names_several <- function(path) {
  is.character(path) && (length(path) > 1L || is_word(path) && !identical(path, "-") &&
    (dir.exists(path) || grepl("[*?]", path) && !file.exists(path)))
}

#' @param read From a path to a study; `where` a condition, kept when all are joined.
#' @noRd
study_of_files <- function(path, read) {
  files <- if (length(path) > 1L) path else files_of(path)
  for (file in files) check_path(file)
  check_room_for(files)
  shown <- if (length(path) > 1L) toString(basename(path)) else basename(normalizePath(path, mustWork = FALSE))
  parts <- lapply(files, function(file) with_folder_values(read(file), hive_values(file)))
  if (length(parts) == 1L) return(parts[[1]])
  columns <- lapply(parts, study_names)
  names <- unique(unlist(columns))
  alone <- which(!vapply(columns, function(own) any(own %in% columns[[1]]), NA))
  if (length(alone)) {
    abort_input(
      problem("%s and %s have no column in common.", basename(files[1]), basename(files[alone[1]])),
      "Files read as one are of one form."
    )
  }
  data <- lapply(stats::setNames(nm = names), function(name) {
    join_columns(lapply(parts, function(part) {
      if (name %in% study_names(part)) part$data[[name]] else rep(NA, study_size(part))
    }))
  })
  sizes <- vapply(parts, study_size, 0L)
  marks <- part_names(files)
  joined <- list2DF(data)
  added <- setdiff("file", names)
  if (length(added)) joined$file <- rep(marks, sizes)
  joined_study(joined, parts, columns, marks, sizes, shown, files, added)
}

# Rows are held in memory: what would not fit is gathered by moments.
check_room_for <- function(files, most = 4e9) {
  size <- sum(file.size(files))
  if (size <= most) return(invisible())
  abort_input(
    problem("The %d files hold %.1f GB, more than is read at once.", length(files), size / 1e9),
    "Gather their sums with gather_moments(), which reads them in pieces, and ask relate() or correlation_matrix() of those."
  )
}

with_folder_values <- function(study, values) {
  for (name in setdiff(names(values), study_names(study))) {
    value <- utils::type.convert(values[[name]], as.is = TRUE)
    study <- with_column(study, name, rep(value, study_size(study)), "name of the folder")
  }
  study
}

# What tells the files apart: their names, without what all of them share.
part_names <- function(files) {
  names <- basename(files)
  if (anyDuplicated(names)) names <- file.path(basename(dirname(files)), names)
  if (anyDuplicated(names)) files else sub("[.][A-Za-z]+([.]gz)?$", "", names)
}

# Numbers stay numbers, steps of one order steps; else all become text.
join_columns <- function(columns) {
  filled <- Filter(function(column) !all(is.na(column)), columns)
  if (!length(filled)) return(unlist(lapply(columns, as.character)))
  kinds <- unique(vapply(filled, function(column) if (is.numeric(column)) "numeric" else class(column)[1], ""))
  if (identical(kinds, "numeric")) return(unlist(lapply(columns, as.double)))
  if (identical(kinds, "ordered")) {
    steps <- unique(lapply(filled, levels))
    if (length(steps) == 1L) {
      return(factor(unlist(lapply(columns, as.character)), steps[[1]], ordered = TRUE))
    }
  }
  if (length(kinds) == 1L && kinds %in% c("Date", "POSIXct")) return(do.call(c, filled_dates(columns, filled[[1]])))
  unlist(lapply(columns, as.character))
}

filled_dates <- function(columns, like) {
  lapply(columns, function(column) if (all(is.na(column))) rep(like[NA_integer_], length(column)) else column)
}

joined_study <- function(data, parts, columns, marks, sizes, shown, files, added) {
  study <- as_study(data)
  first <- parts[[1]]
  for (part in rev(parts)) study <- with_described(study, part)
  if (length(added)) study <- with_entry(study, added, list(role = "about", label = NULL))
  origin <- first$provenance[c("kind", "decimal_mark")]
  digests <- vapply(parts, function(part) or_default(digest_of(part$provenance), ""), "")
  provenance <- study$provenance[!names(study$provenance) %in% c("file", "digest", names(origin))]
  study$provenance <- c(
    list(file = shown, digest = cli::hash_sha256(paste(digests, collapse = " "))),
    Filter(Negate(is.null), origin), provenance
  )
  study$provenance$decisions <- as_decisions(c(
    list(template("%d files were read as one: %s", length(files), toString(sprintf("%s (%d)", marks, sizes)))),
    lapply(columns_that_differ(columns, marks), function(one) {
      template("%s is not in every file; not in %s", one$name, toString(one$lacking))
    }), first$provenance$decisions
  ))
  study
}

# What a part's codebook says of a variable, where its column stayed what it was.
with_described <- function(study, part) {
  for (name in study_names(part)) {
    entry <- part$codebook[part$codebook$variable == name, ]
    at <- study$codebook$variable == name
    same <- identical(class(study$data[[name]])[1], class(part$data[[name]])[1])
    fields <- setdiff(names(entry), c("variable", if (!same) c("level", "values", "range")))
    study$codebook[at, fields] <- entry[fields]
  }
  study
}

columns_that_differ <- function(columns, marks) {
  odd <- Filter(function(name) !all(vapply(columns, function(own) name %in% own, NA)), unique(unlist(columns)))
  lapply(odd, function(name) {
    list(name = name, lacking = marks[!vapply(columns, function(own) name %in% own, NA)])
  })
}
