import { Box, Typography } from '@mui/material';
import {
  DAY_S,
  type BoardDay,
  type Days,
  type DayRow,
  type Slot,
  type WallS,
  type WorkHours,
  hoursOf,
  wallClock,
} from '../../../../core/days/index.ts';
import type { ProjectHead } from '../../../../core/plan/index.ts';
import { FiguresTable } from '../../ui/FiguresTable.tsx';
import { colours, numbersStyle } from '../../ui/theme.ts';

/** Of pieces, in their order: dark enough for white letters, 4.5 : 1. */
const PIECES = ['#215f52', '#7d2a1d', '#3b4d7a', '#6b4a12', '#5a3566', '#33302b'] as const;

const two = (n: number): string => String(n).padStart(2, '0');

/** The time of a clock on the wall. */
export const hourText = (s: WallS): string => {
  const [, , , h, m] = wallClock(s);
  return `${two(h)}:${two(m)}`;
};

/** “Monday, 7 December”, of a day counted from 1970-01-01. */
export const dayText = (day: number): string =>
  new Date(day * DAY_S * 1000).toLocaleDateString([], {
    weekday: 'long',
    day: 'numeric',
    month: 'long',
    timeZone: 'UTC',
  });

interface BoardProps {
  board: readonly BoardDay[];
  days: Days;
  work: WorkHours;
  pieces: readonly ProjectHead[];
  titles: ReadonlyMap<string, string>;
}

/** Day by day: whose hands are where as bars over the hours, and the same in words. */
export function Board({ board, days, work, pieces, titles }: BoardProps) {
  const pieceAt = (task: string) => pieces.findIndex((p) => task.startsWith(p.id));
  const colourOf = (task: string) => PIECES[pieceAt(task) % PIECES.length];
  return (
    <>
      {board.map(({ day, rows }) => (
        <Box key={day} component="section" aria-label={dayText(day)}>
          <Typography variant="h2" sx={{ mb: 0.5 }}>
            {dayText(day)}
          </Typography>
          <Bars
            day={day}
            days={days}
            work={work}
            colourOf={colourOf}
            titleOf={(task) => titles.get(task) ?? ''}
          />
          <FiguresTable heads={['When', 'Piece', 'What', 'Who']} lined>
            {rows.map((row) => (
              <tr key={row.task + row.what}>
                <Box component="td" sx={{ ...numbersStyle, whiteSpace: 'nowrap', width: 150 }}>
                  {hourText(row.fromS)}–{hourText(row.toS)}
                  {Math.floor(row.toS / DAY_S) > day && ' +1'}
                </Box>
                <Box component="td" sx={{ borderLeft: `6px solid ${colourOf(row.task)}`, pl: 1 }}>
                  {pieces[pieceAt(row.task)]?.name}
                </Box>
                <td>{whatText(row, titles.get(row.task) ?? '')}</td>
                <td>
                  {row.makers.length > 0 ? row.makers.map((m) => `maker ${m + 1}`).join(', ') : 'by itself'}
                </td>
              </tr>
            ))}
          </FiguresTable>
        </Box>
      ))}
    </>
  );
}

function whatText({ what, heats }: DayRow, title: string): string {
  if (what === 'cool') return `cools for: ${title}`;
  if (what === 'lies') return `${title}: it lies by itself`;
  if (what === 'kiln') return `${title}, in the kiln`;
  return heats > 0 ? `${title}, ${heats} ${heats === 1 ? 'heat' : 'heats'}` : title;
}

/** What goes on side by side in a line each; the first of them is named. */
function inLines(name: string, slots: readonly Slot[]): [string, Slot[]][] {
  const lines: Slot[][] = [[]];
  for (const slot of slots) {
    const free = lines.find((line) => (line.at(-1)?.toS ?? -Infinity) <= slot.fromS);
    if (free) free.push(slot);
    else lines.push([slot]);
  }
  return lines.map((line, i) => [i === 0 ? name : '', line]);
}

const LINE_PX = 22;

interface BarsProps {
  day: number;
  days: Days;
  work: WorkHours;
  colourOf(task: string): string;
  titleOf(task: string): string;
}

/** A line for each maker, the fire, and what goes by itself, over the shop's hours of a day. */
function Bars({ day, days, work, colourOf, titleOf }: BarsProps) {
  const open = hoursOf(work, day) ?? { fromS: day * DAY_S, toS: (day + 1) * DAY_S };
  const span = open.toS - open.fromS;
  const own = days.slots.filter((s) => s.fromS < open.toS && s.toS > open.fromS);
  const lines: [string, readonly Slot[]][] = [
    ...Array.from({ length: work.makers }, (_, m): [string, Slot[]] => [
      work.makers === 1 ? 'hands' : `maker ${m + 1}`,
      own.filter((s) => s.maker === m),
    ]),
    ...inLines(
      'in the fire',
      own.filter((s) => s.what === 'soak'),
    ),
    ...inLines(
      'by itself',
      own.filter((s) => s.what === 'cool' || s.what === 'kiln' || s.what === 'lies'),
    ),
  ];
  const share = (s: WallS) => (100 * (Math.min(Math.max(s, open.fromS), open.toS) - open.fromS)) / span;
  const hours = Array.from({ length: Math.ceil(span / 3600) }, (_, i) => open.fromS + 3600 * i);
  return (
    <Box aria-hidden sx={{ display: 'grid', gridTemplateColumns: '84px 1fr', rowGap: '3px', mb: 1 }}>
      <span />
      <Box sx={{ position: 'relative', height: 20 }}>
        {hours.map((s) => (
          <Typography
            key={s}
            variant="body2"
            sx={{ position: 'absolute', left: `${share(s)}%`, color: 'text.secondary', ...numbersStyle }}
          >
            {wallClock(s)[3]}
          </Typography>
        ))}
      </Box>
      {lines.map(([name, slots], line) => (
        <Box key={line} sx={{ display: 'contents' }}>
          <Typography variant="body2" color="text.secondary">
            {name}
          </Typography>
          <Box sx={{ position: 'relative', height: LINE_PX, background: colours.gesso, overflow: 'hidden' }}>
            {slots.map((s, i) => (
              <Box
                key={i}
                title={`${hourText(s.fromS)}–${hourText(s.toS)} ${titleOf(s.task)}`}
                sx={{
                  position: 'absolute',
                  left: `${share(s.fromS)}%`,
                  width: `calc(${share(s.toS) - share(s.fromS)}% - 1px)`,
                  minWidth: 2,
                  height: LINE_PX,
                  lineHeight: `${LINE_PX}px`,
                  fontSize: 13,
                  pl: 0.5,
                  overflow: 'hidden',
                  whiteSpace: 'nowrap',
                  ...(s.what === 'cool' || s.what === 'lies'
                    ? { color: colours.ink, border: `2px solid ${colourOf(s.task)}`, lineHeight: '18px' }
                    : { color: colours.paper, background: colourOf(s.task) }),
                  borderRadius: '3px',
                }}
              >
                {titleOf(s.task)}
              </Box>
            ))}
          </Box>
        </Box>
      ))}
    </Box>
  );
}
