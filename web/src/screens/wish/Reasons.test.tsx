// @vitest-environment jsdom
import '../../tests/browser.ts';
import { render, screen } from '@testing-library/react';
import { beforeEach, describe, expect, it } from 'vitest';
import { type Found, useWishes } from '../../document/wishes.ts';
import type { Spec } from '../../../../core/recipes/index.ts';
import { Reasons } from './Reasons.tsx';

const TWIST = 'One element comes to 56.45 mm along the blade, not 22 mm';
const spec = (recipe: string): Spec => ({
  recipe,
  numbers: {},
  side: 'slanted',
  columns: 2,
  rows: 1,
  layout: 'alike',
  around: 'plain',
  alongMm: 22,
});
const refused = (recipe: string, reason: string) => ({ ok: false as const, spec: spec(recipe), reason });
const found = (recipe: string) => ({ offer: { spec: spec(recipe) } }) as Found;

describe('what no plan came of', () => {
  beforeEach(() =>
    useWishes.setState({
      refused: [
        refused('twist', 'Too long'),
        refused('twist', TWIST),
        refused('twist', TWIST),
        refused('star', 'Not this one'),
      ],
    }),
  );

  it('is said of every recipe that no plan was found of, in the words most often met', () => {
    render(<Reasons found={[found('star'), found('layers')]} recipe={undefined} />);
    expect(screen.getByRole('heading')).toHaveProperty('textContent', 'No plan came of these');
    expect(screen.getAllByRole('listitem').map((li) => li.textContent)).toEqual([`Twist: ${TWIST}`]);
  });

  it('is said of one recipe where that alone is looked at, and nothing where all was found', () => {
    const { container, rerender } = render(<Reasons found={[found('layers')]} recipe="twist" />);
    expect(screen.getAllByRole('listitem')).toHaveLength(1);
    rerender(<Reasons found={[found('twist'), found('star')]} recipe={undefined} />);
    expect(container.textContent).toBe('');
  });

  it('says it where nothing was found, and what to allow where nothing was even tried', () => {
    const { rerender } = render(<Reasons found={[]} recipe={undefined} />);
    expect(screen.getByRole('heading').textContent).toBe('Nothing can be made so');
    expect(screen.getAllByRole('listitem')).toHaveLength(2);
    useWishes.setState({ refused: [] });
    rerender(<Reasons found={[]} recipe={undefined} />);
    expect(screen.getByText(/allow another way to the side/)).toBeTruthy();
  });
});
