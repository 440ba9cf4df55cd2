import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { FACES, type FaceName } from '../billet/face.ts';
import type { Can } from '../canister/can.ts';
import { type Region, regionArea } from '../geometry/regions.ts';
import { FIRST_FORM, type Filling, type Picture } from '../picture/picture.ts';
import { makeShop } from '../shop/shop.ts';
import { moveOf } from '../moves/index.ts';
import { evaluated, planOf } from '../tests/plans.ts';
import { type Evaluation } from './evaluate.ts';
import { readPlan, withParameters } from './index.ts';
import { comesOut, copiesOn, copyAt, difference, faceOfCan, walkedBack, wantedOn } from './walkBack.ts';

const BOX = moveOf('can').begin([], makeShop()) as Can;
const SOLID = { endMm: 4, sides: 'two ways', passMm: 2.5, heats: 2, temperatureC: 1200 };
/** A leaf with a hole, that has no symmetry: mirrored or turned it is another. */
const LEAF: Filling[] = [
  {
    powder: '15n20',
    region: [
      [
        [-0.5, -0.1],
        [-0.1, -0.3],
        [0.4, -0.22],
        [0.5, 0.05],
        [0.2, 0.12],
        [0.05, 0.33],
        [-0.25, 0.2],
      ],
      [
        [0, -0.1],
        [0, 0.02],
        [0.14, 0.02],
        [0.14, -0.1],
      ],
    ],
  },
];
const picture = (place: Partial<Picture['place']>): Picture => ({
  name: 'leaf',
  drawn: LEAF,
  place: {
    on: 'end B',
    x: 0,
    y: 0,
    widthMm: 10,
    turnDeg: 25,
    mirrored: false,
    columns: 1,
    rows: 1,
    ...place,
  },
  walked: null,
  form: FIRST_FORM,
});
type Steps = Parameters<typeof planOf>[0];

/** Walks a picture back in a plan that begins with a can, and looks at what then comes out. */
function thereAndBack(plan: ReturnType<typeof planOf>, stepId: string, wish: Picture) {
  const filled = (p: Picture): Evaluation =>
    evaluated({
      ...plan,
      lanes: plan.lanes.map((l) => ({
        ...l,
        steps: l.steps.map((s) => (s.id === stepId ? withParameters(s, { ...s.parameters, picture: p }) : s)),
      })),
    });
  const on = wish.place.on as FaceName;
  const face = faceOfCan(filled(wish), stepId, on)!;
  const walked = walkedBack(face, wantedOn(face, wish));
  if (!walked.ok) return walked;
  const then = filled({ ...wish, walked: walked.fillings });
  const after = faceOfCan(then, stepId, on)!;
  const wanted = wantedOn(after, wish);
  const middle: [number, number] = [
    wish.place.x + after.plane.widthMm / 2,
    wish.place.y + after.plane.heightMm / 2,
  ];
  const found = difference(then, after, copyAt(copiesOn(after), middle)!, wanted, walked.fillings);
  return { ok: true as const, walked: walked.fillings, found };
}

const draw = (widthMm: number, thicknessMm: number) =>
  ['draw', { shape: 'flat', widthMm, thicknessMm, heats: 2 }] as const;
const ROUTES: [string, Steps, FaceName, Partial<Picture['place']>][] = [
  ['pressed solid and drawn flat', [draw(40, 16)], 'end B', {}],
  [
    're-squared on the bias',
    [['resquare', moveOf('resquare').begin([], makeShop())]],
    'end B',
    { widthMm: 14 },
  ],
  [
    're-squared with an angle error, then flat',
    [['resquare', { turn: 'right', sideMm: 34, errorDeg: 4, heats: 2 }], draw(40, 18)],
    'end B',
    { widthMm: 10 },
  ],
  ['seen from the other end, mirrored', [draw(40, 20)], 'end A', {}],
  [
    'through slanted tiles, rolled over and drawn out',
    [
      ['draw', { shape: 'square', sideMm: 34, heats: 2 }],
      ['tile', { angleDeg: 45, thicknessMm: 12, lay: 'every other rolled' }],
      ['weld', { heats: 1, temperatureC: 1200 }],
      draw(40, 6),
    ],
    'top',
    { widthMm: 16, x: -1000 },
  ],
];

describe('a picture walked back from the finished bar', () => {
  it.each(ROUTES)('%s returns to itself: within 0.1 mm and 1 %% of its area', (_name, route, on, place) => {
    const plan = planOf([
      ['can', BOX],
      ['consolidate', SOLID],
      ['crop', { endAMm: 8, endBMm: 8 }],
      ['peel', { how: 'peel' }],
      ...route,
    ] as Steps);
    const id = plan.lanes[0].steps[0].id;
    const wish = picture({ ...place, on });
    const face = faceOfCan(evaluated(plan), id, on)!;
    // Where the way leads through tiles it is put into the largest copy.
    const [copy] = copiesOn(face);
    const there =
      place.x === -1000
        ? { x: copy.middle[0] - face.plane.widthMm / 2, y: copy.middle[1] - face.plane.heightMm / 2 }
        : {};
    const way = thereAndBack(plan, id, { ...wish, place: { ...wish.place, ...there } });
    if (!way.ok) throw new Error(way.message);
    expect(way.found.farthestMm).toBeLessThan(0.1);
    expect(way.found.outlineShare).toBeLessThan(0.01);
    expect(way.found.sampledShare).toBeLessThan(0.01);
    expect(regionArea(way.walked[0].region as Region)).toBeGreaterThan(0);
  });

  it('is larger in the can where drawing makes it smaller, and squat where it will be stretched', () => {
    const plan = planOf([
      ['can', BOX],
      ['consolidate', SOLID],
      ['crop', { endAMm: 8, endBMm: 8 }],
      ['peel', { how: 'peel' }],
      draw(40, 16),
    ] as Steps);
    const way = thereAndBack(plan, plan.lanes[0].steps[0].id, picture({ turnDeg: 0 }));
    if (!way.ok) throw new Error(way.message);
    const xs = way.walked[0].region.flat().map(([x]) => x);
    const ys = way.walked[0].region.flat().map(([, y]) => y);
    const [w, h] = [Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys)];
    // Room of 54 mm becomes 40 × 16 mm of bar.
    expect(w / 10).toBeCloseTo(54 / 40, 1);
    expect(h / (10 * 0.63)).toBeCloseTo(54 / 16, 0);
  });

  it('is refused with its place where it crosses a seam, or leaves the steel', () => {
    const square = ['draw', { shape: 'square', sideMm: 30, heats: 1 }];
    const plan = planOf([
      ['can', { ...BOX, lengthMm: 200 }],
      ['consolidate', SOLID],
      ['crop', { endAMm: 8, endBMm: 8 }],
      ['peel', { how: 'peel' }],
      square,
      ['cut', { pieces: 4, cropAMm: 5, cropBMm: 5 }],
      ['assemble', { columns: 2, rows: 2, layout: 'mirrored' }],
    ] as Steps);
    const id = plan.lanes[0].steps[0].id;
    const across = thereAndBack(plan, id, picture({ widthMm: 20 }));
    expect(across).toMatchObject({ ok: false, message: expect.stringContaining('crosses a seam') });
    const within = thereAndBack(plan, id, picture({ widthMm: 12, x: 14, y: 14 }));
    expect(within.ok).toBe(true);
    expect(thereAndBack(plan, id, picture({ widthMm: 12, x: 50 })).ok).toBe(false);
    // A four-way shows the can four times.
    expect(copiesOn(faceOfCan(evaluated(plan), id, 'end B')!)).toHaveLength(4);
  });

  it('comes out where it came from, over random places of a re-squared and drawn bar', () => {
    const plan = planOf([
      ['can', BOX],
      ['consolidate', SOLID],
      ['crop', { endAMm: 8, endBMm: 8 }],
      ['peel', { how: 'peel' }],
      ['resquare', { turn: 'left', sideMm: 34, errorDeg: 0, heats: 2 }],
      draw(42, 17),
    ] as Steps);
    const id = plan.lanes[0].steps[0].id;
    const face = faceOfCan(evaluated(plan), id, 'end B')!;
    const [copy] = copiesOn(face);
    fc.assert(
      fc.property(
        fc.double({ min: 0.1, max: 0.9, noNaN: true }),
        fc.double({ min: 0.1, max: 0.9, noNaN: true }),
        (u, v) => {
          const [x, y] = [u * face.plane.widthMm, v * face.plane.heightMm];
          const back = comesOut(face, copy, face.at(x, y)!)!;
          expect(Math.hypot(back[0] - x, back[1] - y)).toBeLessThan(1e-3);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('returns to itself through a can pressed by the flow of its section, where it is no longer the same form', () => {
    const steps = (reckoned: string) =>
      planOf([
        ['can', { ...BOX, widthMm: 44, heightMm: 44, lengthMm: 60 }],
        ['consolidate', { ...SOLID, passMm: 4, reckoned }],
        ['crop', { endAMm: 8, endBMm: 8 }],
        ['peel', { how: 'peel' }],
      ] as Steps);
    const wish = picture({ widthMm: 18 });
    const ways = ['by volumes', 'by flow'].map((how) => {
      const plan = steps(how);
      const way = thereAndBack(plan, plan.lanes[0].steps[0].id, wish);
      if (!way.ok) throw new Error(way.message);
      expect(way.found.farthestMm).toBeLessThan(0.1);
      expect(way.found.outlineShare).toBeLessThan(0.01);
      expect(way.found.sampledShare).toBeLessThan(0.01);
      return regionArea(way.walked[0].region as Region);
    });
    // Near to what volumes say, but not that.
    expect(Math.abs(ways[1] / ways[0] - 1)).toBeLessThan(0.12);
    expect(Math.abs(ways[1] / ways[0] - 1)).toBeGreaterThan(1e-3);
  });

  it('tells nothing of a bar that has no steel of that can', () => {
    const plan = planOf([['can', BOX]] as Steps);
    const id = plan.lanes[0].steps[0].id;
    expect(faceOfCan(evaluated(plan), 'nothing', 'top')).toBeNull();
    for (const on of FACES) expect(faceOfCan(evaluated(plan), id, on)).not.toBeNull();
  });
});

const demo = join(import.meta.dirname, '..', '..', 'server', 'demo');
const pieces = readdirSync(demo)
  .filter((f) => f.endsWith('.json'))
  .map((file) => {
    const read = readPlan(JSON.parse(readFileSync(join(demo, file), 'utf8')));
    if (!read.ok) throw new Error(file);
    return read.plan;
  });
const drawn = pieces.flatMap((plan) =>
  plan.lanes.flatMap((l) =>
    l.steps
      .filter((s) => s.kind === 'can' && (s.parameters as Can).picture)
      .map((s) => ({ name: plan.name, plan, step: s })),
  ),
);

describe('demo pieces with a picture', () => {
  it('are there', () => expect(drawn.length).toBeGreaterThan(0));
  it.each(drawn)('$name comes out as it is wanted, as it stands in the file', ({ plan, step }) => {
    const { picture: p } = step.parameters as Can;
    const evaluation = evaluated(plan);
    const face = faceOfCan(evaluation, step.id, p!.place.on as FaceName)!;
    const wanted = wantedOn(face, p!);
    const middle: [number, number] = [
      p!.place.x + face.plane.widthMm / 2,
      p!.place.y + face.plane.heightMm / 2,
    ];
    const found = difference(evaluation, face, copyAt(copiesOn(face), middle)!, wanted, p!.walked!);
    expect(found.farthestMm).toBeLessThan(0.1);
    expect(found.outlineShare).toBeLessThan(0.01);
    expect(found.sampledShare).toBeLessThan(0.01);
  });
});
