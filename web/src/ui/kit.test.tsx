// @vitest-environment jsdom
import '../tests/browser.ts';
import { fireEvent, render, screen, within } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import type { Finding } from '../../../core/moves/index.ts';
import { Another } from './Another.tsx';
import { FiguresTable } from './FiguresTable.tsx';
import { FindingCard } from './FindingCard.tsx';
import { Group } from './Group.tsx';

describe('the kit', () => {
  it('a group of fields says what it is to those who hear it, and is taken out by name', () => {
    const act = vi.fn();
    render(
      <Group title="Leg 1" note="08:00 – 09:06" out={{ label: 'Take leg 1 out', act }}>
        <input aria-label="To" />
      </Group>,
    );
    const group = screen.getByRole('group', { name: 'Leg 1' });
    expect(group.textContent).toContain('Leg 1: 08:00 – 09:06');
    fireEvent.click(within(group).getByRole('button', { name: 'Take leg 1 out' }));
    expect(act).toHaveBeenCalledOnce();
  });

  it('a group that has to stay offers nothing to press', () => {
    render(<Group title="Leg 1">nothing</Group>);
    expect(screen.queryByRole('button')).toBeNull();
  });

  it('a list that is full says how many it holds', () => {
    const act = vi.fn();
    const { rerender } = render(
      <Another has={2} most={3} act={act}>
        Another leg
      </Another>,
    );
    fireEvent.click(screen.getByRole('button', { name: 'Another leg' }));
    expect(act).toHaveBeenCalledOnce();
    rerender(
      <Another has={3} most={3} act={act}>
        Another leg
      </Another>,
    );
    expect(screen.getByRole('button').hasAttribute('disabled')).toBe(true);
    expect(screen.getByText('at most 3')).toBeTruthy();
  });

  it('a table has every head, those in brackets for the ear alone', () => {
    render(
      <FiguresTable heads={['Steel', 'Weight', '(Take off)']} right={['Weight']}>
        <tr>
          <td>1084</td>
          <td>2 kg</td>
          <td />
        </tr>
      </FiguresTable>,
    );
    const heads = screen.getAllByRole('columnheader');
    expect(heads.map((h) => h.getAttribute('aria-label') ?? h.textContent)).toEqual([
      'Steel',
      'Weight',
      'Take off',
    ]);
    expect(heads[2].textContent).toBe('');
  });

  it.each([
    ['error', 'alert', 'Cannot be done.'],
    ['warning', 'note', 'Mind.'],
    ['note', 'note', 'Note.'],
    ['caution', 'note', 'Take care.'],
    ['waiting', 'status', 'Wait.'],
  ] as const)('a finding that is %s is told by a word, never by colour alone', (severity, role, word) => {
    const finding: Finding = { code: 'shape', severity, text: 'The bar leans.' };
    render(<FindingCard finding={finding} />);
    expect(screen.getByRole(role).textContent).toContain(`${word} The bar leans.`);
  });

  it('a finding is mended by one press, where it can be', () => {
    const remedy = { label: 'Square it up', change: {} } as unknown as NonNullable<Finding['remedy']>;
    const press = vi.fn();
    render(
      <FindingCard
        finding={{ code: 'shape', severity: 'error', text: 'It leans.', remedy }}
        onRemedy={press}
      />,
    );
    fireEvent.click(screen.getByRole('button', { name: 'Square it up' }));
    expect(press).toHaveBeenCalledWith(remedy);
  });
});
