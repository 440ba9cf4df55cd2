import { readFileSync } from 'node:fs';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { MATERIALS } from '../core/materials/table.ts';
import { cutFromSections, cutList, evaluate, readPlan } from '../core/plan/index.ts';
import { shopSchema } from '../core/shop/shop.ts';
import { demoFiles } from './demo/index.ts';
import { type Serving, serve } from './serve.ts';
import { callerOf, freshDatabase, freshLog } from './tests/calls.ts';

let serving: Serving;
const call = callerOf(() => serving);

interface Bar {
  id: string;
  material: string;
  widthMm: number;
  thicknessMm: number;
  lengthMm: number;
  count: number;
}

const rack = async (): Promise<Bar[]> => (await call('GET', '/shop/rack')).body.bars;
const onRack = async () =>
  (await rack()).map((b) => [b.material, b.widthMm, b.thicknessMm, b.lengthMm, b.count].join()).sort();
const demo = (part: string) =>
  JSON.parse(
    readFileSync(
      demoFiles().find((f) => f.includes(part))!,
      'utf8',
    ),
  );

beforeAll(async () => {
  const databaseUrl = await freshDatabase('shop_test');
  serving = await serve({
    databaseUrl,
    port: 0,
    logFile: freshLog(),
    pictures: false,
  });
});
afterAll(() => serving.stop());

describe('set-ups', () => {
  it('are kept under their names, changed in place, and removed', async () => {
    const settings = shopSchema.parse({ name: 'Barn', kerfMm: 2.5, lengths: { unit: 'in', division: 64 } });
    const first = await call('PUT', '/shop/setups', settings);
    expect(first.body).toMatchObject({ name: 'Barn', settings });
    await call('PUT', '/shop/setups', shopSchema.parse({ name: 'Yard' }));
    const again = await call('PUT', '/shop/setups', { ...settings, kerfMm: 0.1 + 0.2 });
    expect(again.body.id).toBe(first.body.id);
    const { setups } = (await call('GET', '/shop/setups')).body;
    expect(setups.map((s: { name: string }) => s.name)).toEqual(['Barn', 'Yard']);
    expect(setups[0].settings).toEqual({ ...settings, kerfMm: 0.1 + 0.2 });
    expect((await call('DELETE', `/shop/setups/${first.body.id}`)).status).toBe(204);
    expect((await call('DELETE', `/shop/setups/${first.body.id}`)).status).toBe(404);
  });

  it('are renamed, never over another one', async () => {
    const [loft, cellar] = await Promise.all(
      ['Loft', 'Cellar'].map(
        async (name) => (await call('PUT', '/shop/setups', shopSchema.parse({ name }))).body,
      ),
    );
    const renamed = shopSchema.parse({ name: 'Attic', kerfMm: 2 });
    const { body } = await call('PUT', `/shop/setups/${loft.id}`, renamed);
    expect(body).toEqual({ id: loft.id, name: 'Attic', settings: renamed });
    const taken = await call('PUT', `/shop/setups/${loft.id}`, { ...renamed, name: 'Cellar', kerfMm: 3 });
    expect(taken.status).toBe(409);
    expect(taken.body.error.message).toContain('another set-up named “Cellar”');
    const { setups } = (await call('GET', '/shop/setups')).body;
    expect(setups).toContainEqual({ id: loft.id, name: 'Attic', settings: renamed });
    expect(setups).toContainEqual(cellar);
    await Promise.all([loft, cellar].map(({ id }) => call('DELETE', `/shop/setups/${id}`)));
    expect((await call('PUT', `/shop/setups/${loft.id}`, renamed)).status).toBe(404);
  });

  it.each([
    [{ name: '' }, 'name'],
    [{ kerfMm: -1 }, 'Kerf cannot be less than 0 mm'],
    [{ press: { ratingKN: 1 } }, 'Force must be at least 10 kN'],
    [{ kiln: { maxC: 'hot' } }, 'Hottest must be a number'],
  ])('with a wrong number are refused by name: %j', async (wrong, said) => {
    const { status, body } = await call('PUT', '/shop/setups', { ...shopSchema.parse({}), ...wrong });
    expect(status).toBe(400);
    expect(body.error.message).toContain(said);
  });
});

describe('materials', () => {
  const own = { ...MATERIALS[0], id: 'river', name: 'River iron', tone: 0.7, source: 'found' };

  it('are added, changed and removed', async () => {
    expect((await call('PUT', '/shop/materials/river', own)).body).toEqual(own);
    await call('PUT', '/shop/materials/river', { ...own, tone: 0.6 });
    expect((await call('GET', '/shop/materials')).body.materials).toEqual([{ ...own, tone: 0.6 }]);
    expect((await call('DELETE', '/shop/materials/river')).status).toBe(204);
    expect((await call('GET', '/shop/materials')).body.materials).toEqual([]);
  });

  it('of a plan or on the rack stay, and it is said where they are used', async () => {
    await call('PUT', '/shop/materials/river', own);
    const plan = demo('tide-ladder');
    plan.materials = [own];
    plan.lanes[0].steps[0].parameters.pattern[0].material = 'river';
    const piece = (await call('POST', '/projects', { plan })).body;
    const refused = await call('DELETE', '/shop/materials/river');
    expect(refused.status).toBe(409);
    expect(refused.body.error.message).toContain('“Tide Ladder”');
    await call('DELETE', `/projects/${piece.id}`);
    const bar = { material: 'river', widthMm: 40, thicknessMm: 6, lengthMm: 500, count: 1 };
    const { id } = (await call('POST', '/shop/rack', bar)).body;
    expect((await call('DELETE', '/shop/materials/river')).body.error.message).toContain('the rack');
    await call('DELETE', `/shop/rack/${id}`);
    expect((await call('DELETE', '/shop/materials/river')).status).toBe(204);
  });

  it('that came with the table stay; a changed one goes back to what it was', async () => {
    expect((await call('DELETE', '/shop/materials/1084')).status).toBe(409);
    const { id } = MATERIALS[0];
    await call('PUT', `/shop/materials/${id}`, { ...MATERIALS[0], tone: 0.9 });
    expect((await call('DELETE', `/shop/materials/${id}`)).status).toBe(204);
    expect((await call('DELETE', '/shop/materials/nothing')).status).toBe(404);
  });

  it('under a wrong address or with a wrong number are refused', async () => {
    expect((await call('PUT', '/shop/materials/lake', own)).status).toBe(400);
    expect((await call('PUT', '/shop/materials/river', { ...own, tone: 2 })).body.error.message).toContain(
      'tone',
    );
  });
});

describe('the rack', () => {
  beforeEach(async () => {
    for (const bar of await rack()) await call('DELETE', `/shop/rack/${bar.id}`);
  });

  it('lays bars of one size together, and is changed and cleared', async () => {
    const bar = { material: '1084', widthMm: 40, thicknessMm: 6, lengthMm: 1000, count: 2 };
    const { id } = (await call('POST', '/shop/rack', bar)).body;
    expect((await call('POST', '/shop/rack', { ...bar, count: 1 })).body).toMatchObject({ id, count: 3 });
    expect((await call('PUT', `/shop/rack/${id}`, { ...bar, count: 3, lengthMm: 1000 })).status).toBe(200);
    expect((await call('POST', '/shop/rack', { ...bar, count: 0 })).body.error.message).toContain(
      'at least 1',
    );
    for (const [wrong, words] of [
      [{ count: 998 }, 'count: with those that lie there it would be 1001. Bars may be at most 1000'],
      [{ material: 'none' }, 'material: the shop has no material “none”'],
      [{ widthMm: '40' }, 'widthMm: Width must be a number'],
      [{ colour: 'red' }, '“colour” is not known here; leave it out'],
    ] as [object, string][]) {
      const { status, body } = await call('POST', '/shop/rack', { ...bar, lengthMm: 1000, ...wrong });
      expect({ status, message: body.error.message }).toEqual({
        status: 400,
        message: expect.stringContaining(words),
      });
    }
    expect((await call('PUT', `/shop/rack/${id}`, { ...bar, material: 'none' })).status).toBe(400);
    expect((await call('DELETE', `/shop/rack/${id}`)).status).toBe(204);
    expect((await call('PUT', `/shop/rack/${id}`, bar)).status).toBe(404);
  });

  /** A rack from which everything that a piece wants can be had. */
  async function stocked(plan: unknown): Promise<void> {
    const read = readPlan(plan);
    if (!read.ok) throw new Error('the demo cannot be read');
    const evaluation = evaluate(read.plan);
    for (const s of cutFromSections(cutList(evaluation), [], evaluation.shop))
      await call('POST', '/shop/rack', {
        material: s.material,
        widthMm: s.widthMm,
        thicknessMm: s.thicknessMm,
        lengthMm: 1000,
        count: 9,
      });
  }

  const metres = async () => (await rack()).reduce((sum, b) => sum + b.count * b.lengthMm, 0);

  it('gives what a piece wants once, keeps the offcuts worth it, and takes all back', async () => {
    const plan = demo('tide-ladder');
    const { id } = (await call('POST', '/projects', { plan })).body;
    await stocked(plan);
    const [before, mm] = [await onRack(), await metres()];
    const { taken } = (await call('POST', `/projects/${id}/taken`)).body;
    expect(taken.length).toBeGreaterThan(0);
    const used = taken.reduce(
      (sum: number, t: { lengthMm: number; restMm: number }) => sum + t.lengthMm - t.restMm,
      0,
    );
    expect(await metres()).toBeCloseTo(mm - used, 6);
    expect((await call('GET', `/projects/${id}/taken`)).body.taken).toEqual(taken);
    expect((await call('POST', `/projects/${id}/taken`)).status).toBe(409);
    expect((await call('DELETE', `/projects/${id}/taken`)).status).toBe(204);
    expect(await onRack()).toEqual(before);
    expect((await call('DELETE', `/projects/${id}/taken`)).status).toBe(409);
    await call('DELETE', `/projects/${id}`);
  });

  it('is deducted when a piece is marked done, and only once', async () => {
    const plan = demo('tide-ladder');
    const { id } = (await call('POST', '/projects', { plan })).body;
    await stocked(plan);
    const done = await call('PATCH', `/projects/${id}`, { state: 'done' });
    expect(done.body.taken.length).toBeGreaterThan(0);
    const after = await onRack();
    expect((await call('PATCH', `/projects/${id}`, { state: 'done' })).body.taken).toBeNull();
    expect(await onRack()).toEqual(after);
    await call('DELETE', `/projects/${id}`);
  });

  it('two pieces at one time never take the same bar', async () => {
    const plan = demo('tide-ladder');
    const ids = await Promise.all(
      [1, 2, 3].map(async () => (await call('POST', '/projects', { plan })).body.id as string),
    );
    await stocked(plan);
    const mm = await metres();
    const all = await Promise.all(ids.map((id) => call('POST', `/projects/${id}/taken`)));
    const used = all
      .flatMap((a) => a.body.taken)
      .reduce((sum: number, t: { lengthMm: number; restMm: number }) => sum + t.lengthMm - t.restMm, 0);
    expect(await metres()).toBeCloseTo(mm - used, 6);
    for (const id of ids) await call('DELETE', `/projects/${id}`);
  });

  it('lacking a bar that was put back elsewhere, says so and changes nothing', async () => {
    const plan = demo('tide-ladder');
    const { id } = (await call('POST', '/projects', { plan })).body;
    await stocked(plan);
    const { taken } = (await call('POST', `/projects/${id}/taken`)).body;
    const kept = taken.find((t: { restMm: number }) => t.restMm > 0);
    const row = (await rack()).find(
      (b) => Math.abs(b.lengthMm - kept.restMm) < 0.01 && b.thicknessMm === kept.thicknessMm,
    )!;
    await call('DELETE', `/shop/rack/${row.id}`);
    const before = await onRack();
    const refused = await call('DELETE', `/projects/${id}/taken`);
    expect(refused.status).toBe(409);
    expect(refused.body.error.message).toContain('used elsewhere');
    expect(await onRack()).toEqual(before);
    await call('DELETE', `/projects/${id}`);
  });
});

describe('the sheet for the wall', () => {
  it('comes on the paper asked for, under the piece’s name, and says what is wrong otherwise', async () => {
    const { id } = (await call('POST', '/projects', { plan: demo('tide-ladder') })).body;
    const get = (query: string) =>
      fetch(`http://127.0.0.1:${serving.port}/api/projects/${id}/wall.pdf${query}`);
    const a4 = await get('');
    expect(a4.status).toBe(200);
    expect(a4.headers.get('content-disposition')).toContain('tide-ladder.pdf');
    expect(
      Buffer.from(await a4.arrayBuffer())
        .subarray(0, 5)
        .toString(),
    ).toBe('%PDF-');
    const wrong = await get('?paper=A3');
    expect(wrong.status).toBe(400);
    expect(((await wrong.json()) as { error: { message: string } }).error.message).toContain('A4, LETTER');
    await call('DELETE', `/projects/${id}`);
    expect((await get('')).status).toBe(404);
  });
});
