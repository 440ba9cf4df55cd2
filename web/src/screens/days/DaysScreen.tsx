import {
  Alert,
  Box,
  Button,
  Checkbox,
  CircularProgress,
  FormControlLabel,
  Stack,
  TextField,
  Typography,
} from '@mui/material';
import { useDeferredValue, useEffect, useMemo, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import {
  DAY_S,
  type WallS,
  type WorkHours,
  boardOf,
  laidInDays,
  openFrom,
} from '../../../../core/days/index.ts';
import type { ProjectHead } from '../../../../core/plan/index.ts';
import { makeShop, shopSchema, workSchema } from '../../../../core/shop/shop.ts';
import { SchemaForm } from '../../editors/form/form.tsx';
import { InShop } from '../../editors/form/InShop.tsx';
import { useSetups } from '../../document/shopApi.ts';
import { download } from '../../ui/download.ts';
import { PageHead, SteelAndNumbers } from '../../ui/layout.tsx';
import { fonts } from '../../ui/theme.ts';
import { Board, dayText, hourText } from './Board.tsx';
import { daysIcs } from './daysIcs.ts';
import { useKeptWork } from './useKeptWork.ts';
import { useOpenPieces, useTasks } from './useTasks.ts';

const inInput = (at: Date): string =>
  new Date(at.getTime() - 60_000 * at.getTimezoneOffset()).toISOString().replace(/:[^:]*$/, '');

/** What a field for date and time holds, by the wall clock; null while it is half typed. */
const wallOf = (text: string): WallS | null => {
  const ms = Date.parse(`${text}Z`);
  return Number.isNaN(ms) ? null : ms / 1000;
};

/** What is left of the pieces at the bench, laid into the shop's days. */
export function Component() {
  const { data: setups, error } = useSetups();
  useEffect(() => {
    document.title = 'Days · Retablo';
  }, []);
  const settings = setups?.[0]?.settings ?? shopSchema.parse({});
  const shop = useMemo(() => makeShop(settings), [settings]);
  return (
    <InShop shop={shop}>
      <Box sx={{ minHeight: '100dvh', height: { md: '100dvh' }, display: 'flex', flexDirection: 'column' }}>
        <PageHead>
          <Typography component="h1" sx={{ fontFamily: fonts.title, fontSize: '1.25rem' }}>
            Days
          </Typography>
        </PageHead>
        {error && <Alert severity="error">{error.message}</Alert>}
        {!setups ? !error && <CircularProgress aria-label="Loading the days" sx={{ m: 4 }} /> : <Days />}
      </Box>
    </InShop>
  );
}

function Days() {
  const { work, change, error: notKept } = useKeptWork();
  const { data: open, error: notListed } = useOpenPieces();
  const [search, setSearch] = useSearchParams();
  const [from, setFrom] = useState(() => inInput(new Date()));
  // The address follows what is pressed; it comes later.
  const [ids, setIds] = useState(() => search.get('pieces')?.split(','));
  const chosen = useMemo(
    () => (open ?? []).filter((p) => (ids ? ids.includes(p.id) : p.state === 'at the bench')),
    [open, ids],
  );
  const asked = useDeferredValue(work);
  const { tasks, isPending, error } = useTasks(chosen, asked);
  const nowS = wallOf(from);
  const days = useMemo(() => (nowS === null ? null : laidInDays(tasks, asked, nowS)), [tasks, asked, nowS]);
  const board = useMemo(() => (days ? boardOf(days) : []), [days]);
  const pieceOf = (task: string) => chosen.find((p) => task.startsWith(p.id));
  const titles = useMemo(() => new Map(tasks.map((t) => [t.id, t.title])), [tasks]);
  const toggle = (piece: ProjectHead) => {
    const next = chosen.includes(piece)
      ? chosen.filter((p) => p !== piece).map((p) => p.id)
      : [...chosen.map((p) => p.id), piece.id];
    setIds(next);
    setSearch({ pieces: next.join(',') }, { replace: true });
  };
  const calendar = () =>
    download(
      'days.ics',
      new Blob([daysIcs(board, (task) => `${pieceOf(task)?.name ?? ''}: ${titles.get(task)}`)], {
        type: 'text/calendar;charset=utf-8',
      }),
    );
  const troubles = [notListed, error, notKept].flatMap((e) => (e ? [e.message] : []));
  return (
    <SteelAndNumbers
      steelScrolls
      steel={
        <Stack sx={{ gap: 2 }}>
          {troubles.map((text) => (
            <Alert key={text} severity="error">
              {text}
            </Alert>
          ))}
          {isPending && chosen.length > 0 && <CircularProgress aria-label="Working out what is left to do" />}
          {open && chosen.length === 0 && (
            <Typography sx={{ fontSize: '1.1rem' }}>
              {open.length === 0
                ? 'No piece waits to be made: begin one on the shelf.'
                : 'Choose the pieces whose work is to be laid into the days.'}
            </Typography>
          )}
          {work.toH <= work.fromH && (
            <Alert severity="error">The shop shuts before it opens: set “To” later than “From”.</Alert>
          )}
          {days && !isPending && (
            <>
              <Today days={days} work={asked} nowS={nowS!} titles={titles} pieceOf={pieceOf} />
              {chosen
                .filter(({ id }) => ![...days.left, ...days.slots].some(({ task }) => task.startsWith(id)))
                .map(({ id, name }) => (
                  <Typography key={id}>{name}: nothing is left to do.</Typography>
                ))}
              {days.left.map(({ task, why }) => (
                <Alert key={task} severity="warning">
                  {pieceOf(task)?.name}, {titles.get(task)}: {why}
                </Alert>
              ))}
              <Board board={board} days={days} work={asked} pieces={chosen} titles={titles} />
            </>
          )}
        </Stack>
      }
      numbers={
        <Stack sx={{ gap: 2 }}>
          <TextField
            type="datetime-local"
            label="Laid from"
            value={from}
            error={nowS === null}
            helperText={nowS === null && 'A date and a time, please.'}
            onChange={(e) => setFrom(e.target.value)}
            slotProps={{ inputLabel: { shrink: true } }}
          />
          <Box component="section" aria-label="Pieces" sx={{ '& a': { color: 'primary.main' } }}>
            <Typography variant="h2">Pieces</Typography>
            {open?.map((piece) => (
              <FormControlLabel
                key={piece.id}
                sx={{ display: 'flex' }}
                control={<Checkbox checked={chosen.includes(piece)} onChange={() => toggle(piece)} />}
                label={
                  <>
                    <Link to={`/pieces/${piece.id}`}>{piece.name}</Link>{' '}
                    <Box component="span" sx={{ color: 'text.secondary' }}>
                      {piece.state}
                    </Box>
                  </>
                }
              />
            ))}
          </Box>
          <Typography variant="body2" color="text.secondary">
            Heats and times as this shop takes them by its records (Shop, Learned); as planned where nothing
            was learned.
          </Typography>
          <Button variant="outlined" disabled={board.length === 0} onClick={calendar}>
            Save as a calendar (.ics)
          </Button>
          <Box component="section" aria-label="Hours and hands">
            <Typography variant="h2" sx={{ mb: 1.5 }}>
              Hours and hands
            </Typography>
            <SchemaForm schema={workSchema} values={work} change={change} oneAbreast />
          </Box>
        </Stack>
      }
    />
  );
}

interface TodayProps {
  days: ReturnType<typeof laidInDays>;
  work: WorkHours;
  nowS: WallS;
  titles: ReadonlyMap<string, string>;
  pieceOf(task: string): ProjectHead | undefined;
}

/** What can be finished in the hours that are left of the first day. */
function Today({ days, work, nowS, titles, pieceOf }: TodayProps) {
  const open = openFrom(work, nowS);
  if (!open) return null;
  const done = [...days.ends].filter(
    ([task, endS]) => endS <= open.toS && days.slots.some((s) => s.task === task),
  );
  const byPiece = new Map<string, string[]>();
  for (const [task] of done) {
    const name = pieceOf(task)?.name ?? '';
    byPiece.set(name, [...(byPiece.get(name) ?? []), titles.get(task)!]);
  }
  return (
    <Box component="section" aria-label="What can be finished">
      <Typography variant="h2">
        By {hourText(open.toS)} on {dayText(Math.floor(open.fromS / DAY_S))} can be finished
      </Typography>
      {byPiece.size === 0 && <Typography>No move: what is begun goes on the next day.</Typography>}
      {[...byPiece].map(([name, moves]) => (
        <Typography key={name}>
          <b>{name}</b>: {moves.join(', ')}
        </Typography>
      ))}
    </Box>
  );
}
