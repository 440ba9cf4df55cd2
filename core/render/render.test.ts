import { describe, expect, it } from 'vitest';
import { type Billet } from '../billet/billet.ts';
import { facePlane, holds, shortFace, FACES } from '../billet/face.ts';
import { codeAt } from '../billet/fields/field.ts';
import { GridField } from '../billet/fields/grid.ts';
import { LayersField, SolidField } from '../billet/fields/layers.ts';
import { orientationNamed } from '../geometry/orientation.ts';
import { rectangle } from '../geometry/outline.ts';
import { evaluate } from '../plan/index.ts';
import { makeShop, materialCode } from '../shop/shop.ts';
import { cutInto, drawSquare, fourWay, planOf, resquareTo, stackOf, weldIt } from '../tests/plans.ts';
import { sampleCodes } from './codes.ts';
import { Asker } from './asker.ts';
import { paint } from './paint.ts';
import { makePalette } from './palette.ts';

const shop = makeShop();
const dark = materialCode(shop, '1084');
const bright = materialCode(shop, '15n20');

function layered(count: number): Billet {
  const tops = Array.from({ length: count }, (_, i) => -20 + (40 * (i + 1)) / count);
  const codes = Array.from({ length: count }, (_, i) => (i % 2 === 0 ? dark : bright));
  return {
    outline: rectangle(40, 40),
    lengthMm: 100,
    field: new LayersField(-20, tops, codes),
    volumes: {},
    loose: false,
    bandMm: 40 / count,
    piece: null,
    jacket: null,
  };
}

const tone = (code: number) => shop.materials[code - 1].tone * 255;

function greys(billet: Billet, px: number): number[] {
  const picture = paint({
    billet,
    plane: facePlane(billet, 'end B'),
    widthPx: px,
    heightPx: px,
    palette: makePalette(shop, 'etched', []),
  });
  return Array.from({ length: px * px }, (_, i) => picture.rgba[4 * i]);
}
const mean = (values: number[]) => values.reduce((a, b) => a + b, 0) / values.length;

describe('tone by area coverage', () => {
  // 100 pixels over 200, 202, 310 and 1,000 layers: bands of exactly a pixel's half, a beat, a third, a tenth.
  it.each([200, 202, 310, 1000])('shows %d unresolved layers as their mean tone within 1 %%', (layers) => {
    const values = greys(layered(layers), 100);
    expect(Math.abs(mean(values) / ((tone(dark) + tone(bright)) / 2) - 1)).toBeLessThan(0.01);
  });

  it('does not let fine bands crawl: every block of unresolved layers is grey alike', () => {
    const px = 120;
    const values = greys(layered(px * 2 + 4), px);
    const blocks: number[] = [];
    for (let r = 0; r < px; r += 12)
      for (let c = 0; c < px; c += 12)
        blocks.push(
          mean(Array.from({ length: 144 }, (_, i) => values[(r + Math.floor(i / 12)) * px + c + (i % 12)])),
        );
    expect(Math.max(...blocks) - Math.min(...blocks)).toBeLessThan(0.08 * (tone(bright) - tone(dark)));
  });

  it('gives half a pixel half the tone, and full bands their own', () => {
    const values = greys(layered(2), 41);
    expect(values[41 * 40 + 7]).toBeCloseTo(tone(dark), -0.5);
    expect(values[7]).toBeCloseTo(tone(bright), -0.5);
    const edge = values.slice(41 * 20, 41 * 21);
    expect(Math.abs(mean(edge) - (tone(dark) + tone(bright)) / 2)).toBeLessThan(6);
  });

  it.each([
    ['bold', 13],
    ['fine', 151],
  ])('comes within 1 %% rms of hundreds of points a dot, a four-way of %s layers', (_name, layers) => {
    const px = 64;
    const bar = evaluate(
      planOf([
        stackOf(layers, 40, 40 / layers),
        weldIt,
        drawSquare(30),
        resquareTo(26),
        cutInto(4),
        fourWay('mirrored'),
      ]),
    ).goal.bar!;
    const plane = facePlane(bar, 'end B');
    const palette = makePalette(shop, 'etched', []);
    const painted = greys(bar, px);
    // Scattered: a lattice would beat with the layers.
    const asker = new Asker(bar, plane);
    const sums = new Float64Array(px * px);
    const each = 1024;
    for (let i = 0; i < px * px * each; i += 1024) {
      for (let k = 0; k < 1024; k++) {
        const pixel = Math.floor((i + k) / each);
        asker.us[k] = ((pixel % px) + (((i + k) * 0.7548776662466927) % 1)) / px;
        asker.vs[k] = 1 - (Math.floor(pixel / px) + (((i + k) * 0.5698402909980532) % 1)) / px;
      }
      asker.ask(1024);
      for (let k = 0; k < 1024; k++)
        sums[Math.floor((i + k) / each)] += palette[asker.codes[k]]!.paper[0] / each;
    }
    const square = painted.reduce((sum, grey, i) => sum + (grey - sums[i]) ** 2, 0);
    expect(Math.sqrt(square / painted.length)).toBeLessThan(0.01 * 255);
  });

  it('finds a line thinner than a pixel', () => {
    const thin: Billet = {
      ...layered(1),
      field: GridField.of(
        [-20, -0.05, 0.05, 20],
        [-20, 20],
        [dark, bright, dark].map((code) => ({
          field: new SolidField(code),
          orientation: orientationNamed('as it lies'),
          lengthMm: 100,
        })),
      ),
    };
    const values = greys(thin, 101);
    const row = values.slice(101 * 50, 101 * 51);
    // A tenth of a millimetre of bright steel in a pixel of 0.396 mm.
    expect(Math.max(...row) - tone(dark)).toBeGreaterThan(0.15 * (tone(bright) - tone(dark)));
  });

  it('is the same picture twice', () => {
    expect(greys(layered(77), 60)).toEqual(greys(layered(77), 60));
  });

  it('leaves what is not steel clear', () => {
    const billet = {
      ...layered(3),
      outline: [
        [-20, -20],
        [20, -20],
        [0, 20],
      ] as const,
    };
    const picture = paint({
      billet,
      plane: facePlane(billet, 'end B'),
      widthPx: 60,
      heightPx: 60,
      palette: makePalette(shop, 'materials', ['1084', '15n20']),
    });
    expect(picture.rgba[3]).toBe(0);
    expect(picture.rgba[4 * (60 * 50 + 30) + 3]).toBe(255);
    expect(holds(billet, 0, 0, 50)).toBe(true);
    expect(holds(billet, -19, 19, 50)).toBe(false);
    expect(holds(billet, 0, 0, 101)).toBe(false);
  });
});

describe('dark steels that etch alike', () => {
  const order = ['1084', '15n20', '1095', 'w2', '316l'];
  const ink = (id: string, ...how: [] | ['as they etch']) =>
    makePalette(shop, 'etched', order, ...how)[materialCode(shop, id)]!;

  it('are hatched, each its own way, and keep their mean tone', () => {
    expect(ink('1084').duty).toBe(0);
    expect(ink('15n20').duty).toBe(0);
    expect(ink('316l').duty).toBe(0);
    const [one, other] = [ink('1095'), ink('w2')];
    expect([one.hatchX, one.hatchY]).not.toEqual([other.hatchX, other.hatchY]);
    for (const id of ['1095', 'w2']) {
      const { paper, line, duty } = ink(id);
      expect(line[0] - paper[0]).toBeGreaterThan(25);
      const { tone } = shop.materials.find((m) => m.id === id)!;
      expect((1 - duty) * paper[0] + duty * line[0]).toBeCloseTo(255 * tone, 6);
    }
  });

  it('are left as they etch where the look is what counts, and alone in a plan', () => {
    for (const id of order) expect(ink(id, 'as they etch').duty).toBe(0);
    expect(makePalette(shop, 'etched', ['1095', '15n20'])[materialCode(shop, '1095')]!.duty).toBe(0);
  });
});

describe('faces', () => {
  const bar = evaluate(
    planOf([
      stackOf(9),
      weldIt,
      drawSquare(30),
      resquareTo(25, 6),
      cutInto(4),
      fourWay('turned'),
      weldIt,
      drawSquare(30),
    ]),
  ).goal.bar!;

  it('show end A as the mirror image of end B when the picture is the same all along', () => {
    const px = 90;
    const b = sampleCodes(bar, facePlane(bar, 'end B'), px, px);
    const a = sampleCodes(bar, facePlane(bar, 'end A'), px, px);
    for (let r = 0; r < px; r++)
      for (let c = 0; c < px; c++) expect(a[r * px + c]).toBe(b[r * px + px - 1 - c]);
  });

  it('are seen from outside, and every pixel lies on the face', () => {
    for (const face of FACES.filter((f) => f !== 'middle' && f !== 'lengthwise' && f !== 'level')) {
      const {
        across: [a, b, c],
        up: [d, e, f],
        origin,
      } = facePlane(bar, face);
      const outward = [b * f - c * e, c * d - a * f, a * e - b * d];
      const middle = facePlane(bar, face);
      const at = [0, 1, 2].map(
        (k) => origin[k] + (middle.across[k] * middle.widthMm + middle.up[k] * middle.heightMm) / 2,
      );
      expect(holds(bar, at[0], at[1], at[2]), face).toBe(true);
      expect(
        holds(bar, at[0] + outward[0] * 1e-3, at[1] + outward[1] * 1e-3, at[2] + outward[2] * 1e-3),
        face,
      ).toBe(false);
    }
  });

  it('the middle is the section halfway along, seen as from end B', () => {
    const plane = facePlane(bar, 'middle');
    expect(plane).toEqual({
      ...facePlane(bar, 'end B'),
      origin: [...plane.origin.slice(0, 2), bar.lengthMm / 2],
    });
  });

  it('of long bars can be shown by their middle', () => {
    const plane = shortFace(bar, 'top', 2);
    expect(plane.widthMm).toBe(60);
    expect(plane.origin[2]).toBeCloseTo(bar.lengthMm / 2 - 30, 9);
  });

  it('show a bar of constant section as lines along the side', () => {
    const codes = sampleCodes(bar, facePlane(bar, 'right'), 40, 30);
    for (let r = 0; r < 30; r++) expect(new Set(codes.slice(r * 40, r * 40 + 40)).size).toBe(1);
    expect(codes[0]).toBe(codeAt(bar.field, 15 - 1e-7, 14.5));
  });
});
