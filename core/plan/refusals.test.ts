import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import { readPlan, readPlanText } from './plan.ts';

const DEMOS = new URL('../../server/demo', import.meta.url).pathname;
const demo = (name: string): unknown => JSON.parse(readFileSync(join(DEMOS, name), 'utf8'));

/** What may stand in a field’s place when a file was damaged or written by hand. */
const WRONG = [undefined, null, 'x', '', -1e9, 1e12, 0.5, true, [], {}];

type Path = readonly (string | number)[];

function* places(node: unknown, path: Path = []): Generator<Path> {
  if (path.length > 0) yield path;
  if (typeof node !== 'object' || node === null) return;
  // Of a long list the first two stand for the rest.
  const keys = Array.isArray(node) ? [...node.keys()].slice(0, 2) : Object.keys(node);
  for (const key of keys) yield* places((node as Record<string | number, unknown>)[key], [...path, key]);
}

/** The content with one value changed, or taken out. */
function changed(content: unknown, path: Path, value: unknown): unknown {
  const copy = structuredClone(content);
  const holder = path
    .slice(0, -1)
    .reduce((at, key) => (at as Record<string | number, unknown>)[key], copy) as Record<string, unknown>;
  const key = path.at(-1)!;
  if (value === undefined && !Array.isArray(holder)) Reflect.deleteProperty(holder, key);
  else holder[key] = value;
  return copy;
}

it.each(readdirSync(DEMOS).filter((f) => f.endsWith('.json')))(
  'whatever stands wrong in %s is refused with its field, in our own words',
  (name) => {
    const content = demo(name);
    const seen = new Set<string>();
    for (const path of places(content))
      for (const value of WRONG) {
        const read = readPlan(changed(content, path, value));
        if (read.ok) continue;
        expect(read.problems.length).toBeGreaterThan(0);
        for (const { path: field, message } of read.problems) {
          expect(field, `${path.join('.')} = ${JSON.stringify(value)}: ${message}`).not.toBe('');
          seen.add(message);
        }
      }
    expect(seen.size).toBeGreaterThan(20);
    const foreign = [...seen].filter((m) =>
      /\b(Invalid|received|Too (big|small)|Unrecognized|discriminator)\b/.test(m),
    );
    expect(foreign).toEqual([]);
  },
);

it.each([
  ['', '', 'This is not JSON: it ends too early'],
  ['{"format": retablo}', '', /^This is not JSON/],
  ['[]', '', /^This is no plan file/],
  ['null', '', /^This is no plan file/],
  ['{}', 'format', 'format is missing: it must be “retablo-plan”: is this a plan file?'],
  ['{"format":"other"}', 'format', 'format must be “retablo-plan”: is this a plan file?'],
  ['{"format":"retablo-plan"}', 'version', 'version must be a whole number from 1 to 5; it is missing'],
  ['{"format":"retablo-plan","version":0}', 'version', 'version must be a whole number from 1 to 5; it is 0'],
  ['{"format":"retablo-plan","version":99}', 'version', /^version 99 is newer than this Retablo reads \(5\)/],
])('the file %s says what it is', (text, path, message) => {
  const said = message instanceof RegExp ? expect.stringMatching(message) : message;
  expect(readPlanText(text)).toEqual({ ok: false, problems: [{ path, message: said }] });
});
