import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import DxfParser, { type ILwpolylineEntity } from 'dxf-parser';
import load, { type ManifoldToplevel } from 'manifold-3d/manifold';
import svgpath from 'svgpath';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Point2, rectangle } from '../geometry/outline.ts';
import { type Region, regionArea } from '../geometry/regions.ts';
import { FIRST_FORM, type Filling } from '../picture/picture.ts';
import { TEST_SQUARE_MM, dxfOf, svgOf } from './outlineFiles.ts';
import { bridgesOf, formSolid, wallsOf } from './solid.ts';
import { stlOf } from './stl.ts';
import { threeMfOf } from './threeMf.ts';

const square = (half: number, x = 0, y = 0): [number, number][] => [
  [x - half, y - half],
  [x + half, y - half],
  [x + half, y + half],
  [x - half, y + half],
];
const ring = (r: number, x = 0, y = 0): [number, number][] =>
  Array.from({ length: 72 }, (_, i) => [
    x + r * Math.cos((i * Math.PI) / 36),
    y + r * Math.sin((i * Math.PI) / 36),
  ]);
const room: Region = [rectangle(54, 54)];
/** A square with a round hole, and an island beside it. */
const fillings: Filling[] = [
  { powder: '15n20', region: [square(9, -8), [...ring(4, -8)].reverse()] },
  { powder: '15n20', region: [ring(5, 14, 10)] },
];

let library: ManifoldToplevel;
const dir = mkdtempSync(join(tmpdir(), 'retablo-form-'));
beforeAll(async () => {
  library = await load();
  library.setup();
});
afterAll(() => rmSync(dir, { recursive: true }));

/** What admesh (Debian), which knows nothing of ours, finds in an STL file. */
const admesh = (file: string): string => execFileSync('admesh', [file], { encoding: 'utf8' });
const volumeIn = (report: string): number => Number(/Volume\s*:\s*(-?[\d.]+)/.exec(report)![1]);

/** Closed, and turned outward everywhere, as it was read. */
function isSound(report: string): void {
  expect(report).toMatch(/Total disconnected facets\s*:\s*0\s+0/);
  expect(report).toMatch(/Backwards edges\s*:\s*0/);
  expect(report).toMatch(/Facets reversed\s*:\s*0/);
}

describe('a printed form', () => {
  it.each([
    ['pulled out by its handle', FIRST_FORM],
    ['with a base', { ...FIRST_FORM, baseMm: 2, handle: false }],
    ['bare walls', { ...FIRST_FORM, lipMm: 0, bridgeMm: 0, handle: false }],
  ])('%s is closed, turned outward and as large as reckoned, read by admesh from STL', (_name, sizes) => {
    const form = formSolid(library, fillings, room, 60, sizes)!;
    const file = join(dir, 'form.stl');
    writeFileSync(file, stlOf(form.mesh, 'test'));
    const report = admesh(file);
    expect(Math.abs(volumeIn(report) / form.volumeMm3 - 1)).toBeLessThan(1e-3);
    isSound(report);
    expect(report).toMatch(/Normals fixed\s*:\s*0/);
  });

  it('is the same read from 3MF by another program (assimp, Debian)', () => {
    const form = formSolid(library, fillings, room, 60, FIRST_FORM)!;
    const file = join(dir, 'form.3mf');
    writeFileSync(file, threeMfOf(form.mesh));
    const again = join(dir, 'again.stl');
    execFileSync('assimp', ['export', file, again]);
    const report = admesh(again);
    expect(Math.abs(volumeIn(report) / form.volumeMm3 - 1)).toBeLessThan(1e-3);
    isSound(report);
  });

  it('has walls of the length of the outlines times their thickness', () => {
    const outline = 4 * 18 + 72 * 2 * 4 * Math.sin(Math.PI / 72) + 72 * 2 * 5 * Math.sin(Math.PI / 72);
    const walls = wallsOf(fillings, room, 0.6);
    expect(Math.abs(regionArea(walls) / (outline * 0.6) - 1)).toBeLessThan(0.005);
    const bare = formSolid(library, fillings, room, 60, {
      ...FIRST_FORM,
      lipMm: 0,
      bridgeMm: 0,
      handle: false,
    })!;
    expect(Math.abs(bare.volumeMm3 / (regionArea(walls) * 60) - 1)).toBeLessThan(1e-4);
    expect(bare.pieces).toBe(3);
  });

  it('holds islands by bridges, so that it is one piece', () => {
    expect(regionArea(bridgesOf(wallsOf(fillings, room, 0.6), 3))).toBeGreaterThan(0);
    expect(formSolid(library, fillings, room, 60, { ...FIRST_FORM, lipMm: 0, handle: false })!.pieces).toBe(
      1,
    );
  });

  it('is nothing where there is no outline in the can', () => {
    expect(formSolid(library, [], room, 60, FIRST_FORM)).toBeNull();
    expect(formSolid(library, [{ powder: 'x', region: [square(3, 80)] }], room, 60, FIRST_FORM)).toBeNull();
  });
});

const around = (points: readonly Point2[]): number =>
  points.reduce((sum, [x, y], i) => {
    const [x1, y1] = points[(i + 1) % points.length];
    return sum + Math.hypot(x1 - x, y1 - y);
  }, 0);

describe('outlines in true size', () => {
  const named = [{ name: 'bright & dark', region: fillings[0].region as Region }];
  const wanted = [...fillings[0].region, square(TEST_SQUARE_MM / 2)].map((r) => around(r));

  it('have their lengths in DXF to 0.01 mm, in millimetres, read by another library', () => {
    const read = new DxfParser().parseSync(dxfOf(named))!;
    expect(read.header.$INSUNITS).toBe(4);
    const lines = read.entities.filter((e): e is ILwpolylineEntity => e.type === 'LWPOLYLINE');
    const lengths = lines.map((l) => around(l.vertices.map(({ x, y }): Point2 => [x, y])));
    expect(lengths).toHaveLength(wanted.length);
    lengths.forEach((l, i) => expect(Math.abs(l - wanted[i])).toBeLessThan(0.01));
    expect(lines.every((l) => l.shape)).toBe(true);
    expect(new Set(lines.map((l) => l.layer))).toEqual(new Set(['bright & dark', 'test square 20 mm']));
  });

  it('have their lengths in SVG to 0.01 mm, a millimetre to a unit, read by another library', () => {
    const svg = svgOf(named, 'A <form>');
    const [, width, viewBox] = /width="([\d.]+)mm" height="[\d.]+mm" viewBox="0 0 ([\d.]+)/.exec(svg)!;
    expect(width).toBe(viewBox);
    const lengths: number[] = [];
    for (const [, data] of svg.matchAll(/ d="([^"]+)"/g)) {
      let points: Point2[] = [];
      svgpath(data).iterate((segment, _i, x, y) => {
        if (segment[0] === 'Z') {
          points.push([x, y]);
          lengths.push(around(points.slice(1)));
          points = [];
        } else points.push([x, y]);
      });
    }
    expect(lengths).toHaveLength(wanted.length);
    lengths.forEach((l, i) => expect(Math.abs(l - wanted[i])).toBeLessThan(0.01));
    expect(svg).toContain('A &lt;form&gt;');
    expect(svg).toContain('bright &amp; dark');
  });
});
