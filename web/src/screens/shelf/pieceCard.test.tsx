// @vitest-environment jsdom
import '../../tests/browser.ts';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { configure, fireEvent, render, screen, waitFor } from '@testing-library/react';
import { SnackbarProvider } from 'notistack';
import { MemoryRouter } from 'react-router';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { ProjectHead } from '../../../../core/plan/index.ts';
import { Confirm } from '../../ui/Confirm.tsx';
import { PieceCard } from './PieceCard.tsx';

// As long as a busy machine may take.
configure({ asyncUtilTimeout: 60_000 });

const HEAD: ProjectHead = {
  id: 'a1',
  name: 'Tide Ladder',
  state: 'planning',
  removedAt: null,
  revision: 7,
  log: 0,
  updatedAt: new Date(0).toISOString(),
  goal: { lengthMm: 280, widthMm: 36, thicknessMm: 4.5 },
  lengths: { unit: 'mm', division: 0.5 },
  preview: { revision: 7, log: 0, verdict: 'reached', hasPicture: true },
};

const card = (some: Partial<ProjectHead> = {}) =>
  render(
    <QueryClientProvider client={new QueryClient()}>
      <SnackbarProvider>
        <Confirm>
          <MemoryRouter>
            <PieceCard piece={{ ...HEAD, ...some }} />
          </MemoryRouter>
        </Confirm>
      </SnackbarProvider>
    </QueryClientProvider>,
  );

let asked: { method: string; url: string; body: unknown }[];
beforeEach(() => {
  asked = [];
  vi.stubGlobal('fetch', (url: string, { method, body }: { method: string; body?: string }) => {
    asked.push({ method, url, body: body && JSON.parse(body) });
    return Promise.resolve(
      method === 'DELETE' ? new Response(null, { status: 204 }) : new Response('{}', { status: 200 }),
    );
  });
});

const choose = (what: string) => {
  fireEvent.click(screen.getByRole('button', { name: 'More about Tide Ladder' }));
  fireEvent.click(screen.getByRole('menuitem', { name: what }));
};

describe('a piece on the shelf', () => {
  it('shows its goal in its own units, its picture, and how it stands', () => {
    card();
    expect(screen.getByText('planning · goal 280 × 36 × 4.5 mm')).toBeTruthy();
    expect(screen.getByText('The plan reaches it')).toBeTruthy();
    expect(screen.getByAltText('Tide Ladder, as it would be').style.opacity).toBe('1');
    expect(screen.getByRole('link').getAttribute('href')).toBe('/pieces/a1');
  });

  it('of an older revision has its picture faded, and its verdict is not taken for the present one', () => {
    card({ revision: 8 });
    expect(screen.getByText('Being worked out')).toBeTruthy();
    expect(screen.queryByText('The plan reaches it')).toBeNull();
    expect(screen.getByAltText('Tide Ladder, as it would be').style.opacity).toBe('0.4');
  });

  it('without a picture says why', () => {
    card({ preview: null });
    expect(screen.getByText('its picture is being made')).toBeTruthy();
    expect(screen.getByText('Being worked out')).toBeTruthy();
  });

  it('with nothing planned says so, and that there is no bar', () => {
    card({ preview: { revision: 7, log: 0, verdict: 'no bar', hasPicture: false } });
    expect(screen.getByText('nothing planned yet')).toBeTruthy();
    expect(screen.getByText('No finished bar yet')).toBeTruthy();
  });

  it('that was removed says until when it is kept, opens nothing, and is put back', async () => {
    card({ removedAt: '2026-03-01T12:00:00Z' });
    expect(screen.getByText(/goes for good on .*31/)).toBeTruthy();
    expect(screen.queryByRole('link')).toBeNull();
    choose('Put it back on the shelf');
    await waitFor(() => expect(asked).toMatchObject([{ method: 'POST', url: '/api/projects/a1/back' }]));
  });

  it('is thrown away only after a question that is answered with yes', async () => {
    card();
    choose('Remove…');
    await screen.findByRole('dialog', {
      name: 'Take “Tide Ladder” off the shelf? It can be put back for 30 days.',
    });
    fireEvent.click(screen.getByRole('button', { name: 'Leave it' }));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    expect(asked).toEqual([]);
    choose('Remove…');
    fireEvent.click(await screen.findByRole('button', { name: 'Remove' }));
    await waitFor(() => expect(asked).toMatchObject([{ method: 'DELETE', url: '/api/projects/a1' }]));
  });
});
