# Reference fits by mgcv (S.N. Wood), written to mgcv.csv: Rscript mgcv.R > mgcv.csv
# Four invented hull sides y(x, z) in mm, read at random places with a standard deviation of 1.5 mm across; a tensor
# product of cubic P-splines with third-order penalties, smoothing by REML, as Bevelsmith's own.
library(mgcv)

forms <- list(
  function(x, z) 1300 * (1 - (x / 5200)^2) * (1 - 0.35 * ((z - 500) / 1400)^2),
  function(x, z) 1200 - 0.16 * z - 90 * (x / 1500)^2 - 260 * (z / -1000)^3 * (z < 0),
  function(x, z) 1100 + 0.22 * z + 150 * sin(x / 1900) - 60 * (z / 700)^2 * (1 + x / 3000),
  function(x, z) 1250 - 140 * ((x - 800) / 2000)^2 - 120 * ((z + 200) / 800)^2 + 25 * sin(x / 700) * cos(z / 500))
set.seed(20)
cat("# R", R.version$major, R.version$minor, "mgcv", as.character(packageVersion("mgcv")), "\n")
cat("job,role,x,y,z,mgcv\n")
job <- 0
for (n in c(60, 120, 240)) for (form in forms) {
  job <- job + 1
  d <- data.frame(x = runif(n, 0, 3000), z = runif(n, -900, 500))
  d$y <- form(d$x, d$z) + rnorm(n, 0, 1.5)
  # Metres in both directions, so that neither is favoured.
  fit <- gam(y ~ te(s, v, bs = "ps", m = list(c(2, 3), c(2, 3)), k = rep(if (n < 100) 7 else 10, 2)), method = "REML",
             data = transform(d, s = x / 1000, v = z / 1000))
  cat(sprintf("%d,read,%.4f,%.4f,%.4f,\n", job, d$x, d$y, d$z), sep = "")
  e <- expand.grid(x = seq(150, 2850, length.out = 10), z = seq(-830, 430, length.out = 7))
  p <- predict(fit, transform(e, s = x / 1000, v = z / 1000))
  cat(sprintf("%d,true,%.4f,%.4f,%.4f,%.4f\n", job, e$x, form(e$x, e$z), e$z, p), sep = "")
}
