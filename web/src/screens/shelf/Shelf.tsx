import AddIcon from '@mui/icons-material/Add';
import { Alert, Box, Button, CircularProgress, TextField, Typography } from '@mui/material';
import { useInfiniteQuery } from '@tanstack/react-query';
import { useDeferredValue, useEffect, useState } from 'react';
import { Link } from 'react-router';
import { type ShelfQuery, MOST_NAME } from '../../../../core/plan/index.ts';
import { api } from '../../document/api.ts';
import { Toggles } from '../../ui/fields/Toggles.tsx';
import { useRole } from '../../document/door.ts';
import { Leave } from './Leave.tsx';
import { NewPiece } from './NewPiece.tsx';
import { OpenPlanFile } from './OpenPlanFile.tsx';
import { PieceCard } from './PieceCard.tsx';
import { WaitingEdits } from './WaitingEdits.tsx';

/** Pieces fetched at a time. */
const PAGE = 60;
/** How often it is asked whether pictures that are being made are there, ms. */
const LOOK_AGAIN_MS = 1500;

type Wanted = Pick<ShelfQuery, 'search' | 'state' | 'sort'>;

const STATES = [
  ['any', 'All'],
  ['planning', 'Planning'],
  ['at the bench', 'At the bench'],
  ['done', 'Done'],
  ['removed', 'Removed'],
] as const;
const SORTS = [
  ['changed', 'Last changed'],
  ['name', 'By name'],
] as const;

function useShelf(wanted: Wanted) {
  return useInfiniteQuery({
    queryKey: ['projects', wanted],
    queryFn: ({ pageParam }) => api.list({ ...wanted, offset: pageParam, limit: PAGE }),
    initialPageParam: 0,
    getNextPageParam: ({ total }, pages) => {
      const shown = pages.reduce((sum, p) => sum + p.projects.length, 0);
      return shown < total ? shown : undefined;
    },
    placeholderData: (before) => before,
    staleTime: 0,
    refetchInterval: ({ state: { data } }) =>
      data?.pages.some((p) =>
        p.projects.some((h) => h.preview?.revision !== h.revision || h.preview.log !== h.log),
      )
        ? LOOK_AGAIN_MS
        : false,
  });
}

/** The pieces being planned, each by its final face and its state. */
export function Component() {
  const [wanted, setWanted] = useState<Wanted>({ search: '', state: 'any', sort: 'changed' });
  const [beginning, setBeginning] = useState(false);
  const asked = useDeferredValue(wanted);
  const ofBench = useRole() === 'bench';
  const { data, error, isPending, hasNextPage, fetchNextPage, isFetchingNextPage } = useShelf(asked);
  useEffect(() => {
    document.title = 'Shelf · Retablo';
  }, []);
  const pieces = data?.pages.flatMap((p) => p.projects) ?? [];
  const total = data?.pages[0].total ?? 0;
  const isAll = asked.search === '' && asked.state === 'any';
  return (
    <Box component="main" sx={{ px: { xs: 2, sm: 4 }, py: 2.5, maxWidth: 1240, mx: 'auto' }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 2, mb: 2, flexWrap: 'wrap' }}>
        <Typography component="h1" variant="name">
          Retablo
        </Typography>
        <Typography sx={{ fontSize: '1.1rem' }} color="text.secondary">
          {ofBench
            ? 'Choose a piece: it opens at the bench'
            : 'The shelf: mosaic bars, planned before any steel is cut'}
        </Typography>
        {ofBench ? (
          <Leave />
        ) : (
          <Box sx={{ ml: 'auto', display: 'flex', gap: 1.5, flexWrap: 'wrap' }}>
            <Button component={Link} to="/trainer">
              Train the eye
            </Button>
            <Button component={Link} to="/days">
              Days
            </Button>
            <Button component={Link} to="/shop">
              The shop
            </Button>
            <OpenPlanFile />
            <Button
              variant="contained"
              size="large"
              startIcon={<AddIcon />}
              onClick={() => setBeginning(true)}
            >
              Begin a new piece
            </Button>
          </Box>
        )}
      </Box>
      <WaitingEdits />
      {error && <Alert severity="error">{error.message}</Alert>}
      {isPending && <CircularProgress aria-label="Loading the shelf" />}
      {data && isAll && total === 0 && (
        <Typography sx={{ py: 6, fontSize: '1.15rem' }}>
          The shelf is empty. Begin a new piece: say what blade or bar it is to be, and choose among plans by
          how it would look.
        </Typography>
      )}
      {data && (
        <Box
          role="search"
          sx={{ display: 'flex', gap: 1.5, mb: 2.5, flexWrap: 'wrap', alignItems: 'center' }}
        >
          <TextField
            type="search"
            label="Find a piece"
            value={wanted.search}
            onChange={(e) => setWanted({ ...wanted, search: e.target.value.slice(0, MOST_NAME) })}
            sx={{ width: 260 }}
          />
          <Toggles
            label="Which pieces"
            value={wanted.state}
            options={STATES}
            onChange={(state) => setWanted({ ...wanted, state })}
          />
          <Toggles
            label="In which order"
            value={wanted.sort}
            options={SORTS}
            onChange={(sort) => setWanted({ ...wanted, sort })}
          />
          <Typography color="text.secondary" role="status">
            {total === 0 ? !isAll && 'No piece is like that.' : total === 1 ? 'One piece' : `${total} pieces`}
          </Typography>
        </Box>
      )}
      <Box
        component="ul"
        sx={{
          display: 'grid',
          gridTemplateColumns: 'repeat(auto-fill, minmax(352px, 1fr))',
          gap: 3.5,
          p: 0,
          m: 0,
        }}
      >
        {pieces.map((piece) => (
          <PieceCard key={piece.id} piece={piece} isFixed={ofBench} />
        ))}
      </Box>
      {hasNextPage && (
        <Button
          sx={{ mt: 3 }}
          variant="outlined"
          disabled={isFetchingNextPage}
          onClick={() => void fetchNextPage()}
        >
          Show {Math.min(PAGE, total - pieces.length)} more of {total - pieces.length}
        </Button>
      )}
      <NewPiece open={beginning} onClose={() => setBeginning(false)} />
    </Box>
  );
}
