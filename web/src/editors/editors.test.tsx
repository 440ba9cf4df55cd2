// @vitest-environment jsdom
import '../tests/browser.ts';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { render, screen } from '@testing-library/react';
import { MemoryRouter } from 'react-router';
import userEvent from '@testing-library/user-event';
import { createElement, useState } from 'react';
import { beforeEach, describe, expect, it } from 'vitest';
import { MOVES, MOVE_KINDS, type MoveKind, moveOf } from '../../../core/moves/index.ts';
import type { SeamsAsked } from '../../../core/moves/forge/seams.ts';
import { evaluate, withSome } from '../../../core/plan/index.ts';
import { READY, planOf } from '../../../core/tests/plans.ts';
import { entriesOf } from '../../../core/units/index.ts';
import { openProject } from '../document/planStore.ts';
import { InShop } from './form/InShop.tsx';
import { editorOf } from './index.ts';

const known = new Map<MoveKind, ReturnType<typeof evaluate>>();

/** A plan that ends with a move, as it is first proposed. */
function planWith(kind: MoveKind): ReturnType<typeof evaluate> {
  const before = READY[kind].length > 0 ? evaluate(planOf(READY[kind])).lanes[0].ends : [];
  const first = moveOf(kind).begin(before, evaluate(planOf(READY.weld)).shop);
  const evaluation = known.get(kind) ?? evaluate(planOf([...READY[kind], [kind, first]]));
  known.set(kind, evaluation);
  return evaluation;
}

/** The editor of a move's last step, with numbers of its own. */
function Editing({ kind, seen }: { kind: MoveKind; seen?: (parameters: object) => void }) {
  const evaluation = planWith(kind);
  const result = evaluation.lanes[0].steps.at(-1)!;
  const [parameters, setParameters] = useState<object>(result.step.parameters);
  return (
    <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { enabled: false } } })}>
      <MemoryRouter>
        <InShop shop={evaluation.shop}>
          {createElement(editorOf(kind), {
            parameters,
            before: result.before,
            findings: [],
            problem: () => undefined,
            change: (some) => {
              const next = withSome(parameters, typeof some === 'function' ? some(parameters) : some);
              setParameters(next);
              seen?.(next);
            },
          })}
        </InShop>
      </MemoryRouter>
    </QueryClientProvider>
  );
}

beforeEach(() =>
  openProject({
    id: 'p',
    name: 'Trial',
    state: 'planning',
    revision: 1,
    updatedAt: new Date(0).toISOString(),
    plan: planWith('crop').plan,
  }),
);

/** Moves whose form is made from the schema alone. */
const PLAIN = MOVE_KINDS.filter(
  (kind) =>
    !['stack', 'can', 'draw', 'press', 'assemble', 'choose', 'laminate', 'tile', 'treat'].includes(kind),
);

describe('editors', () => {
  it.each(PLAIN)('of “%s” has every entry of its schema, by its label', (kind) => {
    render(<Editing kind={kind} />);
    const entries = entriesOf(MOVES[kind].parameters);
    expect(entries.length).toBeGreaterThan(0);
    for (const [key, { label }] of entries) {
      // Of slanting grooves, of a bow-tie, of edges welded shut.
      if (['slantDeg', 'waistMm', 'beadMm'].includes(key)) continue;
      expect(screen.getAllByLabelText(label).length, `${kind}: ${label}`).toBeGreaterThan(0);
    }
  });

  it.each(['stack', 'can', 'draw', 'press', 'assemble', 'laminate', 'tile'] as const)(
    'of “%s” opens on the first numbers',
    (kind) => {
      const { container } = render(<Editing kind={kind} />);
      expect(container.querySelectorAll('input').length).toBeGreaterThan(1);
    },
  );

  it('hands on what was typed under the schema’s own key, and what the schema admits', async () => {
    const seen: object[] = [];
    render(<Editing kind="crop" seen={(p) => seen.push(p)} />);
    const user = userEvent.setup();
    await user.click(screen.getByLabelText('Off end A'));
    await user.keyboard('12.5');
    expect(seen.at(-1)).toMatchObject({ endAMm: 12.5 });
    for (const p of seen) expect(MOVES.crop.parameters.safeParse(p).success).toBe(true);
  });

  it('pieces are pressed in and out, the last one stays', async () => {
    const seen: { pieces: number[] }[] = [];
    render(<Editing kind="choose" seen={(p) => seen.push(p as { pieces: number[] })} />);
    const user = userEvent.setup();
    await user.click(screen.getByRole('button', { name: 'The others instead' }));
    expect(seen.at(-1)?.pieces).toEqual([3, 4]);
    await user.click(screen.getByRole('button', { name: 'Piece 3' }));
    await user.click(screen.getByRole('button', { name: 'Piece 4' }));
    expect(seen.at(-1)?.pieces).toEqual([4]);
    await user.click(screen.getByRole('button', { name: 'All of them' }));
    expect(seen.at(-1)?.pieces).toEqual([1, 2, 3, 4]);
  });

  it('a slant is asked for only where grooves slant', async () => {
    render(<Editing kind="grooves" />);
    expect(screen.queryByLabelText('Slant')).toBeNull();
    const user = userEvent.setup();
    await user.click(screen.getByLabelText('Pattern'));
    await user.click(screen.getByRole('option', { name: 'Slanting grooves' }));
    expect(screen.getByLabelText('Slant')).toBeTruthy();
  });

  it('what may be left out shows the shop’s number', () => {
    render(<Editing kind="cut" />);
    const { kerfMm } = planWith('cut').shop;
    expect(screen.getByLabelText<HTMLInputElement>('Saw kerf').value).toBe(`${kerfMm} mm`);
  });

  it('a square bar becomes a flat one and back, and nothing of the other shape stays behind', async () => {
    const seen: object[] = [];
    render(<Editing kind="draw" seen={(p) => seen.push(p)} />);
    const user = userEvent.setup();
    for (const [shape, key] of [
      ['Flat bar', 'widthMm'],
      ['Square bar', 'sideMm'],
    ]) {
      await user.click(screen.getByLabelText('Draw to a'));
      await user.click(screen.getByRole('option', { name: shape }));
      expect(seen.at(-1)).toHaveProperty(key);
      expect(MOVES.draw.parameters.safeParse(seen.at(-1)).success).toBe(true);
    }
  });

  it('what is asked about seams is proposed, changed press by press, and left out again', async () => {
    const seen: { seams?: SeamsAsked }[] = [];
    render(<Editing kind="weld" seen={(p) => seen.push(p)} />);
    const user = userEvent.setup();
    await user.click(screen.getByRole('button', { name: 'Will the seams shut?' }));
    expect(seen.at(-1)?.seams?.presses).toHaveLength(4);
    await user.click(screen.getByRole('button', { name: 'Remove press 4' }));
    await user.click(screen.getByRole('button', { name: 'Another press' }));
    await user.click(screen.getByLabelText('Press 1'));
    await user.click(screen.getByRole('option', { name: 'turned' }));
    expect(seen.at(-1)?.seams?.presses.map((q) => q.turned)).toEqual([true, true, true, true]);
    // A stack is bought: none of its strips is a piece that was ground too large.
    expect(screen.queryByLabelText('One piece is larger')).toBeNull();
    for (const p of seen) expect(MOVES.weld.parameters.safeParse(p).success).toBe(true);
    await user.click(screen.getByRole('button', { name: 'Ask nothing about the seams' }));
    expect(seen.at(-1)?.seams).toBeUndefined();
  });
});
