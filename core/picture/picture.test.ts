import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { PowderMap } from '../billet/fields/powders.ts';
import { type Point2, rectangle } from '../geometry/outline.ts';
import {
  type Region,
  boxOf,
  common,
  crossings,
  grown,
  islandsOf,
  joined,
  regionArea,
  tidied,
  without,
} from '../geometry/regions.ts';
import { MOST_CORNERS } from './drawing.ts';
import { droppedThin, fitted, thickened, thinPlaces } from './fitting.ts';
import { imageHeader } from './imageHeader.ts';
import {
  FIRST_FORM,
  type Filling,
  type Placing,
  aspectOf,
  fillingsOf,
  pictureSchema,
  placed,
} from './picture.ts';
import { drawingFromSvg } from './svg.ts';
import { type Dots, traced } from './traced.ts';

const svg = (inside: string, more = ''): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100"${more}>${inside}</svg>`;
const read = (text: string) => {
  const answer = drawingFromSvg(text);
  if (!answer.ok) throw new Error(answer.message);
  return answer.drawing;
};
/** Area of a tone in units of a drawing 100 wide. */
const areas = (text: string): number[] => read(text).tones.map((t) => regionArea(t.region) * 1e4);
const refusal = (text: string): string => {
  const answer = drawingFromSvg(text);
  return answer.ok ? 'taken' : answer.message;
};
/** A ground of white, so that 100 units are one width. */
const GROUND = '<rect width="100" height="100" fill="white"/>';

describe('an SVG drawing as outlines', () => {
  it('has the areas that plain geometry gives its shapes', () => {
    expect(areas(svg(`${GROUND}<circle cx="50" cy="50" r="20"/>`))[0]).toBeCloseTo(Math.PI * 400, -0.5);
    expect(areas(svg(`${GROUND}<ellipse cx="50" cy="50" rx="20" ry="10"/>`))[0]).toBeCloseTo(
      Math.PI * 200,
      -0.5,
    );
    expect(areas(svg(`${GROUND}<polygon points="10,10 50,10 10,40"/>`))[0]).toBeCloseTo(600, 1);
    expect(areas(svg(`${GROUND}<rect x="10" y="10" width="30" height="20" rx="5"/>`))[0]).toBeCloseTo(
      600 - (4 - Math.PI) * 25,
      0,
    );
    // A cubic with handles straight above its ends encloses 3/5 of their box (Green's theorem).
    expect(areas(svg(`${GROUND}<path d="M10 90 C10 60 50 60 50 90Z"/>`))[0]).toBeCloseTo(0.6 * 40 * 30, -0.5);
  });

  it('follows transforms of groups, and copies', () => {
    const one = '<path id="a" d="M0 0h10v10h-10z"/>';
    expect(
      areas(svg(`${GROUND}<g transform="translate(20 20) rotate(30) scale(2 3)">${one}</g>`))[0],
    ).toBeCloseTo(600, 1);
    expect(areas(svg(`${GROUND}${one}<use href="#a" x="40"/><use href="#a" y="40"/>`))[0]).toBeCloseTo(
      300,
      1,
    );
  });

  it('keeps holes by either fill rule', () => {
    const rings = 'M10 10h60v60h-60z M20 20h20v20h-20z';
    expect(areas(svg(`${GROUND}<path d="${rings}"/>`))[0]).toBeCloseTo(3600, 1);
    expect(areas(svg(`${GROUND}<path d="${rings}" fill-rule="evenodd"/>`))[0]).toBeCloseTo(3200, 1);
    expect(areas(svg(`${GROUND}<path d="M10 10h60v60h-60z M20 20v20h20v-20z"/>`))[0]).toBeCloseTo(3200, 1);
  });

  it('turns drawn lines into the region they cover', () => {
    const line = (more: string) =>
      areas(svg(`${GROUND}<path d="M20 50h40" fill="none" stroke="black" stroke-width="6" ${more}/>`))[0];
    expect(line('')).toBeCloseTo(240, 1);
    expect(line('stroke-linecap="square"')).toBeCloseTo(276, 1);
    expect(line('stroke-linecap="round"')).toBeCloseTo(240 + Math.PI * 9, 0);
    expect(line('transform="scale(1 2) translate(0 -20)"')).toBeCloseTo(480, 1);
  });

  it('cuts what lies under something else away, so that tones never overlap', () => {
    const { tones } = read(
      svg(
        `${GROUND}<rect x="10" y="10" width="60" height="60"/><rect x="30" y="30" width="60" height="60" fill="#888"/>`,
      ),
    );
    expect(tones.map((t) => Math.round(regionArea(t.region) * 1e4))).toEqual([2000, 3600, 4400]);
    for (const [i, a] of tones.entries())
      for (const b of tones.slice(i + 1)) expect(regionArea(common(a.region, b.region))).toBeLessThan(1e-9);
  });

  it('takes classes of style sheets and inline styles over attributes', () => {
    const text = svg(
      `<style>.d{fill:#000;stroke:none}</style>${GROUND}<rect class="d" fill="white" width="10" height="10"/><rect style="fill:#000" fill="white" x="20" width="10" height="10"/><rect style="display:none" x="50" width="10" height="10"/>`,
    );
    expect(areas(text)[0]).toBeCloseTo(200, 1);
  });

  it('mends outlines that cross themselves and says where', () => {
    const drawing = read(svg(`${GROUND}<path d="M20 20 L80 80 L80 20 L20 80Z"/>`));
    expect(drawing.mended).toHaveLength(1);
    expect(drawing.mended[0][0]).toBeCloseTo(0, 6);
    expect(crossings(drawing.tones[0].region)).toEqual([]);
    expect(regionArea(drawing.tones[0].region) * 1e4).toBeCloseTo(1800, 1);
  });

  it('gathers more colours than powders by how light they are', () => {
    const many = Array.from(
      { length: 9 },
      (_, i) => `<rect x="${10 * i}" width="8" height="8" fill="rgb(${i * 28},${i * 28},${i * 28})"/>`,
    );
    expect(read(svg(many.join(''))).tones.length).toBeLessThanOrEqual(4);
  });

  it('says what it left out', () => {
    const { notes } = read(svg(`${GROUND}<text>a</text><rect width="5" height="5" fill="url(#g)"/>`));
    expect(notes.join(' ')).toMatch(/Text is left out.*Gradients/);
  });
});

describe('a hostile drawing is refused, with the reason', () => {
  it.each([
    ['a script', svg('<script>alert(1)</script>'), /script/],
    ['a foreign page', svg('<foreignObject><iframe/></foreignObject>'), /foreign page/],
    ['something from elsewhere', svg('<image href="http://example.org/a.png"/>'), /elsewhere/],
    [
      'a copy of another file',
      svg('<use xlink:href="file:///etc/passwd#a" xmlns:xlink="http://www.w3.org/1999/xlink"/>'),
      /elsewhere/,
    ],
    [
      'entities',
      '<!DOCTYPE svg [<!ENTITY a "b">]><svg xmlns="http://www.w3.org/2000/svg"><text>&a;</text></svg>',
      /entities/,
    ],
    ['an entity that is not declared', svg('<text>&laugh;</text>'), /not a whole SVG/],
    ['copies without end', svg('<g id="a"><use href="#a"/></g>'), /without end/],
    [
      'copies of copies by the million',
      svg(
        `<defs><path id="a0" d="M0 0h1v1z"/>${Array.from({ length: 7 }, (_, i) => `<g id="a${i + 1}">${`<use href="#a${i}"/>`.repeat(10)}</g>`).join('')}</defs><use href="#a7"/>`,
      ),
      /copies|shapes/,
    ],
    ['a billion nodes', svg('<g/>'.repeat(30_000)), /elements/],
    ['groups without bottom', svg('<g>'.repeat(3000)), /deep/],
    ['more text than a drawing has', svg(' '.repeat(4_100_000)), /too large/],
    ['half a file', svg(`${GROUND}<path d="M0 0h10`).slice(0, 90), /not a whole SVG/],
    ['another kind of XML', '<html><body/></html>', /not an SVG/],
    ['no XML at all', 'GIF89a', /not a whole SVG/],
    ['nothing to fill', svg('<line x2="5"/>'), /no filled shape|no shape/],
    ['a path of nonsense', svg('<path d="M nan 12 L zz"/>'), /no filled shape/],
    ['too many corners', svg(`<path d="M0 0${'l1 0l0 1'.repeat(150_000)}"/>`), /corners/],
  ])('%s', (_name, text, reason) => {
    expect(refusal(text)).toMatch(reason);
  });
});

const dots = (widthPx: number, heightPx: number, light: (x: number, y: number) => number): Dots => {
  const rgba = new Uint8ClampedArray(4 * widthPx * heightPx);
  for (let y = 0; y < heightPx; y++)
    for (let x = 0; x < widthPx; x++) {
      const at = 4 * (y * widthPx + x);
      rgba.fill(255 * light(x + 0.5, y + 0.5), at, at + 3);
      rgba[at + 3] = 255;
    }
  return { widthPx, heightPx, rgba };
};
const PLAIN = { thresholds: [0.5], smoothPx: 0, speckPx: 0, simplifyPx: 0.2 };
const tracedOf = (d: Dots, how = PLAIN) => {
  const answer = traced(d, how);
  if (!answer.ok) throw new Error(answer.message);
  return answer.drawing;
};

describe('a picture of dots as outlines', () => {
  it('finds a disc: its area to 1 %, its middle, and a hole in it', () => {
    const { tones, aspect } = tracedOf(
      dots(200, 150, (x, y) => {
        const r = Math.hypot(x - 100, y - 75);
        return r < 60 && r > 20 ? 0 : 1;
      }),
    );
    expect(aspect).toBeCloseTo(1, 2);
    // One unit wide: the disc's radius is a half.
    expect(Math.abs(regionArea(tones[0].region) / (Math.PI * 0.25 * (1 - 1 / 9)) - 1)).toBeLessThan(0.01);
    expect(tones[0].region).toHaveLength(2);
  });

  it('drops specks, and smooths a noisy rim', () => {
    const noisy = dots(120, 120, (x, y) => (Math.hypot(x - 60, y - 60) < 40 || (x < 3 && y < 3) ? 0 : 1));
    expect(tracedOf(noisy).tones[0].region.length).toBe(2);
    expect(tracedOf(noisy, { ...PLAIN, speckPx: 20 }).tones[0].region.length).toBe(1);
    const rough = dots(120, 120, (x, y) =>
      Math.hypot(x - 60, y - 60) < 40 + 2 * (((x * 7 + y * 13) % 5) - 2) * 0.5 ? 0 : 1,
    );
    const around = (r: Region) => r.reduce((s, ring) => s + ring.length, 0);
    expect(around(tracedOf(rough, { ...PLAIN, smoothPx: 2, simplifyPx: 0.5 }).tones[0].region)).toBeLessThan(
      around(tracedOf(rough, { ...PLAIN, simplifyPx: 0.5 }).tones[0].region),
    );
  });

  it('parts two thresholds into two tones that do not overlap', () => {
    const { tones } = tracedOf(
      dots(90, 30, (x) => (x < 30 ? 0.1 : x < 60 ? 0.5 : 1)),
      { ...PLAIN, thresholds: [0.3, 0.7] },
    );
    expect(tones).toHaveLength(2);
    expect(regionArea(common(tones[0].region, tones[1].region))).toBeLessThan(1e-6);
    expect(regionArea(tones[0].region) / regionArea(tones[1].region)).toBeCloseTo(1, 1);
  });

  it('says when nothing is dark enough', () => {
    expect(
      traced(
        dots(20, 20, () => 1),
        PLAIN,
      ),
    ).toMatchObject({ ok: false });
  });
});

describe('what a picture file says of itself', () => {
  const png = (w: number, h: number): Uint8Array => {
    const bytes = new Uint8Array(60);
    bytes.set([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 0, 0, 0, 13, 0x49, 0x48, 0x44, 0x52]);
    new DataView(bytes.buffer).setUint32(16, w);
    new DataView(bytes.buffer).setUint32(20, h);
    bytes.set([0x49, 0x45, 0x4e, 0x44], 52);
    return bytes;
  };
  it('is its size', () => {
    expect(imageHeader(png(640, 480))).toEqual({
      ok: true,
      header: { type: 'png', widthPx: 640, heightPx: 480 },
    });
    // SOI, APP0 of 16 bytes, SOF0 of a picture 300 × 200 (ITU-T T.81).
    const jpeg = Uint8Array.from([
      0xff,
      0xd8,
      0xff,
      0xe0,
      0,
      16,
      ...new Array<number>(14).fill(0),
      0xff,
      0xc0,
      0,
      17,
      8,
      0,
      200,
      1,
      44,
      3,
      ...new Array<number>(20).fill(0),
    ]);
    expect(imageHeader(jpeg)).toEqual({ ok: true, header: { type: 'jpeg', widthPx: 300, heightPx: 200 } });
  });

  it.each([
    ['a bomb', png(60_000, 60_000), /million/],
    ['a dot', png(1, 1), /too small/],
    ['half a file', png(640, 480).subarray(0, 40), /cut short/],
    ['a JPEG cut short', Uint8Array.from([0xff, 0xd8, 0xff, 0xe0, 0, 16, 0, 0]), /cut short/],
    ['another kind', new TextEncoder().encode('GIF89a and so on'), /neither/],
    ['too many bytes', new Uint8Array(12_000_001), /too large/],
  ])('of %s is refused', (_name, bytes, reason) => {
    const answer = imageHeader(bytes);
    expect(answer.ok ? '' : answer.message).toMatch(reason);
  });
});

const SQUARE: Filling = {
  powder: 'a',
  region: [
    [
      [-0.5, -0.25],
      [0.5, -0.25],
      [0.5, 0.25],
      [-0.5, 0.25],
    ],
  ],
};
const PLACE: Placing = {
  on: 'can',
  x: 0,
  y: 0,
  widthMm: 20,
  turnDeg: 0,
  mirrored: false,
  columns: 1,
  rows: 1,
};

describe('a placed picture', () => {
  it('keeps its area under turning and mirroring, and is in proportion', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 2, max: 60, noNaN: true }),
        fc.double({ min: -180, max: 180, noNaN: true }),
        fc.boolean(),
        fc.integer({ min: 1, max: 4 }),
        fc.integer({ min: 1, max: 4 }),
        (widthMm, turnDeg, mirrored, columns, rows) => {
          const [{ region }] = placed([SQUARE], { ...PLACE, widthMm, turnDeg, mirrored, columns, rows });
          expect(regionArea(region) / (0.5 * widthMm ** 2 * columns * rows)).toBeCloseTo(1, 3);
        },
      ),
    );
    expect(aspectOf([SQUARE])).toBe(0.5);
  });

  it('is turned about its place, and fits a room when asked to', () => {
    const [{ region }] = placed([SQUARE], { ...PLACE, x: 3, y: -2, turnDeg: 90 });
    const box = boxOf(region)!;
    expect([box.minX, box.maxX, box.minY, box.maxY].map((v) => Math.round(v * 1e6) / 1e6)).toEqual([
      -2, 8, -12, 8,
    ]);
    const place = fitted(
      { drawn: [SQUARE], place: { ...PLACE, turnDeg: 90 } },
      { widthMm: 50, heightMm: 40 },
    );
    const [there] = placed([SQUARE], place);
    const inside = boxOf(there.region)!;
    expect(inside.maxX).toBeLessThan(25);
    expect(inside.maxY).toBeLessThan(20);
    expect(inside.maxY).toBeGreaterThan(15);
  });

  it('fills the can as walked where it is placed on the finished face', () => {
    const picture = pictureSchema.parse({
      name: 'p',
      drawn: [SQUARE],
      place: { ...PLACE, on: 'top' },
      walked: null,
      form: FIRST_FORM,
    });
    expect(fillingsOf(picture)).toEqual([]);
    expect(fillingsOf({ ...picture, walked: [SQUARE] })).toEqual([SQUARE]);
  });

  it('may not have corners without end', () => {
    const ring = Array.from({ length: 4 * MOST_CORNERS + 1 }, (_, i) => [i % 7, i % 5]);
    const answer = pictureSchema.safeParse({
      name: 'p',
      drawn: [{ powder: 'a', region: [ring] }],
      place: PLACE,
      walked: null,
      form: FIRST_FORM,
    });
    expect(answer.success).toBe(false);
  });
});

describe('places too thin to fill', () => {
  const room: Region = [rectangle(50, 50)];
  const dumbbell: Filling = {
    powder: 'a',
    region: joined(
      [rectangle(8, 8).map(([x, y]): Point2 => [x - 10, y])],
      joined([rectangle(8, 8).map(([x, y]): Point2 => [x + 10, y])], [rectangle(20, 1)]),
    ).map((r) => r.map(([x, y]): [number, number] => [x, y])),
  };

  it('are the neck of a dumbbell, and the strip between two squares, but no plain corner', () => {
    expect(thinPlaces([dumbbell], room, 2).map((t) => [t.powder, Math.round(t.at[0])])).toEqual([['a', 0]]);
    const near: Filling[] = [
      {
        powder: 'a',
        region: [
          rectangle(10, 10).map(([x, y]): [number, number] => [x - 5.4, y]),
          rectangle(10, 10).map(([x, y]): [number, number] => [x + 5.4, y]),
        ],
      },
    ];
    expect(thinPlaces(near, room, 2).map((t) => t.powder)).toEqual([null]);
    expect(
      thinPlaces(
        [{ powder: 'a', region: [rectangle(10, 10).map(([x, y]): [number, number] => [x, y])] }],
        room,
        2,
      ),
    ).toEqual([]);
  });

  it('can be thickened or dropped', () => {
    expect(thinPlaces(thickened([dumbbell], 2), room, 2)).toEqual([]);
    const dropped = droppedThin([dumbbell], 2);
    expect(thinPlaces(dropped, room, 2)).toEqual([]);
    expect(islandsOf(dropped[0].region)).toHaveLength(2);
  });
});

describe('regions', () => {
  const any = fc
    .array(
      fc.tuple(fc.double({ min: -20, max: 20, noNaN: true }), fc.double({ min: -20, max: 20, noNaN: true })),
      { minLength: 3, maxLength: 9 },
    )
    .map((ring) => tidied([ring], 'nonzero'));
  it('joined, cut and common keep area: |A| + |B| = |A ∪ B| + |A ∩ B|, |A \\ B| = |A| − |A ∩ B|', () => {
    fc.assert(
      fc.property(any, any, (a, b) => {
        const both = regionArea(common(a, b));
        expect(regionArea(joined(a, b))).toBeCloseTo(regionArea(a) + regionArea(b) - both, 2);
        expect(regionArea(without(a, b))).toBeCloseTo(regionArea(a) - both, 2);
      }),
    );
  });

  it('grow by Steiner’s formula: A + P·d + π·d²', () => {
    expect(regionArea(grown([rectangle(20, 10)], 2))).toBeCloseTo(200 + 60 * 2 + Math.PI * 4, 0);
    expect(regionArea(grown([rectangle(20, 10)], -2))).toBeCloseTo(16 * 6, 6);
  });

  it('as a map of powders answer as the plain count of edges does, and cover their areas', () => {
    fc.assert(
      fc.property(any, any, fc.integer(), (a, b, seed) => {
        const map = new PowderMap(
          [
            { code: 7, region: a },
            { code: 9, region: b },
          ],
          3,
          20,
          20,
        );
        const inside = (region: Region, x: number, y: number): boolean =>
          region.reduce((odd, ring) => {
            ring.forEach(([x0, y0], i) => {
              const [x1, y1] = ring[(i + 1) % ring.length];
              if (y0 > y !== y1 > y && x < x0 + ((y - y0) * (x1 - x0)) / (y1 - y0)) odd = !odd;
            });
            return odd;
          }, false);
        for (let i = 0; i < 200; i++) {
          const [x, y] = [((Math.abs(seed % 97) + i * 7.31) % 40) - 20, ((i * 3.77) % 40) - 20];
          expect(map.codeAt(x, y)).toBe(inside(b, x, y) ? 9 : inside(a, x, y) ? 7 : 3);
        }
      }),
      { numRuns: 60 },
    );
  });
});
