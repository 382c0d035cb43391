# Reference figures from R (r-project.org), whose distributions are another implementation than scipy's.
# Made anew with: Rscript tests/core/reference/grid.R > tests/core/reference/grid.csv     (R 4.2.2, packages stats only)
# One line a case: what is computed, its inputs, its results, all separated by commas.

say <- function(what, ...) cat(what, sapply(c(...), function(x) sprintf("%.15g", x)), sep = ",", fill = FALSE)
line <- function(what, ...) { say(what, ...); cat("\n") }

# rate_interval: mites, bees, confidence; low, high in per 100 (binom.test, exact)
for (bees in c(1, 20, 40, 150, 300, 312, 1200))
  for (mites in unique(pmin(bees, c(0, 1, 2, 3, 6, 11, 40, 300))))
    for (confidence in c(0.8, 0.95, 0.99)) {
      ci <- 100 * binom.test(mites, bees, conf.level = confidence)$conf.int
      line("rate_interval", mites, bees, confidence, ci[1], ci[2])
    }

# p_over: mites, bees, threshold per 100; the chance (upper tail of the gamma)
for (bees in c(20, 40, 100, 300, 600))
  for (mites in c(0, 1, 3, 6, 9, 26, 80))
    for (threshold in c(0.5, 1, 2, 3, 10, 100))
      line("p_over", mites, bees, threshold, pgamma(bees * threshold / 100, mites + 0.5, lower.tail = FALSE))

# board_fall: mites, hours; low, high a day (poisson.test, exact)
for (mites in c(0, 1, 2, 7, 12, 24, 37, 450, 9000))
  for (hours in c(12, 47, 72, 168)) {
    ci <- poisson.test(mites, T = hours / 24)$conf.int
    line("board_fall", mites, hours, ci[1], ci[2])
  }

# growth: mites 1, bees 1, mites 2, bees 2, days; rate, low, high a day, chance of having risen
for (first in list(c(0, 300), c(3, 300), c(8, 287), c(40, 310)))
  for (second in list(c(0, 305), c(2, 290), c(9, 290), c(60, 420)))
    for (days in c(7, 21, 35)) {
      a <- first[1] + 0.5; b <- second[1] + 0.5
      at <- function(p) { q <- qbeta(p, a, b); log(first[2] / second[2] * (1 - q) / q) / days }
      line("growth", first, second, days, log((b / second[2]) / (a / first[2])) / days, at(0.975), at(0.025),
           pbeta(first[2] / (first[2] + second[2]), a, b))
    }

# detect: colonies, over, sampled, sensitivity; chance to find one (hypergeometric)
for (colonies in c(5, 10, 24, 40, 200))
  for (over in unique(pmax(1, round(colonies * c(0.05, 0.1, 0.3)))))
    for (sampled in unique(pmax(1, round(colonies * c(0.1, 0.4, 0.9, 1)))))
      for (s in c(0.5, 0.85, 1)) {
        found <- 0:over
        line("detect", colonies, over, sampled, s, 1 - sum(dhyper(found, over, colonies - over, sampled) * (1 - s)^found))
      }

# reading: mites, mean bees, CV of the bees, beta a and b of the share found (0, 0: all); 2.5, 50, 80, 97.5 % of the rate
# per 100, chance of 2 and more. The mixture over 41 mid-quantiles of bees and of the share found.
u <- (1:41 - 0.5) / 41
for (mites in c(0, 1, 4, 6, 15, 90))
  for (bees in list(c(300, 0), c(300, 0.12), c(95, 0.18), c(304, 0.1)))
    for (share in list(c(0, 0), c(47.5, 2.5), c(17, 3), c(15, 5), c(9.6, 6.4))) {
      s <- sqrt(log(1 + bees[2]^2))
      n <- if (bees[2] == 0) bees[1] else qlnorm(u, log(bees[1]) - s^2 / 2, s)
      r <- if (share[1] == 0) 1 else qbeta(u, share[1], share[2])
      e <- as.vector(outer(n, r))
      cdf <- function(rate) mean(pgamma(rate / 100 * e, mites + 0.5))
      at <- function(p) exp(uniroot(function(z) cdf(exp(z)) - p, log(c(1e-7, 500)), tol = 1e-13)$root)
      line("reading", mites, bees, share, at(0.025), at(0.5), at(0.8), at(0.975), 1 - cdf(2))
    }

# flip: mites, bees, threshold per 100; chance that a second sample of as many bees turns the verdict
for (mites in 0:12)
  for (threshold in c(1, 2, 3)) {
    over <- function(m, n) pgamma(n * threshold / 100, m + 0.5, lower.tail = FALSE) >= 0.5
    second <- 0:400
    turned <- sapply(second, function(m2) over(mites + m2, 600)) != over(mites, 300)
    line("flip", mites, 300, threshold, sum(dnbinom(second, mites + 0.5, 0.5)[turned]))
  }

# share: over, counted; low, high (prop.test: Wilson, no continuity correction)
for (counted in c(1, 8, 51, 168, 900))
  for (over in unique(round(counted * c(0, 0.1, 0.23, 0.5, 1)))) {
    ci <- suppressWarnings(prop.test(over, counted, correct = FALSE)$conf.int)
    line("share", over, counted, ci[1], ci[2])
  }
