# What correlations do, shown on made-up data.

question_demonstrate <- function() {
  new_question(
    "demonstrate", "demonstrate", "show on made-up data what correlations do", "TOPIC", list(
      topic = argument("choice", "what to show", allowed = names(demonstrations()), doors = "r"),
      seed = argument("whole", "another seed gives other made-up data", default = 1, value = "N", from = 0, to = 2^31)
    ), NULL, "demonstrate sample-size",
    usage = paste("demonstrate", paste(names(demonstrations()), collapse = "|")), place = 10
  )
}

answer_demonstrate <- function(given) {
  options <- list(
    topic = check_argument(given$topic, question_demonstrate()$arguments$topic, "topic"),
    seed = check_argument(or_default(given$seed, 1), question_demonstrate()$arguments$seed, "seed")
  )
  shown <- demonstrations()[[options$topic]](options$seed)
  new_result(
    "demonstration", list(topic = options$topic, seed = options$seed, rows = shown$rows, data = shown$data),
    c("topic", "seed", "rows", "data")
  )
}

# Each gives the rows that it tells of and the cases that it shows.
demonstrations <- function() {
  list(
    "sample-size" = show_sample_size, "one-case" = show_one_case, "restricted-range" = show_restricted_range,
    groups = show_groups
  )
}

row_of_relation <- function(panel, relation, ...) {
  data.frame(
    panel = panel, n = relation$n, r = relation$r, ci_low = relation$ci_low, ci_high = relation$ci_high,
    p = relation$p, ...
  )
}

relate_made <- function(data, ...) {
  study <- as_study(data.frame(x = data$x, y = data$y))
  for (name in c("x", "y")) study <- with_entry(study, name, list(level = "numeric"))
  answer_relate(study, c(list(x = "x", y = "y"), list(...)))
}

show_sample_size <- function(seed) {
  sizes <- c(10L, 20L, 50L, 100L, 200L, 500L)
  made <- lapply(sizes, function(n) practice_pair(n, 0.3, exact = TRUE, seed = seed))
  panels <- sprintf("n = %d", sizes)
  list(
    rows = do.call(rbind, Map(function(data, panel) {
      row_of_relation(panel, relate_made(data, interval = "analytic"))
    }, made, panels)),
    data = do.call(rbind, Map(function(data, panel) data.frame(panel, data[c("x", "y")], group = NA), made, panels))
  )
}

show_one_case <- function(seed) {
  base <- practice_pair(29, 0, exact = TRUE, seed = seed)[c("x", "y")]
  places <- c(0, 2, 4, 6, 8)
  panels <- sprintf("(%d, %d)", places, places)
  of_ranks <- setdiff(product_coefficients(), straight_record()$name)[1]
  made <- lapply(places, function(at) rbind(base, data.frame(x = at, y = at)))
  list(
    rows = do.call(rbind, Map(function(data, panel) {
      ranks <- relate_made(data, coefficient = of_ranks)
      row_of_relation(panel, relate_made(data, interval = "analytic"), ranks = ranks$r, p_ranks = ranks$p)
    }, made, panels)),
    data = do.call(rbind, Map(function(data, panel) {
      data.frame(panel, data, group = ifelse(seq_len(nrow(data)) == nrow(data), "one", "others"))
    }, made, panels))
  )
}

show_restricted_range <- function(seed) {
  whole <- practice_pair(400, 0.6, exact = TRUE, seed = seed)[c("x", "y")]
  cuts <- list("all" = -Inf, "upper half" = 0.5, "upper quarter" = 0.75, "upper tenth" = 0.9)
  made <- lapply(cuts, function(share) {
    if (share < 0) whole else whole[whole$x > stats::quantile(whole$x, share), ]
  })
  full <- stats::sd(whole$x)
  list(
    rows = do.call(rbind, Map(function(data, panel) {
      relation <- relate_made(data, interval = "analytic", correct_range = c(x = full))
      row_of_relation(panel, relation, sd = stats::sd(data$x), corrected = relation$unrestricted$r)
    }, made, names(made))),
    data = do.call(rbind, Map(function(data, panel) data.frame(panel, data, group = NA), made, names(made)))
  )
}

show_groups <- function(seed) {
  groups <- c("A", "B", "C", "D")
  data <- do.call(rbind, lapply(seq_along(groups), function(k) {
    pair <- practice_pair(30, -0.5, exact = TRUE, seed = seed + k)
    data.frame(x = pair$x + 2.2 * k, y = pair$y + 2.2 * k, group = groups[k])
  }))
  each <- lapply(groups, function(group) data[data$group == group, ])
  relations <- lapply(c(list(data), each), relate_made, interval = "analytic")
  list(
    rows = do.call(rbind, Map(function(one, panel) row_of_relation(panel, one), relations, c("all", groups))),
    data = data.frame(panel = "all", data)
  )
}
