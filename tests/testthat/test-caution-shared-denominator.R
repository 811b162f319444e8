# Relations that a shared divisor, a shared whole or a product makes by itself.

codes_of <- function(data, x = "x", y = "y") cautions(relate(data, x, y))$code
told <- function(data, code, x = "x", y = "y") {
  found <- cautions(relate(data, x, y))
  at <- match(code, found$code)
  if (!is.na(at)) c(severity = found$severity[at], found$figures[[at]])
}

test_that("two rates of one base are told by their digits, and their counts are looked at with the base held constant", {
  set.seed(61)
  n <- 90
  residents <- round(exp(rnorm(n, 10, 1)))
  rate <- function(counts) round(1000 * counts / residents, 2)
  apart <- data.frame(town = sprintf("T%d", 1:n), residents, x = rate(rpois(n, 200)), y = rate(rpois(n, 30)))
  found <- told(apart, "shared_denominator")
  expect_identical(found[c("severity", "base", "stands")], list(severity = "serious", base = "residents", stands = FALSE))
  freed <- function(v) qr.resid(qr(cbind(1, residents)), v * residents)
  expect_equal(found$held, cor_table(cbind(freed(apart$x), freed(apart$y)))[1, 2], tolerance = 1e-9)
  expect_match(in_words(relate(apart, x, y)), "Both are divided by residents; controlling for it, the counts")
  expect_match(paste(format(relate(apart, x, y)), collapse = " "), "Ratios +with +a +common +denominator")
  # Where the rates themselves are tied the counts are, too.
  tie <- rnorm(n, sd = .4)
  joined <- transform(apart,
    x = rate(rpois(n, residents * exp(tie - 4))), y = rate(rpois(n, residents * exp(tie - 5)))
  )
  expect_identical(told(joined, "shared_denominator")[c("severity", "stands")], list(severity = "note", stands = TRUE))
  # The counts stand in the file, the rates have few digits; a percentage of each school's own pupils.
  pupils <- sample(80:900, n)
  books <- rpois(n, 4000)
  schools <- data.frame(pupils, books, staff = rpois(n, 40), x = round(books / pupils, 1))
  schools$y <- round(schools$staff / pupils, 3)
  expect_identical(told(schools, "shared_denominator")$base, "pupils")
  # Measurements beside a count are no rates of it.
  expect_false("shared_denominator" %in% codes_of(data.frame(pupils, x = round(rnorm(n, 20), 2), y = round(rnorm(n, 5), 2))))
})

test_that("a name or unit tells a rate, but not so much a week", {
  set.seed(62)
  data <- data.frame(a = rnorm(40), b = rnorm(40))
  named <- function(first, second) codes_of(stats::setNames(data, c(first, second)), first, second)
  expect_true("shared_denominator" %in% named("crimes_per_1000", "shops_per_1000"))
  expect_true("shared_denominator" %in% named("Kosten pro Kopf", "Ausleihen pro Kopf"))
  for (second in c("hours_per_week", "films_per_1000", "B\u00fccher pro Jahr")) {
    expect_false("shared_denominator" %in% named("lessons_per_week", second))
  }
  expect_false("shared_denominator" %in% named("Kosten pro Jahr", "Ausleihen pro Jahr"))
})

test_that("a ratio, a product and shares of one whole are told beside what they are made of", {
  set.seed(63)
  n <- 60
  height <- round(rnorm(n, 170, 9))
  weight <- round(exp(rnorm(n, 4.25, .15)))
  body <- data.frame(height, weight, bmi = round(weight / (height / 100)^2, 1))
  found <- told(body, "part_whole", "bmi", "weight")
  expect_identical(unlist(found[c("top", "base", "power")]), c(top = "weight", base = "height", power = "2"))
  expect_match(paste(format(relate(body, bmi, height)), collapse = " "), "divided +by +the +square +of +height")
  expect_false("part_whole" %in% codes_of(body, "height", "weight"))
  expect_false("part_whole" %in% codes_of(transform(body, bmi = round(bmi + rnorm(n), 1)), "bmi", "weight"))
  orders <- data.frame(quantity = rpois(n, 20) + 1, price = round(runif(n, 2, 50), 2))
  orders$total <- orders$quantity * orders$price
  expect_identical(told(orders, "part_whole", "quantity", "total")$power, -1)
  # Six decimals, and cases without any of it.
  empty <- data.frame(members = c(0, 0, sample(20:300, n - 2, TRUE)))
  empty$loans <- ifelse(empty$members > 0, rpois(n, 5000), 0)
  empty$each <- ifelse(empty$members > 0, round(empty$loans / (1000 * empty$members), 6), 0)
  expect_identical(told(empty, "part_whole", "each", "members")$base, "members")
  shares <- matrix(rexp(n * 4), n)
  shares <- as.data.frame(round(100 * shares / rowSums(shares), 1))
  found <- told(shares, "part_whole", "V1", "V2")
  expect_identical(found[c("severity", "with", "sum")], list(severity = "warning", with = c("V3", "V4"), sum = 100))
  expect_match(paste(format(relate(shares, V1, V2)), collapse = " "), "V1, +V2 +and +2 +others +add +up +to +100")
  # Parts of a total that differs from case to case are not bound by it.
  parts <- data.frame(a = rpois(n, 30), b = rpois(n, 30), c = rpois(n, 30))
  expect_false("part_whole" %in% codes_of(transform(parts, total = a + b + c), "a", "b"))
})

test_that("numbered persons and groups that come several times are classes, counts of persons are not", {
  set.seed(64)
  own <- rnorm(30)
  person <- rep(1:30, each = 6)
  trials <- data.frame(participant = person, x = own[person] + rnorm(180, sd = .5), y = own[person] + rnorm(180, sd = .5))
  expect_identical(codebook(as_study(trials))$level[1], "nominal")
  expect_identical(told(trials, "clustered_cases")$group, "participant")
  expect_identical(told(stats::setNames(trials, c("school", "x", "y")), "clustered_cases")$group, "school")
  expect_identical(codebook(as_study(data.frame(school = person, y = rnorm(180))))$level[1], "numeric")
  counts <- data.frame(student = sample(18:31, 200, TRUE, prob = dnorm(18:31, 25, 2)), y = rnorm(200))
  expect_identical(codebook(as_study(counts))$level[1], "numeric")
})

test_that("a change as a share of its beginning is told beside it, whatever it is called", {
  set.seed(66)
  before <- round(rnorm(70, 50, 10))
  after <- round(25 + before / 2 + rnorm(70, sd = 7))
  for (rel in list(round(100 * (after - before) / before, 1), round((after - before) / before, 3))) {
    found <- told(data.frame(x = before, y = rel, after), "part_whole")
    expect_identical(found[c("severity", "change", "top")], list(severity = "serious", change = TRUE, top = "after"))
  }
  expect_null(told(data.frame(x = before, y = round(rnorm(70), 2), after), "part_whole"))
})

test_that("what a class shares is had once from each", {
  set.seed(67)
  class <- rep(1:12, each = 20)
  size <- c(31, 31, 15:24)
  data <- data.frame(class = paste0("K", class), x = size[class], y = rnorm(240))
  expect_null(told(data, "floor_or_ceiling"))
  expect_identical(told(data[c("x", "y")], "floor_or_ceiling")$value, 31)
})

test_that("without a time, flagging names what goes with both and takes r with it", {
  set.seed(65)
  visitors <- round(runif(90, 10, 500))
  shops <- data.frame(visitors, sales = rpois(90, visitors / 10), complaints = rpois(90, visitors / 50), other = rnorm(90))
  found <- flag_spurious(shops, sales, complaints)
  expect_identical(found$behind$variable, "visitors")
  freed <- function(v) qr.resid(qr(cbind(1, visitors)), v)
  expect_equal(found$behind$partial, cor_table(cbind(freed(shops$sales), freed(shops$complaints)))[1, 2], tolerance = 1e-9)
  expect_match(paste(format(found), collapse = " "), "Potential +confounders.*visitors +\\(r = ")
  expect_match(in_words(found), "Controlling for visitors, which is related to both, r was \\.20, p = \\.058")
  expect_equal(as.data.frame(found)[c("series", "r", "n")], data.frame(series = "cases", r = found$relation$r, n = 90L))
  knitted <- unsere:::as_markdown(found)
  expect_match(knitted[3], "^[|] sales [|] complaints [|] 90 [|]")
  expect_match(knitted[length(knitted)], "Potential confounders.*visitors")
  expect_null(flag_spurious(shops, sales, complaints, candidates = visitors)$behind)
  # A relation by itself has it as a note, with the step; the flags say it once.
  alone <- relate(shops, sales, complaints)
  third <- alone$cautions$figures[[match("third_variable", alone$cautions$code)]]
  expect_equal(third$partial, found$behind$partial)
  expect_match(
    gsub("\\s+", " ", paste(format(alone), collapse = " ")),
    "Visitors is related to both.*candidates = \"visitors\""
  )
  called <- set_variable(as_study(shops), "visitors", label = "Visitors a day")
  expect_match(paste(format(relate(called, sales, complaints)), collapse = " "), "Visitors +a +day +is +related +to +both")
  expect_false("third_variable" %in% c(found$cautions$code, relate(shops, visitors, sales)$cautions$code))
  items <- as.data.frame(lapply(1:4, function(k) findInterval(as.vector(scale(visitors)) + rnorm(90) / 2, c(-1, 0, 1))))
  expect_false("third_variable" %in% relate(stats::setNames(items, letters[1:4]), a, b)$cautions$code)
  expect_null(flag_spurious(shops, visitors, sales)$behind)
  expect_null(flag_spurious(data.frame(x = rnorm(60), y = rnorm(60), z = rnorm(60)), x, y)$behind)
})

test_that("a ratio taken before its parts were rounded is found, and no part is taken for a ratio of the others", {
  set.seed(8)
  alarms <- hits <- 0
  for (run in 1:30) {
    height <- rnorm(90, 1.65, .08)
    weight <- 55 + 40 * (height - 1.65) + rnorm(90, 0, 7)
    data <- data.frame(height = round(100 * height), weight = round(weight, 1), index = round(weight / height^2, 1))
    hits <- hits + ("part_whole" %in% cautions(relate(data, "index", "weight"))$code)
    alarms <- alarms + ("part_whole" %in% cautions(relate(data, "height", "weight"))$code)
    pupils <- round(exp(rnorm(90, 7, .5)))
    staff <- round(pupils / rnorm(90, 15, 1))
    schools <- data.frame(pupils, staff, ratio = round(pupils / staff, 1))
    alarms <- alarms + ("part_whole" %in% cautions(relate(schools, "pupils", "staff"))$code)
  }
  expect_identical(c(hits, alarms), c(30, 0))
})
