# A name cut short would be taken for a longer one.
options(warnPartialMatchDollar = TRUE, warnPartialMatchAttr = TRUE, warnPartialMatchArgs = TRUE)

# While lines are counted no second process is asked: it would have to load the counting package each time.
if (nzchar(Sys.getenv("UNSERE_COMMAND"))) options(unsere.background = FALSE)
