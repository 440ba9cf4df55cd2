import { copyFileSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { dirname, join, resolve } from 'node:path';
import { type ICruiseResult, cruise } from 'dependency-cruiser';
import extractDepcruiseOptions from 'dependency-cruiser/config-utl/extract-depcruise-options';
import { afterAll, describe, expect, it } from 'vitest';

interface Rule {
  readonly name: string;
  readonly from: { readonly path?: string };
}

const root = resolve(import.meta.dirname, '..');
const config = join(root, '.dependency-cruiser.cjs');
const { forbidden } = createRequire(import.meta.url)(config) as { forbidden: readonly Rule[] };

const places = mkdtempSync(join(tmpdir(), 'retablo-imports-'));
afterAll(() => rmSync(places, { recursive: true, force: true }));

/** The names of the rules that a tree of planted files breaks. */
async function broken(files: Readonly<Record<string, string>>): Promise<string[]> {
  // A place of its own each time: what was found in a folder is remembered.
  const place = mkdtempSync(join(places, 'planted-'));
  for (const [path, text] of Object.entries(files)) {
    mkdirSync(join(place, dirname(path)), { recursive: true });
    writeFileSync(join(place, path), text);
  }
  copyFileSync(join(root, 'tsconfig.base.json'), join(place, 'tsconfig.base.json'));
  const tops = [...new Set(Object.keys(files).map((f) => f.split('/')[0]))];
  const { output } = await cruise(tops, { ...(await extractDepcruiseOptions(config)), baseDir: place });
  const { summary } = output as ICruiseResult;
  return [...new Set(summary.violations.map((v) => v.rule.name))];
}

/** Rules of the form “a/b imports what is named below it”, house by house, in their order. */
const floorsOf = (house: string): string[] =>
  forbidden.flatMap(({ name }) => {
    const match = name.match(/^(\S+)\/([^/\s]+) imports what is named below it$/);
    return match?.[1] === house ? [match[2]] : [];
  });

const HOUSES = ['core', 'core/moves', 'web/src', 'web/src/benches', 'web/src/screens'];

/** On every floor of every house a file that imports from the floor above, and one that does not. */
const planted = Object.fromEntries(
  HOUSES.flatMap((house) => {
    const names = floorsOf(house);
    return names.flatMap((name, i) => {
      const above = names[i + 1];
      const text = above
        ? `import { there } from '../${above}/there.ts';\nexport const here = there;\n`
        : 'export const here = 1;\n';
      return [
        [`${house}/${name}/planted.ts`, text],
        [`${house}/${name}/there.ts`, 'export const there = 1;\n'],
      ];
    });
  }),
);

describe('the direction of imports', () => {
  it('a folder that imports what stands above it is found, every one of them', async () => {
    const faults = await broken(planted);
    for (const house of HOUSES) {
      const names = floorsOf(house);
      expect(names.length, house).toBeGreaterThan(4);
      for (const name of names.slice(0, -1))
        expect(faults).toContain(`${house}/${name} imports what is named below it`);
    }
  });

  it('without the planted files there is nothing to find', async () => {
    expect(
      await broken(Object.fromEntries(Object.entries(planted).filter(([f]) => f.endsWith('there.ts')))),
    ).toEqual([]);
  });

  it('an import of a type alone goes the same way', async () => {
    expect(
      await broken({
        'core/units/planted.ts':
          "import type { There } from '../plan/there.ts';\nexport type Here = There;\n",
        'core/plan/there.ts': 'export type There = string;\n',
      }),
    ).toEqual(['core/units imports what is named below it']);
  });

  it('a folder that nobody named is found; so are one group of moves that knows another, and a cycle', async () => {
    expect(
      await broken({ 'core/attic/planted.ts': "import '../units/there.ts';\n", 'core/units/there.ts': '' }),
    ).toEqual(['every folder of core is named']);
    expect(
      await broken({
        'core/moves/saw/planted.ts': "import '../forge/there.ts';\n",
        'core/moves/forge/there.ts': 'export const there = 1;\n',
      }),
    ).toContain('core/moves/saw stands apart');
    expect(
      await broken({
        'core/units/a.ts': "import { b } from './b.ts';\nexport const a = (): number => b();\n",
        'core/units/b.ts': "import { a } from './a.ts';\nexport const b = (): number => a();\n",
      }),
    ).toEqual(['no-value-cycle']);
  });
});
