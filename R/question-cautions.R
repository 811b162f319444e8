#' The reasons to doubt a result
#'
#' What a careful colleague would raise, and only where the figures give reason: each caution carries the figures that
#' earned it and what to do next. They stand on every relation, line, matrix and ranking; this gives them as a table.
#'
#' @param result A result of [relate()], [fit_line()], [correlation_matrix()], [rank_predictors()] or [flag_spurious()].
#' @return A data frame, a row a caution, the gravest first: `code`, `severity` (`"note"`, `"warning"`, `"serious"`), `x`,
#'   `y` (the pair it is about), `figures` and `next_step` (lists: the figures that earned it, by name, and the question to
#'   ask next with its arguments). No row where there is no reason. `format()` puts them in words.
#' @section Errors: `unsere_error_usage` when the result carries no cautions.
#' @section False alarms: `bench/cautions.R` measures how often each fires on clean data. All warnings and serious ones
#'   together touched fewer than 1 run in 20 of bivariate normal data, clean 5-point scales and clean binary splits at n
#'   = 100.
#' @section shared_trend: Two series over time whose r does not hold beyond their trends: `serious` when neither the changes
#'   nor the detrended series are correlated, `warning` when only one is, or too few periods tell. Needs a time,
#'   declared or one that looks like it. Method and error rates: [flag_spurious()]. Yule (1926), Granger and Newbold (1974).
#' @section serial_dependence: Durbin and Watson's d of the line below 1, the relation holding otherwise: neighbouring
#'   times are no independent cases. Durbin and Watson (1950).
#' @section alike_neighbours: Rows next to each other are alike in both variables (r with the next row above 3 / sqrt(n), or
#'   the mean r with the next five above 3 / sqrt(5 n)), so that the number of cases that carry as much information (Bartlett
#'   1935; Pyper and Peterman 1998) is less than three quarters of n; there is no time by which a trend could be looked
#'   for, and no column (sorted, or in blocks) says why the rows stand so. Or, with columns that are coordinates by their
#'   names (lat and lon, easting and northing), places near each other are (Clifford, Richardson and Hemon 1989; Dutilleul
#'   1993). Serious where p is below its level, but not with that number of cases.
#' @section one_case: One case moves Fisher's z by more than clean data ever do, (0.9 + 4 / sqrt(n)) standard errors,
#'   and without it the sign, the verdict of the test (`serious`) or the word for the size (`warning`) changes; or two
#'   cases together, which hide each other when one is left out at a time, by more than 1.4 + 6 / sqrt(n).
#'   Leave-one-out: Quenouille (1956).
#' @section curved: A quadratic term added to the straight line has p < .002, or powers two to six together p < .00002 (a
#'   wave). `serious` where r is not clear, or the parabola rises and falls among the cases (the one at least a third as far
#'   as the other), and the curve explains a tenth of the variance or more. Pearson; of Spearman's ranks only then.
#' @section interval_too_narrow: The interval by leaving out one case at a time (jackknife) is wider than the usual one by
#'   more than 1 + 2.3 / sqrt(n) + 4.5 / n times, which normal data exceed in at most 1 sample of 50
#'   (bench/jackknife.R). From 12 cases on.
#' @section clustered_cases: The cases come in five classes or more (a declared group, or a column of text), in both
#'   variables the classes' means differ with p < .01, and the design effect 1 + (size - 1) icc icc is 1.1 or more. Serious
#'   where p is below its level though the interval by leaving out one class at a time holds zero.
#' @section far_value: One or two values lie farther from all others than one and a half times their whole range.
#' @section unequal_spreads: Of two groups the standard error by Welch differs from the pooled one by 15 % or more and the
#'   spreads differ with p < .005 (Brown & Forsythe 1974). Serious where Welch's test says otherwise than the usual one.
#' @section unequal_groups: Of several groups without an order, each of four cases or more, the spreads differ with p < .005
#'   (Brown & Forsythe 1974), and Welch's test (1951) gives a p at least twice or at most half that of F. Serious where it
#'   says otherwise.
#' @section small_groups: A group without an order holds fewer than five cases.
#' @section made_groups: The groups never overlap in the other variable, as grades do not in the points that they are given
#'   for; or each group of the one lies in a single group of the other. Three cases a group or more. Always serious.
#' @section made_from: A note: within a column of groups the relation would differ, but the groups lie one above the other
#'   along the values (grades, bands, pass and fail), which alone makes them differ.
#' @section chance_size: Eta or V lies above its own interval, as it may with many groups of few cases.
#' @section uneven_spread: Koenker's test of the residuals has p < .004 along x, or p < .002 along the distance from its
#'   mean, and the spread differs by a third or more.
#'   Koenker (1981).
#' @section restricted_range: The values cover less than half of the `range` that the codebook declares, with 20 cases or
#'   more. Thorndike (1949).
#' @section empty_corner: Of two numeric variables (100 cases or more, 15 values or more, no time) cases crowd up to a
#'   slanting straight line across both, and none lies beyond: a density that is there right up to the line is e^12 times
#'   likelier than one that thins out towards it as corners do, and they lie all along it. Were they chosen by such a sum,
#'   the sum is a normal cut off below; its spread is by maximum likelihood, and r of all follows (Pearson 1903, Cohen
#'   1957), with p by leaving out a twentieth of the cases at a time. Not told where values are unlike such a normal, or
#'   less than 2 or more than 80 % of all would have been chosen. `serious`: r is clear, and that of all is not, or has
#'   the other sign; `warning`: it is more than .1 away (on the z scale); else `note`. `warning` also where one variable is
#'   never above the other. On choice as a source of r: Berkson (1946).
#' @section third_variable: A `note` where r is significant and another measure (30 are checked) is related to both (p <
#'   .001 over their number), so that with it controlled for r is less than half (on the z scale) and not clear any more.
#'   Items of one set of answers are passed over, and where a trend is told. Yule (1907).
#' @section repeated_rows: Rows that repeat an earlier one in every variable but the case's name, where chance would
#'   hardly make one, nor the likeness of answers to each other (from how many rows differ in one answer, two, and so on).
#'   Up to 50,000 cases.
#' @section mixed_groups: Of the declared group, and of columns of words or of two values that split the cases.
#'   `serious`: within the groups the relation is clear (p < .01) and goes the other way; `warning`: the pooled r is more
#'   than .2 (on the z scale) and three standard errors away from that within groups, whose means differ on both
#'   variables; or a group of 8 cases or more goes the other way beyond chance. Robinson (1950), Simpson (1951).
#' @section group_averages: The cases are groups, one row each, or a label says average or mean, or the decimals do:
#'   values times a count column are whole to the last digit written, or all are fractions with changing denominators
#'   (up to 60 with six decimals, 15 with four). Robinson (1950).
#' @section part_whole: Some of the study's variables (150 at most, right/wrong items among them) give the one with the
#'   other among them, and not without it: exactly, by orthogonalisation to 9 digits, or to the last digit that is written
#'   with weights of one size, as a rounded mean is. Also a gain or difference beside what it was taken from, and, to the
#'   last digit written, a ratio or product of the other and a third (divided by it, by its square, times it), or a change as
#'   a share of what it began with. `warning`: both are shares that add up to one sum with others. McNemar (1969), Aitchison
#'   (1986).
#' @section same_measure: Equal values or a linear copy, exact or up to the digits written; or one is the logarithm, square
#'   root, square or reciprocal of the other, or a linear copy of that, up to the digits written (20 cases or more).
#' @section shared_denominator: Both are divided by one column of the study: they are ratios with it, or it makes counts of
#'   them (their product, a hundredth of it, and so on, is whole as far as the digits written tell, and chance would hardly
#'   make it so). The counts are then related with it controlled for. `serious`: nothing clear is left, or it changes sign;
#'   `warning`: r falls by more than .1 (on the z scale); `note`: it does not. Else `warning`, where units, labels or names
#'   say "per" the same base, of time excepted. Pearson (1897).
#' @section floor_or_ceiling: 15 % or more of the cases share the lowest or the highest value of a variable with 9 values
#'   or more; 30 % with 8, 2.5 cases of as many as there are values, but 35 % at least, with fewer. `note` where
#'   that value is 0 in a numeric variable without a declared range or value labels: none of a count, of hours or of money is
#'   a value, not the end of a scale.
#' @section coarse_scale: Pearson's r of a variable with 5 values or fewer (`note`).
#' @section rare_category: One side of a binary variable under a tenth (`note`) or under 5 cases (`warning`).
#' @section few_cases: Fewer than 25 pairs (`note`), fewer than 10 (`warning`).
#' @section many_missing: A fifth of the cases or more left out (`note`), two fifths (`warning`).
#' @section many_tests: Ten tests or more without adjustment. Holm (1979).
#' @section codes_not_numbers: Values such as -9 or 999 far outside the others, not declared as missing codes.
#' @section text_among_numbers: A column of numbers with text in a few cells, left out of a matrix that was not asked for it
#'   by name.
#' @section reversed_item: Of four items or more with one set of words (or one scale and one beginning of their names) some
#'   go against all others: every r with them negative, half of them statistically significant, those among the
#'   others positive.
#' @section replicates_of_full_rank: Replicate weights of another kind than the jackknife without strata deviate from the
#'   weights in as many directions as there are replicates, less one, and neither clusters nor degrees of freedom are named:
#'   the degrees of freedom may be too many (`warning`). Wolter (2007).
#' @section outside_data: A prediction beyond the observed x.
#' @references Yule, G. U. (1926). Why do we sometimes get nonsense-correlations between time-series? *Journal of the
#'   Royal Statistical Society*, 89, 1-63. Pearson, K. (1897). On a form of spurious correlation. *Proceedings of the
#'   Royal Society of London*, 60, 489-498. Robinson, W. S. (1950). Ecological correlations and the behavior of
#'   individuals. *American Sociological Review*, 15, 351-357. Simpson, E. H. (1951). The interpretation of interaction
#'   in contingency tables. *Journal of the Royal Statistical Society B*, 13, 238-241. Quenouille, M. H. (1956). Notes
#'   on bias in estimation. *Biometrika*, 43, 353-360. McNemar, Q. (1969). *Psychological statistics* (4th ed.). Wiley.
#'   Pearson, K. (1903). On the influence of natural selection on the variability and correlation of organs.
#'   *Philosophical Transactions A*, 200, 1-66. Berkson, J. (1946). Limitations of the application of fourfold table
#'   analysis to hospital data. *Biometrics Bulletin*, 2, 47-53. Cohen, A. C. (1957). Restriction and selection in
#'   multinormal distributions. *Annals of Mathematical Statistics*, 28, 731-741.
#'   Aitchison, J. (1986). *The statistical analysis of compositional data*. Chapman and Hall.
#' @examples
#' cautions(relate(demo_study("learners"), practice_hours, speaking_score))
#' cautions(relate(demo_study("town_years"), ebook_loans, cycle_path_km))
#' @export
cautions <- function(result) {
  if (is.list(result) && is.data.frame(result$cautions)) return(result$cautions)
  abort_usage(problem("%s carries no cautions.", class(result)[1]), "Give a relation, a line, a matrix or a ranking.")
}
