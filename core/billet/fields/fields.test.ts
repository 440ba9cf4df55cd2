import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ALL_ORIENTATIONS, type Orientation, inverse, planeMatrix } from '../../geometry/orientation.ts';
import { type Field, type Points, codeAt, makePoints } from './field.ts';
import { GridField } from './grid.ts';
import { JoinedField, LaidDownField, SunburstField } from './laid.ts';
import { LayersField, SolidField } from './layers.ts';

/** A field that answers from a function, for holding the fast ones to account. */
class PlainField implements Field {
  readonly variesAlongZ = true;
  private readonly ask: (x: number, y: number, z: number) => number;
  constructor(ask: (x: number, y: number, z: number) => number) {
    this.ask = ask;
  }
  sample(points: Points, out: Uint8Array): void {
    for (let i = 0; i < points.count; i++) out[i] = this.ask(points.x[i], points.y[i], points.z[i]);
  }
  through(m: Parameters<Field['through']>[0]): Field {
    return new PlainField((x, y, z) => this.ask(m.kx * x + m.tx, m.ky * y + m.ty, m.kz * z + m.tz));
  }
}

/** The same pieces laid in an even grid by the orientation's own matrix, one point at a time. */
function laidPlainly(source: Field, n: number, side: number, ways: readonly Orientation[]): Field {
  return new PlainField((x, y, z) => {
    const column = Math.min(n - 1, Math.max(0, Math.floor(x / side + n / 2)));
    const row = Math.min(n - 1, Math.max(0, Math.floor(y / side + n / 2)));
    const way = ways[row * n + column];
    const [a, b, c, d] = planeMatrix(inverse(way));
    const [px, py] = [x - (column - n / 2 + 0.5) * side, y - (row - n / 2 + 0.5) * side];
    return codeAt(source, a * px + b * py, c * px + d * py, z);
  });
}

const edges = (n: number, side: number) => Array.from({ length: n + 1 }, (_, i) => (i - n / 2) * side);
const gridOf = (source: Field, n: number, side: number, ways: readonly Orientation[]) =>
  GridField.of(
    edges(n, side),
    edges(n, side),
    ways.map((orientation) => ({ field: source, orientation, lengthMm: 100 })),
  );

/** Asks at `count` scattered points, many at once, so that the field takes its fast ways. */
function codesOf(field: Field, half: number, count = 4096): number[] {
  const codes: number[] = [];
  const points = makePoints();
  const out = new Uint8Array(1024);
  for (let done = 0; done < count; done += 1024) {
    points.count = 1024;
    for (let i = 0; i < 1024; i++) {
      points.x[i] = half * (2 * ((0.5 + (done + i) * 0.7548776662) % 1) - 1);
      points.y[i] = half * (2 * ((0.5 + (done + i) * 0.569840291) % 1) - 1);
      points.z[i] = 50;
    }
    field.sample(points, out);
    codes.push(...out);
  }
  return codes;
}

const differing = (a: number[], b: number[]): number => a.filter((code, i) => code !== b[i]).length;
const uneven = new LayersField(-10, [-7, -1, 4, 10], [1, 2, 3, 4]);
const even = new LayersField(-10, [-5, 0, 5, 10], [1, 2, 3, 4]);

describe('grids', () => {
  const ways = (n: number) =>
    fc.array(fc.constantFrom(...ALL_ORIENTATIONS), { minLength: n * n, maxLength: n * n });

  it('laid flat and folded give what the plain maps give, for any orientations, twice nested', () => {
    fc.assert(
      fc.property(ways(2), ways(3), fc.constantFrom(uneven, even), (inner, outer, source) => {
        const fast = gridOf(gridOf(source, 2, 20, inner), 3, 40, outer);
        const plain = laidPlainly(laidPlainly(source, 2, 20, inner), 3, 40, outer);
        expect(differing(codesOf(fast, 60), codesOf(plain, 60))).toBe(0);
      }),
      { numRuns: 30 },
    );
  });

  it('stretched and shifted are asked where the stretch leads', () => {
    fc.assert(
      fc.property(
        ways(2),
        fc.double({ min: 0.4, max: 3, noNaN: true }),
        fc.double({ min: -5, max: 5, noNaN: true }),
        (laid, k, t) => {
          const grid = gridOf(uneven, 2, 20, laid);
          const map = { kx: k, ky: 1 / k, kz: 1, tx: t, ty: -t, tz: 0 };
          const plain = laidPlainly(uneven, 2, 20, laid).through(map);
          expect(differing(codesOf(grid.through(map), 8), codesOf(plain, 8))).toBe(0);
        },
      ),
      { numRuns: 20 },
    );
  });

  it('of mirrored rounds at the price of one stay right to the eighth of an element', () => {
    const mirrored = [6, 4, 0, 2].map((i) => ALL_ORIENTATIONS[i]);
    let fast: Field = even;
    let plain: Field = even;
    for (const side of [20, 40, 80]) {
      fast = gridOf(fast, 2, side, [mirrored[0], mirrored[3], mirrored[2], mirrored[1]]);
      plain = laidPlainly(plain, 2, side, [mirrored[0], mirrored[3], mirrored[2], mirrored[1]]);
    }
    expect(differing(codesOf(fast, 80), codesOf(plain, 80))).toBe(0);
  });
});

describe('layers', () => {
  it('of one thickness and of many answer alike at every height', () => {
    const many = new LayersField(-10, [-5, 0, 5, 10 + 1e-6], [1, 2, 3, 4]);
    for (let y = -12; y < 12; y += 0.37) expect(codeAt(even, 0, y)).toBe(codeAt(many, 0, y));
    expect(codeAt(uneven.through({ kx: 1, ky: 2, kz: 1, tx: 0, ty: 1, tz: 0 }), 0, 1)).toBe(
      codeAt(uneven, 0, 3),
    );
  });
});

describe('bars laid otherwise', () => {
  const marked = new PlainField((x, y, z) => (x > 0 ? 1 : 0) + (y > 0 ? 2 : 0) + (z > 50 ? 4 : 0));

  it('laid down from standing show end B up and the old top at the start', () => {
    const laid = new LaidDownField(marked, 100, 20);
    expect(codeAt(laid, 3, 49, 1)).toBe(1 + 2 + 4);
    expect(codeAt(laid, 3, -49, 1)).toBe(1 + 2);
    expect(codeAt(laid, -3, 49, 19)).toBe(4);
  });

  it('joined follow one another, and past the last the last goes on', () => {
    const row = new JoinedField([
      { field: new SolidField(1), lengthMm: 10 },
      { field: new SolidField(2), lengthMm: 5 },
      { field: new SolidField(3), lengthMm: 5 },
    ]);
    expect([1, 9.9, 10.1, 14.9, 15.1, 30].map((z) => codeAt(row, 0, 0, z))).toEqual([1, 1, 2, 2, 3, 3]);
    expect(codeAt(row.through({ kx: 1, ky: 1, kz: 2, tx: 0, ty: 0, tz: 0 }), 0, 0, 5.5)).toBe(2);
  });

  it('in a sunburst each wedge stands point to the middle; rolled ones are mirrored', () => {
    const part = (mirrored: boolean) => ({ field: marked, lengthMm: 100, mirrored });
    const burst = new SunburstField([part(false), part(false), part(true), part(false)], 20);
    // Top wedge: outward is up, its right is right.
    expect(codeAt(burst, 2, 18, 10)).toBe(1 + 2);
    expect(codeAt(burst, -2, 18, 10)).toBe(2);
    // Right wedge: outward is right, its right is down.
    expect(codeAt(burst, 18, -2, 10)).toBe(1 + 2);
    // Left wedge, rolled: mirrored, and end A in front.
    expect(codeAt(burst, -18, -2, 10)).toBe(1 + 2 + 4);
    // Near the middle each shows its low half.
    expect(codeAt(burst, 0.5, 4, 10)).toBe(1);
  });
});
