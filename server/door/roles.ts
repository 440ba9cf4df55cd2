/** What a device at the bench may ask for, under /api: plans and what was learned are read, records and photographs written, readings sent. */
const BENCH: readonly (readonly [method: string, path: RegExp])[] = [
  ['GET', /^\/(health|door|projects|shop|seams)(\/|$)/],
  ['GET', /^\/log\/evidence$/],
  ['POST', /^\/flows\/find$/],
  ['PUT', /^\/projects\/[^/]+\/(records|photographs)\/[^/]+$/],
  ['POST', /^\/instruments\/readings$/],
  ['DELETE', /^\/door$/],
];

/** Whatever is not named is not for the bench. `path` is under /api, as it was sent. */
export const benchMay = (method: string, path: string): boolean =>
  BENCH.some(([allowed, pattern]) => (method === 'HEAD' ? 'GET' : method) === allowed && pattern.test(path));
