import { describe, expect, test } from '@jest/globals';
import { spawnSync } from 'node:child_process';
import { intermittent, seasonal, smoothed, trending } from './methods';

/** The same series forecast by R's own functions, one period ahead each: in a test that runs where R is installed. */
const hasR = spawnSync('Rscript', ['--version']).status === 0;
const inR = (script: string): number[] => {
  const { stdout, stderr, status } = spawnSync('Rscript', ['-e', `options(digits = 17); ${script}`], { encoding: 'utf8' });
  if (status !== 0) throw new Error(stderr);
  return stdout.trim().split(/\s+/).map(Number);
};
const series = Array.from({ length: 48 }, (_, at) => 40 + (at % 12) * 3 + ((at * 29) % 17) + at / 2);
const listed = `c(${series.join(', ')})`;
const known = (before: readonly (number | null)[]): number[] => before.filter((value) => value !== null);

(hasR ? describe : describe.skip)('R says the same, to a millionth', () => {
  const same = (ours: readonly number[], theirs: readonly number[]) => {
    expect(ours).toHaveLength(theirs.length);
    ours.forEach((value, index) => expect(value).toBeCloseTo(theirs[index] as number, 6));
  };
  test('of simple smoothing', () => {
    const { before, ahead } = smoothed(series, 0.3);
    same([...known(before), ahead(1)], inR(`h <- HoltWinters(ts(${listed}), alpha = 0.3, beta = FALSE, gamma = FALSE); cat(h$fitted[, 1], predict(h, 1))`));
  });
  test('of smoothing with a trend', () => {
    const { before, ahead } = trending(series, { alpha: 0.3, beta: 0.2, phi: 1 });
    same(
      [...known(before), ahead(1), ahead(2)],
      inR(`h <- HoltWinters(ts(${listed}), alpha = 0.3, beta = 0.2, gamma = FALSE); cat(h$fitted[, 1], predict(h, 2))`),
    );
  });
  test('of smoothing with a season, begun alike', () => {
    const { before, ahead } = seasonal(series, { alpha: 0.3, beta: 0.2, gamma: 0.1, length: 12 });
    const begun = `x <- ts(${listed}, frequency = 12); d <- decompose(ts(x[1:24], frequency = 12)); t <- na.omit(d$trend); l <- coef(lm(t ~ seq_along(t)))`;
    const run = 'h <- HoltWinters(x, alpha = 0.3, beta = 0.2, gamma = 0.1, l.start = l[1] + 6 * l[2], b.start = l[2], s.start = d$figure)';
    same([...known(before), ahead(1), ahead(14)], inR(`${begun}; ${run}; p <- predict(h, 14); cat(h$fitted[, 1], p[1], p[14])`));
  });
  test('of demand that comes now and then', () => {
    const lumpy = series.map((value, at) => (at % 5 === 2 || at % 7 === 0 ? Math.round(value) : 0));
    const own =
      'x <- c(VALUES); y <- x[x > 0]; q <- diff(c(0, which(x > 0))); s <- function(v) { l <- v[1]; for (one in v[-1]) l <- l + 0.2 * (one - l); l }; cat(0.9 * s(y) / s(q))';
    same([intermittent(lumpy, 0.2).ahead(1)], inR(own.replace('VALUES', lumpy.join(', '))));
  });
});
