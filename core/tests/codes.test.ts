import { readFileSync, readdirSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { expect, it } from 'vitest';

const root = resolve(import.meta.dirname, '../..');

const filesOf = (folder: string): string[] =>
  readdirSync(join(root, folder), { recursive: true, encoding: 'utf8' })
    .filter((f) => /\.tsx?$/.test(f))
    .map((f) => join(folder, f));

const isTest = (file: string): boolean => /\.test\.tsx?$|(^|\/)tests\/|\.spec\.ts$/.test(file);

/** Codes that core's sources give to findings. */
function codesOf(text: string): string[] {
  const calls = text.matchAll(/\b(?:error|warning|note|caution|say)\(\s*'([^']+)',/g);
  const literals = text.matchAll(/\bcode: '([^']+)',?\s*\n\s*severity/g);
  return [...calls, ...literals].map((m) => m[1]);
}

/** Said in cautions that no move gives yet. */
const NOT_YET = ['etchant', 'quench'];

it('every finding’s code appears in a test', () => {
  const all = [...filesOf('core'), ...filesOf('e2e'), ...filesOf('server')];
  const tests = all
    .filter((f) => isTest(f) && !f.endsWith('codes.test.ts'))
    .map((f) => readFileSync(join(root, f), 'utf8'))
    .join('\n');
  const sources = all.filter((f) => f.startsWith('core') && !isTest(f));
  const codes = new Set(sources.flatMap((f) => codesOf(readFileSync(join(root, f), 'utf8'))));
  expect(codes.size).toBeGreaterThan(90);
  const untold = [...codes].filter((code) => !tests.includes(`'${code}'`) && !NOT_YET.includes(code));
  expect(untold).toEqual([]);
});
