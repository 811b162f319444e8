# A name cut short would be taken for a longer one.
options(warnPartialMatchDollar = TRUE, warnPartialMatchAttr = TRUE, warnPartialMatchArgs = TRUE)
