import { Alert, Box, Button, CircularProgress, Stack, TextField, Typography } from '@mui/material';
import { useDeferredValue, useState } from 'react';
import { Link } from 'react-router';
import { type FoundRecord, MOST_NAME, titleOfKind } from '../../../../core/plan/index.ts';
import { RECORD_KINDS } from '../../../../core/records/record.ts';
import { recordSaid, secondsOf } from '../../../../core/records/said.ts';
import { formatTime } from '../../../../core/units/index.ts';
import { api } from '../../document/api.ts';
import { useShop } from '../../document/useEvaluation.ts';
import { useShopLog } from '../../document/shopApi.ts';
import { Section } from '../../ui/Section.tsx';
import { colours } from '../../ui/theme.ts';
import { HowFarOff } from './HowFarOff.tsx';
import { moment } from './CopyInside.tsx';

/** What came at the bench, of all pieces: found by steel, by move, by what was remarked, by whom. */
export function Log() {
  const [search, setSearch] = useState('');
  const { data, error, hasNextPage, fetchNextPage, isFetchingNextPage } = useShopLog(
    useDeferredValue(search),
  );
  const total = data?.pages[0].total ?? 0;
  return (
    <Stack sx={{ gap: 2 }}>
      <Section title="What came, of all pieces">
        <Stack role="search" direction="row" sx={{ gap: 2, alignItems: 'center', flexWrap: 'wrap' }}>
          <TextField
            type="search"
            label="Find by piece, move, steel, remark, or by whom"
            value={search}
            onChange={(e) => setSearch(e.target.value.slice(0, MOST_NAME))}
            sx={{ width: 460, maxWidth: '100%' }}
          />
          <Typography role="status" color="text.secondary">
            {data &&
              (total > 0
                ? `${total} ${total === 1 ? 'entry' : 'entries'}`
                : search
                  ? 'Nothing was written that says so.'
                  : 'Nothing was written yet: it comes from the bench of a piece.')}
          </Typography>
        </Stack>
        {error && <Alert severity="error">{error.message}</Alert>}
        {!data && !error && <CircularProgress aria-label="Loading the log" />}
        <Box
          component="ol"
          aria-label="Log of all pieces"
          sx={{ listStyle: 'none', m: 0, p: 0, '& a': { color: 'primary.main' } }}
        >
          {data?.pages
            .flatMap((p) => p.found)
            .map((found) => (
              <Entry key={found.projectId + found.record.id} found={found} />
            ))}
        </Box>
        {hasNextPage && (
          <Button variant="outlined" disabled={isFetchingNextPage} onClick={() => void fetchNextPage()}>
            Show more
          </Button>
        )}
      </Section>
      <HowFarOff />
    </Stack>
  );
}

function Entry({ found: { projectId, name, lengths, kind, record } }: { found: FoundRecord }) {
  const shop = useShop();
  const seconds = secondsOf(record);
  const lines = recordSaid(record, { ...shop, ...(lengths && { lengths }) });
  return (
    <Box component="li" sx={{ py: 1.25, borderTop: `1px solid ${colours.line}` }}>
      <Stack direction="row" useFlexGap sx={{ gap: 2, alignItems: 'baseline', flexWrap: 'wrap' }}>
        <Typography variant="h3" component="h3">
          <Link to={`/pieces/${projectId}/log`}>{name}</Link>: {titleOfKind(kind)}
        </Typography>
        <Typography color="text.secondary">
          {moment(record.began)}
          {seconds === null ? ', being done' : `, ${formatTime(seconds)}`}
          {record.kind !== 'came' && `, ${RECORD_KINDS[record.kind]}`}
          {record.by && `, ${record.by}`}
        </Typography>
      </Stack>
      {lines.map((line) => (
        <Typography key={line}>{line}</Typography>
      ))}
      {record.remark && <Typography sx={{ fontStyle: 'italic' }}>{record.remark}</Typography>}
      {record.pictures && record.pictures.length > 0 && (
        <Stack direction="row" useFlexGap sx={{ gap: 1, mt: 0.5, flexWrap: 'wrap' }}>
          {record.pictures.map(({ id, shows }) => (
            <Box
              key={id}
              component="img"
              loading="lazy"
              src={api.photographUrl(projectId, id, 'small')}
              alt={shows || 'a photograph'}
              sx={{ height: 84, borderRadius: '4px' }}
            />
          ))}
        </Stack>
      )}
    </Box>
  );
}
