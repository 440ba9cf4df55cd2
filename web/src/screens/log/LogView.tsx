import { Box, Button, Stack, ToggleButton, ToggleButtonGroup, Typography } from '@mui/material';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import {
  type Evaluation,
  type LogEntry,
  type Measured,
  logOf,
  offPercent,
  percentSaid,
  stepResult,
  spentOn,
  steelLost,
  allSteps,
} from '../../../../core/plan/index.ts';
import { massKg, addVolumes } from '../../../../core/materials/volumes.ts';
import { RECORD_KINDS, isDone } from '../../../../core/records/record.ts';
import { recordSaid, secondsOf } from '../../../../core/records/said.ts';
import { formatFine, formatLength, formatMass, formatTime } from '../../../../core/units/index.ts';
import type { Shop } from '../../../../core/shop/shop.ts';
import { SmallFace } from '../../benches/steel/SmallFace.tsx';
import { Photograph } from '../../benches/Photograph.tsx';
import { useBoth } from '../../document/useEvaluation.ts';
import { download, fileName } from '../../ui/download.ts';
import { LazyChart } from '../../ui/lazyChart.tsx';
import { SteelAndNumbers } from '../../ui/layout.tsx';
import { colours, numbersStyle } from '../../ui/theme.ts';
import { FromPaper } from './FromPaper.tsx';
import { logCsv } from './logCsv.ts';

const WHEN = {
  weekday: 'short',
  day: 'numeric',
  month: 'short',
  hour: '2-digit',
  minute: '2-digit',
  hourCycle: 'h23',
} as const;
const whenText = (iso: string): string => new Date(iso).toLocaleString([], WHEN);

const PICTURE = { width: 128, height: 84 };

/** What was planned and what came, move by move, as it was written; or typed in from the sheet for the wall. */
export default function LogView() {
  const { stands, planned } = useBoth();
  const [paper, setPaper] = useState(false);
  const entries = logOf(stands);
  if (entries.length === 0 && !paper) return <Empty fromPaper={() => setPaper(true)} />;
  return (
    <SteelAndNumbers
      steelScrolls
      steel={
        <>
          <ToggleButtonGroup
            size="small"
            exclusive
            value={paper ? 'paper' : 'log'}
            aria-label="What is shown of the log"
            onChange={(_, to: string | null) => to && setPaper(to === 'paper')}
          >
            <ToggleButton value="log" sx={{ textTransform: 'none', color: colours.ink }}>
              What was written
            </ToggleButton>
            <ToggleButton value="paper" sx={{ textTransform: 'none', color: colours.ink }}>
              Type in from paper
            </ToggleButton>
          </ToggleButtonGroup>
          {paper ? (
            <FromPaper stands={stands} />
          ) : (
            <Box component="ol" aria-label="Log" sx={{ listStyle: 'none', m: 0, p: 0 }}>
              {entries.map((entry) => (
                <Entry key={entry.record.id} entry={entry} stands={stands} planned={planned} />
              ))}
            </Box>
          )}
        </>
      }
      numbers={<LookedBack entries={entries} stands={stands} />}
    />
  );
}

function Empty({ fromPaper }: { fromPaper(): void }) {
  const { id } = useParams();
  return (
    <Box component="main" sx={{ p: 3 }}>
      <Typography variant="h1">Nothing was written yet</Typography>
      <p>What comes at the bench is kept here: sizes, heats, photographs, remarks.</p>
      <Stack direction="row" sx={{ gap: 1 }}>
        <Button component={Link} to={`/pieces/${id}/bench`} variant="contained">
          Begin at the bench
        </Button>
        <Button variant="outlined" onClick={fromPaper}>
          Type in from paper
        </Button>
      </Stack>
    </Box>
  );
}

const sizeText = ({ what }: Measured, value: number, { lengths, masses }: Shop): string =>
  what === 'weight'
    ? formatMass(value, masses)
    : what === 'length'
      ? formatLength(value, lengths)
      : formatFine(value, lengths);

/** “−4.0 %”, with a sign whichever way; nothing of what reads the same. */
function offText(m: Measured, shop: Shop): string {
  if (sizeText(m, m.reckoned, shop) === sizeText(m, m.came, shop)) return 'as reckoned';
  return percentSaid(offPercent(m));
}

function Entry({ entry, stands, planned }: { entry: LogEntry; stands: Evaluation; planned: Evaluation }) {
  const { record, result, title, measured } = entry;
  const { shop } = stands;
  const seconds = secondsOf(record);
  const was = result && stepResult(planned, result.step.id);
  const many = new Set(measured.map((m) => m.piece)).size > 1;
  return (
    <Box component="li" sx={{ py: 1.5, borderBottom: `1px solid ${colours.line}` }}>
      <Stack direction="row" sx={{ gap: 2, alignItems: 'baseline', flexWrap: 'wrap' }}>
        <Typography variant="h2">{title}</Typography>
        <Typography color="text.secondary">
          {whenText(record.began)}
          {seconds === null ? ', being done' : `, ${formatTime(seconds)}`}
          {record.kind !== 'came' && `, ${RECORD_KINDS[record.kind]}`}
          {record.by && `, ${record.by}`}
        </Typography>
      </Stack>
      <Stack direction="row" useFlexGap sx={{ gap: 2, flexWrap: 'wrap', mt: 0.5 }}>
        {result && was?.after && (
          <Pair label="as planned">
            <SmallFace
              plan={planned.plan}
              result={was}
              urgency={20}
              label={`${title}, as planned`}
              {...PICTURE}
            />
          </Pair>
        )}
        {result?.after && (
          <Pair label="as it stands">
            <SmallFace
              plan={stands.plan}
              result={result}
              urgency={20}
              label={`${title}, as it stands`}
              {...PICTURE}
            />
          </Pair>
        )}
        {record.pictures?.map(({ id, shows }) => (
          <Pair key={id} label={shows || 'photograph'}>
            <Photograph id={id} alt={`${title}: ${shows || 'a photograph'}`} width={PICTURE.width} />
          </Pair>
        ))}
        <Box sx={{ flex: '1 1 300px', minWidth: 0 }}>
          {measured.length > 0 && (
            <Box component="table" sx={{ borderSpacing: '12px 0', ml: '-12px', '& td': numbersStyle }}>
              <thead>
                <tr>
                  <th scope="col">{many ? 'Piece' : ''}</th>
                  <th scope="col">reckoned</th>
                  <th scope="col">came</th>
                  <th scope="col" />
                </tr>
              </thead>
              <tbody>
                {measured.map((m) => (
                  <tr key={m.piece + m.what}>
                    <Box component="th" scope="row" sx={{ textAlign: 'left', fontWeight: 400 }}>
                      {many ? `${m.piece} ${m.what}` : m.what}
                    </Box>
                    <td>{sizeText(m, m.reckoned, shop)}</td>
                    <td>{sizeText(m, m.came, shop)}</td>
                    <td>{offText(m, shop)}</td>
                  </tr>
                ))}
              </tbody>
            </Box>
          )}
          {measured.length === 0 && recordSaid(record, shop).map((line) => <div key={line}>{line}</div>)}
          {record.remark && <Typography sx={{ mt: 0.5, fontStyle: 'italic' }}>{record.remark}</Typography>}
        </Box>
      </Stack>
    </Box>
  );
}

const Pair = ({ label, children }: { label: string; children: React.ReactNode }) => (
  <Box component="figure" sx={{ m: 0, width: PICTURE.width, textAlign: 'center' }}>
    {children}
    <Typography component="figcaption" variant="body2" color="text.secondary">
      {label}
    </Typography>
  </Box>
);

/** How it went as a whole: how far, how long, how much steel. */
function LookedBack({ entries, stands }: { entries: readonly LogEntry[]; stands: Evaluation }) {
  const { shop, plan } = stands;
  const { id } = useParams();
  const steps = allSteps(stands);
  const done = steps.filter((r) => isDone(r.records)).length;
  const seconds = entries.reduce((sum, { record }) => sum + (secondsOf(record) ?? 0), 0);
  const heats = entries.reduce((sum, { record }) => sum + (record.heats ?? 0), 0);
  const unaccounted = addVolumes(
    ...steps.flatMap((r) => r.losses.filter((l) => l.cause === 'unaccounted').map((l) => l.volumes)),
  );
  const kg = massKg(unaccounted, shop.materials);
  const lost = massKg(steelLost(stands), shop.materials);
  const rows: [string, string][] = [
    ['Moves done', `${done} of ${steps.length}`],
    ['Time at it', formatTime(seconds)],
    ['Heats', String(heats)],
    ['Lost, start to finish', formatMass(lost, shop.masses)],
    [kg < 0 ? 'Found' : 'Unaccounted for', formatMass(Math.abs(kg), shop.masses)],
  ];
  const spent = spentOn(stands);
  if (spent.fireHours > 0) rows.push(['Gas burnt, about', formatMass(spent.gasKg, shop.masses)]);
  const prices: [string, number | null][] = [
    ['Gas', spent.gasPrice],
    ['Steel', spent.steelPrice],
  ];
  for (const [what, price] of prices)
    if (price !== null && price > 0) rows.push([`${what} cost`, `${price.toFixed(2)} ${shop.currency}`]);
  const unpriced = [
    ...(spent.gasPrice === null && spent.fireHours > 0 ? ['gas (Shop, Forge)'] : []),
    ...spent.unpriced,
  ];
  return (
    <Stack sx={{ gap: 2 }}>
      <Typography variant="h2">Looked back</Typography>
      <Box component="dl" sx={{ m: 0, display: 'grid', gridTemplateColumns: '1fr auto', gap: 0.5 }}>
        {rows.map(([what, text]) => (
          <Box key={what} sx={{ display: 'contents' }}>
            <dt>{what}</dt>
            <Box component="dd" sx={{ m: 0, ...numbersStyle }}>
              {text}
            </Box>
          </Box>
        ))}
      </Box>
      {unpriced.length > 0 && (
        <Typography variant="body2" color="text.secondary">
          What it cost is not known: no price of {unpriced.join(', ')}.
        </Typography>
      )}
      <Lengths entries={entries} />
      <Button component={Link} to={`/days?pieces=${id}`} variant="outlined">
        When the rest can be done
      </Button>
      <Button
        variant="outlined"
        onClick={() =>
          download(fileName(plan.name, '-log.csv'), new Blob([logCsv(stands)], { type: 'text/csv' }))
        }
      >
        Save the log as CSV
      </Button>
    </Stack>
  );
}

/** How far lengths and sections were off what was reckoned, in per cent, in the order of the work. */
function Lengths({ entries }: { entries: readonly LogEntry[] }) {
  const points = entries.flatMap(({ measured, title }) =>
    measured.filter((m) => m.what !== 'weight').map((m) => ({ title, ...m, off: offPercent(m) })),
  );
  if (points.length < 2) return null;
  const chart = {
    grid: { left: 8, right: 12, top: 28, bottom: 4, containLabel: true },
    xAxis: {
      type: 'category',
      data: points.map((_, i) => i + 1),
      axisLabel: { show: false },
      axisTick: { show: false },
    },
    yAxis: {
      type: 'value',
      name: 'came beyond reckoned, %',
      nameTextStyle: { align: 'left', color: colours.faded },
      axisLabel: { color: colours.faded },
    },
    tooltip: {
      formatter: ({ dataIndex }: { dataIndex: number }) => {
        const { title, what, piece, off } = points[dataIndex];
        return `${title}: ${what}${piece === '1' ? '' : ` of ${piece}`} ${percentSaid(off)}`;
      },
    },
    series: [
      {
        type: 'scatter',
        symbolSize: 10,
        data: points.map(({ off, what }) => ({
          value: Number(off.toFixed(2)),
          symbol: what === 'length' ? 'circle' : 'diamond',
          itemStyle: { color: Math.abs(off) > 3 ? colours.oxide : colours.verdigris },
        })),
      },
    ],
  };
  const words = points.map(({ title, what, off }) => `${title} ${what} ${percentSaid(off)}`).join(', ');
  return (
    <LazyChart
      option={chart}
      height={220}
      label={`How far sizes were off, in the order of the work: ${words}`}
    />
  );
}
