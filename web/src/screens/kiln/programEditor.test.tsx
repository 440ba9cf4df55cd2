// @vitest-environment jsdom
import '../../tests/browser.ts';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { fireEvent, render, screen, within } from '@testing-library/react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { KilnProgram } from '../../../../core/kiln/program.ts';
import { planOf } from '../../../../core/tests/plans.ts';
import { openProject } from '../../document/planStore.ts';
import { ProgramEditor } from './ProgramEditor.tsx';

const PROGRAM: KilnProgram = {
  id: 'k1',
  name: 'Harden',
  material: '1084',
  startMin: 8 * 60,
  segments: [
    { targetC: 320, rateKPerH: 300, holdMin: 10 },
    { targetC: 420, rateKPerH: 200, holdMin: 30, then: 'quench in fast oil' },
  ],
};

const shown = (program: KilnProgram, change = vi.fn()) => {
  render(
    <QueryClientProvider client={new QueryClient()}>
      <ProgramEditor program={program} change={change} ofMove={false} remove={vi.fn()} />
    </QueryClientProvider>,
  );
  return change;
};

beforeEach(() => {
  vi.stubGlobal('fetch', () => Promise.resolve(new Response('{"materials":[]}', { status: 200 })));
  openProject({
    id: 'p',
    name: 'Trial',
    state: 'planning',
    revision: 1,
    updatedAt: new Date(0).toISOString(),
    plan: planOf([]),
  });
});

describe('a kiln program', () => {
  it('names every leg by when it begins and ends, by the clock', () => {
    shown(PROGRAM);
    // From 20 °C at 300 K/h an hour, held ten minutes; then 100 K at 200 K/h half an hour, held another.
    expect(screen.getByRole('group', { name: 'Leg 1' }).textContent).toContain('Leg 1: 08:00 – 09:10');
    expect(screen.getByRole('group', { name: 'Leg 2' }).textContent).toContain('Leg 2: 09:10 – 10:10');
    expect(screen.getByTitle('Held from 09:00')).toBeTruthy();
  });

  it('hands on a leg’s number under its own key, and takes a leg out', () => {
    const change = shown(PROGRAM);
    const second = within(screen.getByRole('group', { name: 'Leg 2' }));
    fireEvent.change(second.getByLabelText('Leg 2 held'), { target: { value: '45' } });
    expect(change).toHaveBeenCalledWith({
      segments: [PROGRAM.segments[0], { ...PROGRAM.segments[1], holdMin: 45 }],
    });
    fireEvent.click(second.getByRole('button', { name: 'Take leg 2 out' }));
    expect(change).toHaveBeenLastCalledWith({ segments: [PROGRAM.segments[0]] });
  });

  it('that has one leg keeps it', () => {
    shown({ ...PROGRAM, segments: [PROGRAM.segments[0]] });
    expect(screen.queryByRole('button', { name: 'Take leg 1 out' })).toBeNull();
  });
});
