import { readFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import { z } from 'zod';
import { bladeSchema } from '../blade/blade.ts';
import { shopSchema } from '../shop/shop.ts';
import { MOVES, MOVE_KINDS } from '../moves/index.ts';
import { planSchema } from './plan.ts';

const doc = readFileSync(new URL('../../docs/plan-format.md', import.meta.url), 'utf8');

/** Every property name anywhere in a schema. */
function names(schema: unknown): string[] {
  if (typeof schema !== 'object' || schema === null) return [];
  const here = schema as Record<string, unknown>;
  const own = here.properties && here.type === 'object' ? Object.keys(here.properties) : [];
  return [...own, ...Object.values(here).flatMap(names)];
}

it.each(MOVE_KINDS)('the file format’s page names “%s” and all its parameters in its row', (kind) => {
  const row = doc.split('\n').find((line) => line.startsWith(`| \`${kind}\` |`));
  expect(row).toBeDefined();
  const wanted = names(z.toJSONSchema(MOVES[kind].parameters as z.ZodType, { io: 'input' }));
  expect(wanted.length).toBeGreaterThan(0);
  for (const name of wanted) expect(row).toContain(`\`${name}\``);
});

it('the page names every field of the plan, the shop and the blade', () => {
  const plan = Object.keys(planSchema.shape);
  for (const name of [...plan, ...Object.keys(shopSchema.shape), ...Object.keys(bladeSchema.shape)])
    expect(doc).toMatch(new RegExp(`["\`]${name}["\`]`));
});
