import { MemoryRouter } from 'react-router';
// @vitest-environment jsdom
import '../../tests/browser.ts';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { fireEvent, render, screen, within } from '@testing-library/react';
import type { ReactNode } from 'react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { SQUARE_BAR, cutInto, planOf, planOfLanes } from '../../../../core/tests/plans.ts';
import { openProject, usePlanStore } from '../../document/planStore.ts';
import { useEvaluation } from '../../document/useEvaluation.ts';
import { FirstPanel } from './FirstPanel.tsx';
import { Lanes } from './Lanes.tsx';

const open = (plan: ReturnType<typeof planOf>) =>
  openProject({
    id: 'p',
    name: 'Trial',
    state: 'planning',
    revision: 1,
    updatedAt: new Date(0).toISOString(),
    plan,
  });

/** As the Plan screen shows them. */
function Shown() {
  const evaluation = useEvaluation();
  const { laneId, selectedId } = usePlanStore();
  return (
    <Lanes
      evaluation={evaluation}
      laneId={laneId ?? evaluation.goalLane.lane.id}
      selectedId={selectedId ?? null}
    />
  );
}

/** Nobody is asked: no server, and nothing is run forward. */
const Around = ({ children }: { children: ReactNode }) => (
  <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { enabled: false } } })}>
    <MemoryRouter>{children}</MemoryRouter>
  </QueryClientProvider>
);

beforeEach(() => {
  Element.prototype.scrollIntoView = vi.fn();
});

describe('lanes', () => {
  beforeEach(() => open(planOfLanes({ Star: [...SQUARE_BAR, cutInto(4)], Plain: SQUARE_BAR })));

  it('that are not looked at keep the name and the size of every move', () => {
    render(<Shown />, { wrapper: Around });
    for (const lane of ['Star', 'Plain']) {
      const row = within(screen.getByRole('navigation', { name: `Moves of ${lane}` }));
      expect(row.getByText('1. Stack')).toBeTruthy();
      expect(row.getByText('2. Weld')).toBeTruthy();
      expect(row.getAllByText(/^[\d.]+ × [\d.]+ mm$/).length).toBeGreaterThanOrEqual(SQUARE_BAR.length);
    }
    expect(screen.getByText('5. Cut')).toBeTruthy();
  });

  it('say to everyone which move is chosen, how large the bar is then, and what is wrong with it', () => {
    render(<Shown />, { wrapper: Around });
    const weld = within(screen.getByRole('navigation', { name: 'Moves of Star' })).getByRole('button', {
      name: /^2\. Weld, [\d.]+ × [\d.]+ mm/,
    });
    expect(weld.getAttribute('aria-current')).toBeNull();
    fireEvent.click(weld);
    expect(weld.getAttribute('aria-current')).toBe('step');
    expect(usePlanStore.getState().selectedId).toBe('Star2');
  });

  it('take a new name where it is typed; an empty one is put back', () => {
    render(<Shown />, { wrapper: Around });
    const name = screen.getByLabelText<HTMLInputElement>('Name of bar Plain');
    fireEvent.change(name, { target: { value: ' Border ' } });
    fireEvent.blur(name);
    expect(usePlanStore.getState().plan!.lanes[1].name).toBe('Border');
    const again = screen.getByLabelText<HTMLInputElement>('Name of bar Border');
    fireEvent.change(again, { target: { value: '  ' } });
    fireEvent.blur(again);
    expect(again.value).toBe('Border');
  });

  it('are added, and the new one is looked at', () => {
    render(<Shown />, { wrapper: Around });
    fireEvent.click(screen.getByRole('button', { name: 'Another bar' }));
    expect(usePlanStore.getState().plan!.lanes).toHaveLength(3);
  });
});

describe('the first panel', () => {
  it('offers every beginning with a picture, and begins with the steel at hand', () => {
    open(planOf([]));
    const { container } = render(<FirstPanel laneId="bar" />, { wrapper: Around });
    for (const title of ['A wish', 'A stack', 'A canister', 'A bought bar', 'A bar that is there']) {
      const offer = screen.getByRole('button', { name: new RegExp(title) });
      expect(offer.querySelectorAll('svg [fill]').length, title).toBeGreaterThan(0);
    }
    expect(container.querySelectorAll('button svg')).toHaveLength(5);
    fireEvent.change(screen.getByLabelText('Dark steel is thick'), { target: { value: '5' } });
    fireEvent.click(screen.getByRole('button', { name: /^A stack/ }));
    const [step] = usePlanStore.getState().plan!.lanes[0].steps;
    expect(step).toMatchObject({ kind: 'stack', parameters: { pattern: [{ thicknessMm: 5 }, {}] } });
  });

  it('of a second bar offers the pieces of the first, and no wish', () => {
    open(planOfLanes({ Star: [...SQUARE_BAR, cutInto(4)], Block: [] }));
    render(<FirstPanel laneId="Block" />, { wrapper: Around });
    expect(screen.queryByText('A wish')).toBeNull();
    fireEvent.click(screen.getByRole('button', { name: /Pieces of other bars/ }));
    expect(usePlanStore.getState().plan!.lanes[1].steps[0]).toMatchObject({ kind: 'assemble' });
  });
});
