#' Cautions about a result
#'
#' Returns the cautions attached to a result as a table. Every relation, line, matrix and ranking is
#' checked for the conditions listed below. A caution is given only where the data provide evidence
#' for it, and it states the figures that triggered it and the recommended next step.
#'
#' @param result A result of [relate()], [fit_line()], [correlation_matrix()], [rank_predictors()] or
#'   [flag_spurious()].
#' @return A data frame with one row per caution, the most severe first:
#'   * `code`: the name of the caution, as in the sections below
#'   * `severity`: `"note"`, `"warning"` or `"serious"`
#'   * `x`, `y`: the pair concerned
#'   * `figures`: a list of the figures that triggered it, by name
#'   * `next_step`: a list with the recommended question and its arguments
#'
#'   Without cautions it has no rows. `format()` gives the cautions as text.
#' @section Errors: `unsere_error_usage` if the result carries no cautions.
#' @section False alarms: `bench/cautions.R` measures the false-alarm rate of each caution. Warnings and
#'   serious cautions together occurred in fewer than 1 of 20 samples of bivariate normal data, clean
#'   5-point scales and clean binary variables (n = 100).
#' @section Not detected: Some problems leave no trace in the two columns, so the absence of a caution does
#'   not exclude them: a subscore within its total if no other part is in the data, class means rounded to
#'   two decimals without the class sizes, two groups that no column records, and classes without a column
#'   or a variable measured once per class. Check how the variables were obtained.
#' @section shared_trend: Two time series whose correlation does not hold beyond their trends. `serious` if
#'   neither the changes nor the detrended series are correlated; `warning` if only one of them is, or if
#'   there are too few periods to decide. Requires a time variable, declared or detected. Method and
#'   error rates: [flag_spurious()]. Yule (1926), Granger and Newbold (1974).
#'   The effective number of times, if it is at most three quarters of their number, gives the interval and p
#'   that the sentence reports (see `serial_dependence`).
#' @section serial_dependence: Autocorrelation although the relation holds: the effective number of times
#'   (Bartlett 1935; Pyper and Peterman 1998) is at most three quarters of their number, or the
#'   Durbin-Watson statistic of the line is below 1 (Durbin and Watson 1950). The sentence reports the
#'   interval and p by the effective number: Student's t with that many less 2 degrees of freedom. `serious`
#'   if r is significant with all times but not with the effective number. Of independent series with
#'   autocorrelations of .3 to .95 and 30 to 300 times, the reported p called 3 to 10 % significant, the
#'   textbook's up to 65 % (`bench/serial.R`).
#' @section alike_neighbours: Adjacent rows are correlated in both variables (r with the next row above
#'   3 / sqrt(n), or the mean r with the next five rows above 3 / sqrt(5 n)), and the effective sample
#'   size (Bartlett 1935; Pyper and Peterman 1998) is below three quarters of n. Given only if no time
#'   variable and no column (sorted, or constant in blocks) explains the order of the rows. Also given if
#'   columns named as coordinates (lat and lon, easting and northing) show spatial autocorrelation
#'   (Clifford, Richardson and Hemon 1989; Dutilleul 1993). The sentence reports the interval and p by the
#'   effective sample size. Rows sorted by x or y count only if the residuals are alike too. `serious` if the
#'   result is significant with n but not with the effective sample size.
#' @section one_case: An influential case. Excluding one case changes Fisher's z by more than clean data
#'   ever do, (0.9 + 4 / sqrt(n)) standard errors, and changes the sign or the outcome of the test
#'   (`serious`) or the label of the size (`warning`). Two cases that mask each other are found together,
#'   above 1.4 + 6 / sqrt(n) standard errors. Leave-one-out: Quenouille (1956).
#' @section curved: Curvilinear relationship. A quadratic term has p < .002, or powers two to six have a
#'   joint p < .00002. `serious` if the curve explains a tenth of the variance or more and either r is not
#'   significant or the parabola both rises and falls within the data (the smaller part at least a third
#'   of the larger). For Pearson's r; for Spearman's only in the latter case.
#' @section interval_too_narrow: The textbook interval was asked for, and the jackknife interval is wider by a factor
#'   above 1 + 2.3 / sqrt(n) + 4.5 / n, which at most 1 of 50 normal samples exceeds
#'   (`bench/jackknife.R`). From 12 cases on.
#' @section clustered_cases: Clustered data. A group variable (declared, or a text column) has five classes
#'   or more, the class means of both variables differ with p < .01, and the design effect,
#'   1 + (size - 1) times the product of the two intraclass correlations, is 1.1 or more. `serious` if the
#'   result is significant although the jackknife interval over classes includes zero. Of classes within
#'   classes the larger count; of two kinds that cross, such as regions and years, both: the variances of z
#'   add up, less that of the cases (Cameron, Gelbach and Miller 2011), with degrees of freedom by
#'   Satterthwaite (1946). Periods whose means are autocorrelated count for fewer (Bartlett 1935). Of
#'   unrelated variables in panels of 6 to 20 units, the reported p called at most 18 % significant (in
#'   most kinds 2 to 8 %), the textbook's up to 67 % (`bench/panels.R`). Numbers are classes if they come
#'   in blocks, or each about as often, and another measure has one value in each. Classes without a column
#'   of their own are recognized by a measure that was added to each of their cases: at least five
#'   irregularly spaced values, each shared by several cases and far fewer than its decimals allow, within
#'   which the other variable is alike beyond the line (p < .01).
#' @section far_value: Extreme outliers: one or two values are farther from all others than one and a half
#'   times the range of those others.
#' @section unequal_spreads: Two groups with unequal variances: Welch's standard error differs from the
#'   pooled one by 15 % or more, and the variances differ with p < .005 (Brown & Forsythe 1974). `serious`
#'   if Welch's test and the usual test disagree.
#' @section unequal_groups: Three or more unordered groups (each with four cases or more) with unequal
#'   variances (p < .005, Brown & Forsythe 1974) for which the p of Welch's test (1951) is at least twice
#'   or at most half that of F. `serious` if the two tests disagree.
#' @section small_groups: An unordered group has fewer than five cases.
#' @section made_groups: Groups defined by the other variable: their values never overlap (as with grades
#'   derived from points), or each group of one variable belongs to a single group of the other. From
#'   three cases per group on. Always `serious`.
#' @section made_from: A `note`: the relation differs within groups, but only because the groups are bands
#'   of the values themselves (grades, age bands, pass and fail).
#' @section chance_size: Eta or V is above its own interval, as happens with many small groups.
#' @section uneven_spread: Heteroscedasticity: Koenker's test of the residuals has p < .004 along x, or
#'   p < .002 along the distance from the mean of x, and the spread differs by a third or more. Koenker
#'   (1981).
#' @section restricted_range: Restricted range: the values cover less than half of the `range` declared in
#'   the codebook. From 20 cases on. Thorndike (1949).
#' @section empty_corner: Possible truncation or selection on both variables. In two numeric variables (100
#'   cases and 15 values or more, no time variable) the cases end abruptly along a slanting straight line.
#'   The likelihood of a sharp edge has to exceed that of a gradual one by a factor of e^12, and cases have
#'   to lie along the whole edge. The correlation before selection is estimated by maximum likelihood for a
#'   normal sum cut off below (Pearson 1903, Cohen 1957), with p by a jackknife over twentieths of the
#'   cases. Not given if the values contradict that model, or if less than 2 % or more than 80 % would have
#'   been selected. `serious` if r is significant and the corrected r is not, or has the other sign;
#'   `warning` if they differ by more than .1 on the z scale; otherwise `note`. Also a `warning` if one
#'   variable is never above the other. On selection as a source of correlation: Berkson (1946).
#' @section third_variable: A potential confounder (`note`): r is significant, another measure (of the 30
#'   checked) is related to both variables (p < .001 divided by their number), and controlling for it
#'   halves r on the z scale and makes it non-significant. Items of the same battery are not considered,
#'   nor is anything if a shared trend is reported. Yule (1907).
#' @section repeated_rows: Duplicate rows: rows that equal an earlier row in every variable but the case
#'   name, where neither chance nor the similarity of answers (estimated from rows that differ in one
#'   answer, two answers, and so on) would be expected to produce one. Up to 50,000 cases.
#' @section mixed_groups: The relation differs between and within groups (declared, text columns, or
#'   binary variables). `serious`: the relation within groups is significant (p < .01) and has the other
#'   sign (Simpson's paradox). `warning`: the overall r differs from r within groups by more than .2 on the
#'   z scale and by three standard errors, or is significant where r within groups is not, and the groups' means
#'   differ on both variables (the share of variance that groups explain in both has p < .0001); or one group of
#'   8 cases or more has a significant relation of the other sign. Robinson (1950), Simpson (1951).
#' @section group_averages: Aggregated data (ecological correlation): each row is a group. Recognised from a
#'   label with "average" or "mean", or from the decimals: values times a count column are whole numbers up
#'   to the digits written, or all values are fractions with varying denominators (up to 60 with six
#'   decimals, up to 15 with four). Robinson (1950).
#' @section part_whole: Part-whole correlation: one variable is a sum or mean of others (up to 150
#'   variables) that include the second one. Established by orthogonalisation to 9 digits, or, with
#'   equal weights, to the last digit written. Also: a gain or difference with one of its components, a
#'   ratio or product with one of its parts, and a percentage change with its baseline. `warning` for two
#'   shares of one total. McNemar (1969), Aitchison (1986).
#' @section same_measure: The same variable twice: equal values or a linear copy, up to the digits written;
#'   or one is the logarithm, square root, square or reciprocal of the other, or a linear copy of that (20
#'   cases or more).
#' @section shared_denominator: Ratios with a common denominator: both variables are divided by one column
#'   of the study, recognised because multiplying by that column gives whole numbers. The numerators
#'   are then correlated controlling for the denominator: `serious` if that is not significant or changes
#'   sign, `warning` if r falls by more than .1 on the z scale, otherwise `note`. Also a `warning` if
#'   units, labels or names say "per" the same base (other than time). Pearson (1897).
#' @section floor_or_ceiling: Floor or ceiling effect: many cases share the lowest or highest value, that is
#'   15 % for a variable with 9 values or more, 30 % with 8, and with fewer values 2.5 times the average
#'   share and at least 35 %. A `note` if the value is 0 in a numeric variable without a declared
#'   range or value labels, where zero is a value rather than the end of a scale.
#' @section coarse_scale: Pearson's r of a variable with 5 values or fewer (`note`).
#' @section rare_category: The smaller category of a binary variable holds less than a tenth of the cases
#'   (`note`) or fewer than 5 (`warning`).
#' @section few_cases: Fewer than 25 pairs (`note`), fewer than 10 (`warning`).
#' @section many_missing: A fifth of the cases or more are excluded for missing values (`note`), two fifths
#'   or more (`warning`).
#' @section many_tests: Ten tests or more without adjustment. Holm (1979).
#' @section codes_not_numbers: Undeclared missing-value codes: values such as -9 or 999 far outside all
#'   others.
#' @section text_among_numbers: A numeric column with text in a few cells, excluded from a matrix that did not
#'   name it.
#' @section reversed_item: Of four or more items with the same answer options (or the same scale and a common
#'   name) some are negatively related to all others: every such r is negative, half of them significantly,
#'   and the others correlate positively among themselves.
#' @section replicates_of_full_rank: The replicate weights have full rank, are not jackknife replicates of an
#'   unstratified sample, and neither clusters nor degrees of freedom are given: there may be fewer degrees
#'   of freedom than assumed (`warning`). Wolter (2007).
#' @section one_plausible_value: A variable is named like one of three or more plausible values of a score
#'   (`PV1MATH`, `math_pv1`) that are not declared as one. One value alone gives an interval without the
#'   variance between them (Mislevy 1991).
#' @section outside_data: Extrapolation: a prediction beyond the observed range of x.
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
