# The levels of measurement, in the order of what they allow.

level_names <- c("numeric", "ordinal", "binary", "nominal")
