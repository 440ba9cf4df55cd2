// @vitest-environment jsdom
import '../tests/browser.ts';
import { QueryClient, QueryClientProvider, useQuery } from '@tanstack/react-query';
import { configure, fireEvent, render, screen, waitFor } from '@testing-library/react';
import { expect, it } from 'vitest';
import { useServerChange } from './useServerChange.ts';

// As long as a busy machine may take.
configure({ asyncUtilTimeout: 60_000 });

let bars = 0;

function Rack({ work }: { work(): Promise<unknown> }) {
  const { data } = useQuery({ queryKey: ['rack'], queryFn: () => Promise.resolve(bars) });
  const { mutate, error } = useServerChange(['rack']);
  return (
    <>
      <button onClick={() => mutate(work)}>put</button>
      <p>{data} bars</p>
      {error && <p role="alert">{error.message}</p>}
    </>
  );
}

const shown = (work: () => Promise<unknown>) =>
  render(
    <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
      <Rack work={work} />
    </QueryClientProvider>,
  );

it('what the server keeps is asked for anew after it was changed', async () => {
  bars = 2;
  shown(() => Promise.resolve((bars = 3)));
  await screen.findByText('2 bars');
  fireEvent.click(screen.getByText('put'));
  await screen.findByText('3 bars');
});

it('what went wrong is said, and what the server has now is shown all the same; the next try takes the word back', async () => {
  bars = 2;
  let fails = true;
  shown(() => {
    bars = 1;
    return fails ? Promise.reject(new Error('It was put back elsewhere.')) : Promise.resolve();
  });
  await screen.findByText('2 bars');
  fireEvent.click(screen.getByText('put'));
  expect((await screen.findByRole('alert')).textContent).toBe('It was put back elsewhere.');
  await screen.findByText('1 bars');
  fails = false;
  fireEvent.click(screen.getByText('put'));
  await waitFor(() => expect(screen.queryByRole('alert')).toBeNull());
});
