// @vitest-environment jsdom
import { Observer } from '../tests/browser.ts';
import { act, render, screen } from '@testing-library/react';
import { expect, it } from 'vitest';
import { useSize } from './useSize.ts';

/** Shows its sheet only when told so, as a bench does while something cannot be drawn. */
function Sheet({ shown }: { shown: boolean }) {
  const [ref, { width, height }] = useSize();
  return (
    <>
      <output>{`${width} × ${height}`}</output>
      {shown && <div ref={ref} data-testid="sheet" />}
    </>
  );
}

const said = () => screen.getByRole('status').textContent;

it('an element that comes later than its component is watched from when it comes', () => {
  const { rerender } = render(<Sheet shown={false} />);
  expect(Observer.all).toHaveLength(0);
  rerender(<Sheet shown />);
  const [observer] = Observer.all;
  expect(observer.seen.has(screen.getByTestId('sheet'))).toBe(true);
  act(() => observer.size(320, 200));
  expect(said()).toBe('320 × 200');
  act(() => observer.size(320.4, 200.3));
  expect(said()).toBe('320 × 200');
});

it('gone and back again, it is watched anew', () => {
  const { rerender } = render(<Sheet shown />);
  act(() => Observer.all[0].size(100, 50));
  rerender(<Sheet shown={false} />);
  expect(Observer.all[0].seen.size).toBe(0);
  expect(said()).toBe('0 × 0');
  rerender(<Sheet shown />);
  act(() => Observer.all[1].size(60, 40));
  expect(said()).toBe('60 × 40');
});
