import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import { canSchema } from '../canister/can.ts';
import { programSchema } from '../kiln/program.ts';
import { materialSchema } from '../materials/material.ts';
import { MOVES } from '../moves/index.ts';
import { makeShop } from '../shop/shop.ts';
import { mostIn } from './index.ts';

const shop = makeShop();

/** Everything that ends with a list, and one thing to put in it again and again. */
const LISTS: [list: string, schema: z.ZodType, holder: object, one: unknown][] = [
  ['pattern', MOVES.stack.parameters, MOVES.stack.begin([], shop), { material: '1084', thicknessMm: 1 }],
  ['passes', MOVES.press.parameters, { friction: 0.3, held: true, finish: 'as pressed', heats: 1 }, { turnDeg: 90, toMm: 30 }], // prettier-ignore
  ['segments', programSchema, { id: 'p', name: 'P', material: '1084', startMin: 0 }, { rateKPerH: null, targetC: 700, holdMin: 5 }], // prettier-ignore
  ['inserts', canSchema, MOVES.can.begin([], shop), { shape: 'rod', material: '15n20', sizeMm: 3, count: 1, lay: 'rows' }], // prettier-ignore
  ['packages', materialSchema, shop.materials[0], { widthMm: 40, thicknessMm: 6, lengthMm: 1000 }],
];

describe('how many a list may hold', () => {
  it.each(LISTS)('%s: so many are taken, one more is refused', (list, schema, holder, one) => {
    const most = mostIn(schema, list);
    const withSo = (many: number) => schema.safeParse({ ...holder, [list]: Array(many).fill(one) });
    const problems = withSo(most).error?.issues.map((i) => [...i.path, i.message].join(' '));
    expect(problems).toBeUndefined();
    expect(withSo(most + 1).error?.issues.map((i) => i.code)).toEqual(['too_big']);
  });

  it('a list without a limit, and no list at all, are mistakes', () => {
    const schema = z.object({ some: z.array(z.number()), one: z.number() });
    expect(() => mostIn(schema, 'some')).toThrow('some');
    expect(() => mostIn(schema, 'one')).toThrow('one');
  });
});
