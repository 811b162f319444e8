learners <- demo_study("learners")

test_that("figures are written as png, svg and pdf, and nowhere else", {
  withr::with_tempdir({
    for (ending in c("png", "svg", "pdf")) {
      unsere:::save_figure(draw_box(learners, practice_hours), paste0("f.", ending))
      expect_gt(file.size(paste0("f.", ending)), 1500)
    }
    expect_error(unsere:::save_figure(draw_box(learners, practice_hours), "none/f.png"), class = "unsere_error_input")
    expect_error(unsere:::save_figure(draw_box(learners, practice_hours), "f.doc"), class = "unsere_error_usage")
  })
})
