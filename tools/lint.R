found <- lintr::lint_package(".")
print(found)
cat(sprintf("lint: %d places\n", length(found)))
quit("no", if (length(found)) 1L else 0L)
