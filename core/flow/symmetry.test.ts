import { describe, expect, it } from 'vitest';
import { type Outline, rectangle, regularPolygon } from '../geometry/outline.ts';
import { PLAIN, sectionOf, turned } from '../tests/pressing.ts';
import { type DiePair, FLAT } from './dies.ts';
import { butterflyMesh } from './mesh.ts';
import type { PressOptions } from './pressing.ts';
import { PressSolver } from './press.ts';
import { type Mirror, symmetryOf } from './symmetry.ts';

const ALL: Mirror[] = ['leftRight', 'upDown', 'halfTurn'];
const always = () => true;

describe('the symmetry of a section', () => {
  it('of a square, straight or on its corner, is both mirrors and half a turn: a quarter of its elements lead', () => {
    for (const deg of [0, 45]) {
      const { mesh } = turned(sectionOf(rectangle(40, 40), 8, 3), deg);
      const { mirrors, elements, times, still } = symmetryOf(mesh, ALL, always);
      expect(mirrors).toEqual(ALL);
      expect(times.reduce((a, b) => a + b, 0)).toBe(mesh.quads.length / 4);
      expect(elements.length).toBeLessThan(0.3 * (mesh.quads.length / 4));
      expect(still.filter((s) => s === 3)).toHaveLength(1);
    }
  });

  it('tipped it is half a turn; of a wedge there is none; unlike steel takes away what it is not', () => {
    const tipped = turned(sectionOf(rectangle(40, 40), 8, 3), 42).mesh;
    expect(symmetryOf(tipped, ALL, always).mirrors).toEqual(['halfTurn']);
    const wedge: Outline = [
      [-20, -10],
      [20, -10],
      [5, 14],
    ];
    expect(symmetryOf(butterflyMesh(wedge, 8, 3), ALL, always).mirrors).toEqual([]);
    const { mesh } = sectionOf(rectangle(40, 30), 8, 3);
    const upper = (e: number) => [0, 1, 2, 3].every((k) => mesh.y[mesh.quads[4 * e + k]] > -1e-9);
    expect(symmetryOf(mesh, ALL, (a, b) => upper(a) === upper(b)).mirrors).toEqual(['leftRight']);
  });
});

const WEDGE: DiePair = { upper: { kind: 'wedge', angleDeg: 60, tipMm: 6 }, lower: FLAT, stopsMm: null };

describe('solved for one part of it', () => {
  it.each<[string, Outline, number, number, Partial<PressOptions>, number]>([
    ['a square on its corner, held', rectangle(40, 40), 45, 44, {}, 3],
    ['a tipped square, held', rectangle(40, 40), 40, 44, {}, 1],
    [
      'a tipped square, free, free along',
      rectangle(40, 40),
      38,
      48,
      { held: false, axial: { by: 'free', spread: 0 } },
      1,
    ],
    [
      'a round in V dies',
      regularPolygon(64, 1256),
      0,
      50,
      { dies: { ...WEDGE, upper: { kind: 'V', angleDeg: 90 }, lower: { kind: 'V', angleDeg: 90 } } },
      1,
    ],
    ['a flat under a wedge', rectangle(40, 24), 0, 20, { dies: WEDGE }, 1],
    [
      'layers of unlike strength',
      rectangle(40, 40),
      45,
      46,
      { strength: (_x, y) => (Math.floor((y + 20) / 8) % 2 ? 1.5 : 1) },
      1,
    ],
    ['sticking', rectangle(40, 32), 0, 27, { friction: 'sticking' }, 3],
  ])('%s goes as it goes solved for all of it', (_name, outline, deg, toMm, some, mirrors) => {
    const start = turned(sectionOf(outline, 10, 3), deg);
    const solved = (other: Partial<PressOptions>) => {
      const solver = new PressSolver(start, { ...PLAIN, ...some, ...other });
      const out = solver.press(toMm);
      if (!out.ok) throw new Error(out.why);
      return { ...out, solver };
    };
    const part = solved({});
    // With faces of its own nothing is taken for symmetric.
    const whole = solved({ faces: [] });
    expect(part.solver.symmetry.mirrors).toHaveLength(mirrors);
    expect(whole.solver.symmetry.mirrors).toHaveLength(0);
    for (const axis of ['x', 'y'] as const)
      part.section.mesh[axis].forEach((v, i) =>
        expect(Math.abs(v - whole.section.mesh[axis][i])).toBeLessThan(2e-4),
      );
    expect(part.report.forcePerMm / whole.report.forcePerMm).toBeCloseTo(1, 4);
    expect(part.section.lengthening).toBeCloseTo(whole.section.lengthening, 6);
    part.section.strain!.forEach((v, e) => expect(Math.abs(v - whole.section.strain![e])).toBeLessThan(1e-3));
  });
});
