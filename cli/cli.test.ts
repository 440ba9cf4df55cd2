import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PNG } from 'pngjs';
import sharp from 'sharp';
import { afterAll, expect, it } from 'vitest';
import { seeded } from '../core/canister/packing.ts';
import { WorkedOutFlows } from '../core/flow/flows.ts';
import { lived } from '../core/forecast/index.ts';
import { materialOrder, stepResult, wishSchema } from '../core/plan/index.ts';
import { LEAST_PLACES } from '../core/recipes/library.ts';
import { offerOf } from '../core/recipes/index.ts';
import { faceShown, predictionOf } from '../core/render/foreseen.ts';
import { photographed } from '../core/sighting/camera.ts';
import { STILL } from '../core/sighting/warp.ts';
import { inverted, through, toCorners } from '../core/sighting/homography.ts';
import { shopSchema } from '../core/shop/shop.ts';
import { anyPiece, hiddenShop } from '../core/tests/shops.ts';
import { photographedRepeat } from '../core/tests/targets.ts';
import { run } from './commands.ts';
import { planOf } from './usage.ts';

const dir = mkdtempSync(join(tmpdir(), 'retablo-cli-'));
afterAll(() => rmSync(dir, { recursive: true, force: true }));

const PLAN = 'server/demo/salt-marsh.json';

/** As it is called from a shell; most of what it can do is tried without starting it anew. */
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
  // 13 layers, 7 of 4.3 mm and 6 of 2.2 mm, 45 × 90 mm, 7850 kg/m³.
  expect(first.massKg['1084']).toBeCloseTo(7 * 4.3 * 45 * 90 * 7850e-9, 9);
  expect(first.size).toEqual({ widthMm: 45, heightMm: 43.3, lengthMm: 90 });
  // Every figure by its id, as a bare number in its unit and as the shop writes it.
  expect(first.figures).toContainEqual(
    expect.objectContaining({ id: 'length', number: 90, unit: 'mm', value: '90 mm' }),
  );
  const { figures: welded } = figures.lanes[0].steps[1];
  for (const id of ['soak', 'time in hand', 'least handle', 'welding window'])
    expect(welded.map((f: { id: string }) => f.id)).toContain(id);
  // What is judged beside the moves’ own findings is said too.
  const codes = (plan: { lanes: { steps: { findings: { code: string }[] }[] }[] }) =>
    plan.lanes.flatMap((l) => l.steps.flatMap((s) => s.findings.map((f) => f.code)));
  expect(codes(figures)).toContain('both ways');
});

it('prints every bar of a plan of several, in their order, and what each needs to start', async () => {
  const { lanes, start } = JSON.parse(await run(['figures', 'server/demo/quarry-quilt.json']));
  expect(lanes.map((l: { name: string }) => l.name)).toEqual(['Star bar', 'Plain bar', 'Quilt']);
  expect(start.starts).toHaveLength(2);
  const [assembly] = lanes[2].steps;
  expect(assembly.kind).toBe('assemble');
  expect(assembly.say.join(' ')).toContain('Lay piece Q1 in row 1 from the top, place 2');
  // Nine pieces of one size with strips of 2 mm between and round them.
  const side = lanes[0].steps.at(-1).size.widthMm;
  expect(assembly.size.widthMm).toBeCloseTo(3 * side + 4 * 2, 6);
});

it('draws a face as PNG at the size asked for', async () => {
  const out = join(dir, 'face.png');
  expect(await run(['face', PLAN, '--step', 's7', '--size', '200', '--out', out])).toContain(
    '200 × 200 pixels',
  );
  const png = PNG.sync.read(readFileSync(out));
  expect([png.width, png.height]).toEqual([200, 200]);
  // A mirrored four-way: the picture is the same left and right.
  const grey = (x: number, y: number) => png.data[4 * (y * 200 + x)];
  let differ = 0;
  for (let y = 0; y < 200; y++)
    for (let x = 0; x < 100; x++) if (Math.abs(grey(x, y) - grey(199 - x, y)) > 60) differ++;
  expect(differ / 20000).toBeLessThan(0.01);
});

it('writes which material lies at every dot, of an end and of a section at a station', async () => {
  const out = join(dir, 'codes.png');
  const codes = async (...args: string[]) => {
    await run(['face', PLAN, '--step', 's1', '--size', '90', '--view', 'codes', '--out', out, ...args]);
    const { data, width, height } = PNG.sync.read(readFileSync(out));
    return { width, height, at: (x: number, y: number) => data[4 * (y * width + x)] };
  };
  const end = await codes();
  const { materials } = JSON.parse(readFileSync(join(dir, 'codes.json'), 'utf8'));
  expect(materials['0']).toBeNull();
  // 7 layers of 4.3 mm and 6 of 2.2 mm in turn, the first at the bottom: the share of each in a column of dots.
  const column = Array.from({ length: end.height }, (_, y) => materials[end.at(20, y)]);
  expect(column.filter((id) => id === '1084').length / end.height).toBeCloseTo(30.1 / 43.3, 1);
  expect(new Set(column)).toEqual(new Set(['1084', '15n20']));
  expect(column.at(-1)).toBe('1084');
  // A stack is the same all along.
  const middle = await codes('--at', '45');
  for (let y = 0; y < end.height; y++) expect(middle.at(20, y)).toBe(end.at(20, y));
});

it('reads a photograph of an end against what was foreseen, with a lattice', async () => {
  const n = 512;
  const bowed = (i: number) => {
    const [x, y] = [(2 * (i % n) + 1) / n - 1, 1 - (2 * Math.floor(i / n) + 1) / n];
    return Math.sin(9 * (y + 0.3 * x * x - 0.2 * x) + 2 * x * y) > 0.2 + 0.4 * x ? 0.85 : 0.15;
  };
  const tones = { n, data: Float32Array.from({ length: n * n }, (_, i) => bowed(i)) };
  const { photo, corners, focalPx } = photographed({
    tones,
    widthMm: 30,
    heightMm: 30,
    end: 'A',
    leansDeg: 2,
  });
  const [taken, foreseen] = [join(dir, 'end.jpg'), join(dir, 'foreseen.png')];
  const raw = { width: photo.width, height: photo.height, channels: 4 } as const;
  await sharp(Buffer.from(photo.rgba), { raw }).jpeg().toFile(taken);
  const dots = Buffer.from(tones.data.map((v) => 255 * v));
  await sharp(dots, { raw: { width: n, height: n, channels: 1 } })
    .png()
    .toFile(foreseen);
  const taps = corners.map(([x, y]) => `${(x + 3).toFixed(1)},${(y - 4).toFixed(1)}`).join(' ');
  const sizes = ['--width', '30', '--height', '30', '--taps', taps, '--focal', String(focalPx)];
  const said = JSON.parse(
    await run(['read', taken, '--predicted', foreseen, ...sizes, '--lattice', '20,40']),
  );
  expect(said).toMatchObject({ end: 'A', endTold: true });
  expect(Math.abs(said.leanDeg - 2)).toBeLessThan(1);
  expect(said.points.length).toBeGreaterThan(50);
  // Nothing was off about this bar: every point of it is seen where the photograph has it, mirrored as end A is.
  const back = inverted(toCorners(corners));
  for (const [px, py, xMm, yMm] of said.points) {
    const [x, y] = through(back, [px, py]);
    expect(Math.hypot(xMm + 15 * x, yMm - 15 * y)).toBeLessThan(0.8);
  }
  const bad = (args: string[]) => run(['read', ...args]);
  await expect(bad([])).rejects.toThrow('which photograph');
  await expect(bad([taken, ...sizes])).rejects.toThrow('--predicted');
  await expect(bad([taken, '--predicted', foreseen, '--width', 'wide'])).rejects.toThrow('--width');
  await expect(bad([taken, '--predicted', foreseen, '--width', '0'])).rejects.toThrow('--width');
  await expect(bad([taken, '--plan', PLAN, '--step', 's4', '--piece', '9', ...sizes])).rejects.toThrow(
    '--piece',
  );
  await expect(bad([taken, '--predicted', foreseen, ...sizes, '--lattice', '20,0'])).rejects.toThrow(
    '--lattice',
  );
  await expect(bad([PLAN, '--predicted', foreseen, ...sizes])).rejects.toThrow('as a photograph');
  await expect(
    bad([taken, '--predicted', foreseen, '--width', '30', '--height', '30', '--taps', '1,2']),
  ).rejects.toThrow('--taps');
});

it('reads ends and faces by a plan; grey, deep and turned photographs; says what to do about HEIC', async () => {
  const evaluation = planOf(PLAN);
  const order = materialOrder(evaluation);
  const [square] = stepResult(evaluation, 's4')!.after!;
  const prediction = predictionOf(square, evaluation.shop, order);
  const fault = { ...STILL, turn: 0.06 };
  const { photo, corners } = photographed({ ...prediction, end: 'B', fault });
  const tapsOf = (four: typeof corners) => four.map(([x, y]) => `${x.toFixed(1)},${y.toFixed(1)}`).join(' ');
  const raw = { width: photo.width, height: photo.height, channels: 4 } as const;
  const picture = () => sharp(Buffer.from(photo.rgba), { raw });
  const [deep, lying, heic] = ['deep.png', 'lying.jpg', 'end.heic'].map((name) => join(dir, name));
  await picture().greyscale().toColourspace('grey16').png().toFile(deep);
  // As a camera held on its side writes it: turned back by who reads it.
  await picture().rotate(-90).withMetadata({ orientation: 6 }).jpeg().toFile(lying);
  const given = [
    '--plan',
    PLAN,
    '--step',
    's4',
    '--width',
    '25',
    '--height',
    '25',
    '--taps',
    tapsOf(corners),
  ];
  for (const file of [deep, lying]) {
    const said = JSON.parse(await run(['read', file, '--face', 'end B', ...given]));
    expect(said, file).toMatchObject({ end: 'B', endTold: true });
    expect(said.layersTurnedDeg).toBeGreaterThan(2);
    expect(said.layersTurnedDeg).toBeLessThan(4);
  }
  expect(JSON.parse(await run(['read', deep, '--face', 'middle', ...given])).correlation).toBeGreaterThan(
    0.8,
  );
  writeFileSync(heic, Buffer.concat([Buffer.from([0, 0, 0, 24]), Buffer.from('ftypheic\0\0\0\0mif1heic')]));
  await expect(run(['read', heic, ...given])).rejects.toThrow('JPEG or PNG');
  await expect(run(['read', deep, '--face', 'left', ...given])).rejects.toThrow('--face must be one of');

  const last = evaluation.goalLane.steps.at(-1)!;
  const [bar] = last.after!;
  const toMm = 150;
  const face = photographed({
    ...faceShown(bar, evaluation.shop, order, 0, toMm),
    end: 'B',
    tippedDeg: [2, 2],
    sizePx: 1200,
  });
  const above = join(dir, 'face.jpg');
  const size = { width: face.photo.width, height: face.photo.height, channels: 4 } as const;
  await sharp(Buffer.from(face.photo.rgba), { raw: size }).jpeg().toFile(above);
  const of = [
    'read',
    above,
    '--plan',
    PLAN,
    '--step',
    last.step.id,
    '--face',
    'top',
    '--taps',
    tapsOf(face.corners),
  ];
  // This face looks alike both ways round.
  expect(JSON.parse(await run([...of, '--to', String(toMm)])).turnedTold).toBe(false);
  const along = JSON.parse(await run([...of, '--to', String(toMm), '--left', 'a']));
  expect(along.correlation).toBeGreaterThan(0.8);
  expect(along.tiles.length).toBeGreaterThan(2);
  for (const off of along.offMm) expect(Math.abs(off)).toBeLessThan(0.5);
  await expect(run([...of, '--from', '200', '--to', '150'])).rejects.toThrow('--to must be more than --from');
});

it('says what is wrong and exits with 2', async () => {
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
    [['face', PLAN, '--out', join(dir, 'x.png'), '--at', '9999'], '--at must be mm from end A'],
    [['face', PLAN, '--out', join(dir, 'x.png'), '--piece', '0'], '--piece must be a whole number from 1 to'],
    [['face', PLAN], '--out'],
    [['face', PLAN, '--out', 'x.png', '--face', 'inside'], '--face must be one of'],
    [['face', PLAN, '--out', 'x.png', '--size', '1e9'], '--size must be'],
    [['face', PLAN, '--out', 'x.png', '--step', 's99'], 'nothing to draw'],
    [['face', PLAN, '--nonsense'], 'nonsense'],
  ] as [string[], string][]) {
    await expect(run(args), args.join(' ')).rejects.toThrow(words);
  }
  const { status, stdout, stderr } = retablo('figures', broken);
  expect({ status, stdout }).toEqual({ status: 2, stdout: '' });
  expect(stderr).toContain('goal.lengthMm');
});

it('finds plans for a wish, as JSON and as files that evaluate', async () => {
  const wish = join(dir, 'wish.json');
  const goal = { lengthMm: 152, widthMm: 28.6, thicknessMm: 4.8 };
  writeFileSync(wish, JSON.stringify({ goal, wish: { alongMm: 9.53, hasPowder: false, hasPress: false } }));
  const { candidates } = JSON.parse(await run(['wish', wish, '--out', join(dir, 'plans'), '--count', '3']));
  expect(candidates).toHaveLength(3);
  const [star] = candidates;
  expect(star).toMatchObject({ recipe: 'star', name: 'Star', toldApart: true, remaining: [] });
  expect(star.element.alongMm / 9.53).toBeCloseTo(1, 2);
  const evaluation = planOf(star.file);
  expect(evaluation.goal.reached).toBe(true);
  expect(evaluation.plan.wish).toMatchObject({ alongMm: 9.53 });
  writeFileSync(wish, JSON.stringify({ goal, wish: { alongMm: -1 } }));
  await expect(run(['wish', wish])).rejects.toThrow(/wish.alongMm/);
  await expect(run(['wish', join(dir, 'none.json')])).rejects.toThrow(/Cannot read/);
});

it('says what is wrong with a picture whose like is to be found', async () => {
  await expect(run(['find'])).rejects.toThrow(/which picture/);
  await expect(run(['find', join(dir, 'none.png')])).rejects.toThrow(/Cannot read/);
  const picture = join(dir, 'face.png');
  writeFileSync(picture, PNG.sync.write(new PNG({ width: 40, height: 40 })));
  await expect(run(['find', picture, '--corners', '1,2 3,4'])).rejects.toThrow(/four points/);
  await expect(run(['find', picture])).rejects.toThrow(/all of one tone/);
  await expect(run(['find', picture, '--among', 'star, moon'])).rejects.toThrow(/no recipe “moon”.*framed/);
});

it('finds plans whose face is like a picture, by several processes', async () => {
  const made = offerOf(
    {
      ...{ recipe: 'star', numbers: { layers: 7, share: 0.4 }, side: 'slanted', around: 'plain' },
      ...{ ...LEAST_PLACES.alike, layout: 'alike', alongMm: 22 },
    },
    {
      name: 'Hidden',
      goal: { lengthMm: 300, widthMm: 50, thicknessMm: 5 },
      shop: shopSchema.parse({}),
      materials: [],
    },
    wishSchema.parse({ alongMm: 22, acrossMm: 22 }),
    new WorkedOutFlows(),
  );
  if (!made.ok) throw new Error(made.reason);
  const { width, height, values } = photographedRepeat(made.evaluation, made.offer, 2, seeded(11));
  const png = new PNG({ width, height });
  for (const [i, v] of values.entries())
    png.data.fill(Math.max(0, Math.min(255, Math.round(255 * v))), 4 * i, 4 * i + 3);
  for (let i = 0; i < values.length; i++) png.data[4 * i + 3] = 255;
  const picture = join(dir, 'star.png');
  writeFileSync(picture, PNG.sync.write(png));
  const { candidates, instead } = JSON.parse(
    await run(['find', picture, '--among', 'star,checker', '--out', join(dir, 'like')]),
  );
  const [first] = candidates;
  expect(first).toMatchObject({ recipe: 'star', numbers: { layers: 7 }, isNear: true });
  expect(first.correlation).toBeGreaterThan(0.85);
  expect(instead).toBeUndefined();
  expect(planOf(first.file).goal.reached).toBe(true);
  expect(candidates.map((c: { recipe: string }) => c.recipe)).not.toContain('framed');
});

it('learns from a list of plans with their records, and runs a plan forward with what was learned', async () => {
  const made = [2, 4, 6].map((seed) =>
    lived(anyPiece(seed), hiddenShop(7), {
      seed,
      from: `2026-0${seed}-02T08:00:00.000Z`,
      slips: 0,
      often: 1,
    }),
  );
  const records = join(dir, 'year.json');
  writeFileSync(records, JSON.stringify(made.map((m) => m.plan)));
  const learned = JSON.parse(await run(['learn', records]));
  expect(learned.pieces).toHaveLength(3);
  const kerf = learned.numbers.find((n: { number: string }) => n.number === 'kerf');
  const truth = hiddenShop(7)('kerf', 'Hidden shop').value;
  expect(Math.abs(kerf.value - truth)).toBeLessThan(3 * kerf.sure);
  expect(kerf).toMatchObject({ title: 'Saw kerf', table: { value: 1 }, count: 3 });
  expect(kerf.evidence[0]).toMatchObject({ piece: 'Piece 2', kind: 'cut' });
  expect(kerf.source).toContain('common practice, no source');

  const plan = join(dir, 'next.json');
  writeFileSync(plan, JSON.stringify(anyPiece(8)));
  const told = async (...more: string[]) =>
    JSON.parse(await run(['forecast', plan, '--count', '60', ...more])) as {
      runs: number;
      finished: { lengthMm: { low: number; high: number } };
      surer: { title: string }[];
    };
  const [table, known] = [await told(), await told('--learned', records)];
  const wide = ({ finished: { lengthMm } }: typeof table) => lengthMm.high - lengthMm.low;
  expect(table.runs).toBe(60);
  expect(wide(known)).toBeLessThan(wide(table));
  await expect(run(['learn'])).rejects.toThrow('Say which records');
  await expect(run(['learn', 'no-such-file.json'])).rejects.toThrow('Cannot read');
  const empty = join(dir, 'empty.json');
  writeFileSync(empty, '[]');
  await expect(run(['learn', empty])).rejects.toThrow('is an empty list');
  // A plan without records teaches nothing, and nothing is proposed of it.
  expect(JSON.parse(await run(['learn', plan]))).toMatchObject({ numbers: [], proposals: [] });
  await expect(run(['forecast', plan, '--count', 'many'])).rejects.toThrow('--count must be a whole number');
});
