import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PNG } from 'pngjs';
import { afterAll, expect, it } from 'vitest';

const dir = mkdtempSync(join(tmpdir(), 'retablo-cli-'));
afterAll(() => rmSync(dir, { recursive: true, force: true }));

const PLAN = 'server/demo/salt-marsh.json';

function retablo(...args: string[]) {
  const { status, stdout, stderr } = spawnSync(
    process.execPath,
    ['--import', 'tsx', 'cli/retablo.ts', ...args],
    { encoding: 'utf8' },
  );
  return { status, stdout, stderr };
}

it('prints the evaluated plan as JSON', () => {
  const { status, stdout } = retablo('figures', PLAN);
  expect(status).toBe(0);
  const figures = JSON.parse(stdout);
  expect(figures).toMatchObject({ name: 'Salt Marsh', reached: true, start: { ok: true } });
  const [first] = figures.lanes[0].steps;
  // 13 layers, 7 of 4.5 mm and 6 of 2 mm, 45 × 90 mm, 7850 kg/m³.
  expect(first.massKg['1084']).toBeCloseTo(7 * 4.5 * 45 * 90 * 7850e-9, 9);
  expect(first.size).toEqual({ widthMm: 45, heightMm: 43.5, lengthMm: 90 });
});

it('prints every bar of a plan of several, in their order, and what each needs to start', () => {
  const { status, stdout } = retablo('figures', 'server/demo/quarry-quilt.json');
  expect(status).toBe(0);
  const { lanes, start } = JSON.parse(stdout);
  expect(lanes.map((l: { name: string }) => l.name)).toEqual(['Star bar', 'Plain bar', 'Quilt']);
  expect(start.starts).toHaveLength(2);
  const [assembly] = lanes[2].steps;
  expect(assembly.kind).toBe('assemble');
  expect(assembly.say.join(' ')).toContain('Piece Q1 in row 1, place 2');
  // Nine pieces of one size with strips of 2 mm between and round them.
  const side = lanes[0].steps.at(-1).size.widthMm;
  expect(assembly.size.widthMm).toBeCloseTo(3 * side + 4 * 2, 6);
});

it('draws a face as PNG at the size asked for', () => {
  const out = join(dir, 'face.png');
  expect(retablo('face', PLAN, '--step', 's7', '--size', '200', '--out', out).status).toBe(0);
  const png = PNG.sync.read(readFileSync(out));
  expect([png.width, png.height]).toEqual([200, 200]);
  // A mirrored four-way: the picture is the same left and right.
  const grey = (x: number, y: number) => png.data[4 * (y * 200 + x)];
  let differ = 0;
  for (let y = 0; y < 200; y++)
    for (let x = 0; x < 100; x++) if (Math.abs(grey(x, y) - grey(199 - x, y)) > 60) differ++;
  expect(differ / 20000).toBeLessThan(0.01);
});

it('says what is wrong and exits with 2', () => {
  const broken = join(dir, 'broken.json');
  writeFileSync(
    broken,
    JSON.stringify({ ...JSON.parse(readFileSync(PLAN, 'utf8')), goal: { lengthMm: 'long' } }),
  );
  for (const [args, words] of [
    [['figures', broken], 'goal.lengthMm'],
    [['figures', join(dir, 'none.json')], 'Cannot read'],
    [['figures'], 'Usage'],
    [['melt'], 'Usage'],
    [['face', PLAN], '--out'],
    [['face', PLAN, '--out', 'x.png', '--face', 'inside'], '--face must be one of'],
    [['face', PLAN, '--out', 'x.png', '--size', '1e9'], '--size must be'],
    [['face', PLAN, '--out', 'x.png', '--step', 's99'], 'nothing to draw'],
    [['face', PLAN, '--nonsense'], 'nonsense'],
  ] as [string[], string][]) {
    const { status, stderr } = retablo(...args);
    expect(status, args.join(' ')).toBe(2);
    expect(stderr).toContain(words);
  }
});
