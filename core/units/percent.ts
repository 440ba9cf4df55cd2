/** Whole percents that add up to 100: what rounding leaves goes to those it took most from (the method of largest remainders). */
export function wholePercents(shares: readonly number[]): number[] {
  const whole = shares.reduce((sum, s) => sum + s, 0);
  if (!(whole > 0)) return shares.map(() => 0);
  const exact = shares.map((s) => (100 * s) / whole);
  const floors = exact.map(Math.floor);
  const left = 100 - floors.reduce((sum, n) => sum + n, 0);
  const order = exact
    .map((value, i) => ({ i, rest: value - floors[i] }))
    .sort((a, b) => b.rest - a.rest)
    .slice(0, left)
    .map(({ i }) => i);
  return floors.map((n, i) => (order.includes(i) ? n + 1 : n));
}
