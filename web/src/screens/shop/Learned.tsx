import { Alert, Box, Button, CircularProgress, Stack, Typography } from '@mui/material';
import { useMemo, useState } from 'react';
import {
  type Calibration,
  type Learned as Known,
  type PieceEvidence,
  type Proposal,
  experienceFrom,
  numberOf,
  proposalsFor,
  sortSaid,
  subjectSaid,
  sureSaid,
  valueSaid,
} from '../../../../core/learning/index.ts';
import { plural } from '../../../../core/instruct/said.ts';
import { type Shop, shopSchema } from '../../../../core/shop/shop.ts';
import type { KeptPiece } from '../../../../core/forecast/index.ts';
import { formatLength } from '../../../../core/units/index.ts';
import { letBe, useKept, useLetBe, useShopLearned } from '../../document/learning.ts';
import type { ShopLearned } from '../../document/workers/foretelling.ts';
import { shopApi, useSetups } from '../../document/shopApi.ts';
import { useShop } from '../../document/useEvaluation.ts';
import { useServerChange } from '../../document/useServerChange.ts';
import { FiguresTable } from '../../ui/FiguresTable.tsx';
import { Popup } from '../../ui/Popup.tsx';
import { Section } from '../../ui/Section.tsx';
import { LazyChart } from '../../ui/lazyChart.tsx';
import { colours, numbersStyle } from '../../ui/theme.ts';

const DAY = { dateStyle: 'medium' } as const;

type OfPieces = Known<PieceEvidence>;

/** A number and its unit stay in one line. */
const WHOLE = { whiteSpace: 'nowrap' } as const;

/** Of what a number is; of some of such moves alone, of which. */
const ofSaid = ({ number, of, sort }: OfPieces, shop: Shop): string =>
  sort === undefined
    ? subjectSaid(number, of, shop)
    : `${subjectSaid(number, of, shop)}, ${sortSaid(sort, shop)}`;

/** What the records of all pieces say of the numbers that nobody knows beforehand. */
export function Learned() {
  const { data, error } = useShopLearned();
  const shop = useShop();
  const [asked, setAsked] = useState<OfPieces | null>(null);
  const experience = useMemo(
    () => (data ? experienceFrom(data.evidence, data.learned, shop) : []),
    [data, shop],
  );
  if (error) return <Alert severity="error">{error.message}</Alert>;
  if (!data) return <CircularProgress aria-label="Learning from the records" />;
  if (data.learned.length === 0)
    return (
      <Typography sx={{ maxWidth: 720 }}>
        Nothing is learned yet. Write down at the bench what comes, above all weights, lengths before and
        after the saw, and sizes after a heat: from then on the shop’s own numbers stand here, and plans can
        be reckoned with them.
      </Typography>
    );
  return (
    <Stack spacing={2}>
      <Proposals learned={data.learned} />
      {experience.length > 0 && (
        <Section title="What experience says">
          {experience.map((e) => (
            <Stack key={e.text} direction="row" spacing={1} sx={{ alignItems: 'center' }}>
              <Typography sx={{ flex: 1 }}>{e.text}</Typography>
              <Button size="small" onClick={() => setAsked(e.learned)}>
                What it rests on
              </Button>
            </Stack>
          ))}
        </Section>
      )}
      <Section title="The shop’s numbers, from its own records">
        <FiguresTable
          heads={[
            'Number',
            'Of',
            'The table has',
            'Learned',
            'From time to time',
            'Measured',
            'Pieces',
            '(Ask)',
          ]}
          right={['The table has', 'Learned', 'From time to time', 'Measured', 'Pieces']}
          lined
        >
          {data.learned.map((l) => (
            <tr key={`${l.number} ${l.of} ${l.sort}`}>
              <td>{l.sort === undefined && numberOf(l.number).title}</td>
              <td style={l.sort === undefined ? undefined : { paddingLeft: 24 }}>
                {l.sort === undefined ? ofSaid(l, shop) : sortSaid(l.sort, shop)}
              </td>
              <td style={numbersStyle}>{valueSaid(l.number, l.table.value, shop)}</td>
              <td style={numbersStyle}>
                <b style={WHOLE}>{valueSaid(l.number, l.value, shop)}</b>{' '}
                <span style={WHOLE}>± {valueSaid(l.number, l.sure, shop)}</span>
              </td>
              <td style={numbersStyle}>± {valueSaid(l.number, l.spread, shop)}</td>
              <td style={numbersStyle}>{l.count}</td>
              <td style={numbersStyle}>{new Set(l.evidence.map((e) => e.projectId)).size}</td>
              <td>
                <Button
                  size="small"
                  onClick={() => setAsked(l)}
                  aria-label={`Ask about ${numberOf(l.number).title}, ${ofSaid(l, shop)}`}
                >
                  Ask
                </Button>
              </td>
            </tr>
          ))}
        </FiguresTable>
      </Section>
      <Held calibrations={data.calibrations}>
        <KeptPieces learned={data} />
      </Held>
      {asked && <Behind learned={asked} onClose={() => setAsked(null)} />}
    </Stack>
  );
}

/** Numbers of the set-ups that were measured to be others; each is taken with one press, or let be. */
function Proposals({ learned }: { learned: readonly OfPieces[] }) {
  const { data: setups } = useSetups();
  const { said } = useLetBe();
  const change = useServerChange(['setups']);
  const all = (setups ?? []).flatMap((setup) =>
    proposalsFor(setup.settings, learned).map((proposal) => ({ setup, proposal })),
  );
  const open = all.filter(({ setup, proposal }) => !said.includes(`${setup.id} ${proposal.text}`));
  if (open.length === 0) return null;
  const take = (id: string, { field, to }: Proposal) => {
    const setup = setups?.find((s) => s.id === id);
    if (setup)
      change.mutate(() =>
        shopApi.changeSetup(id, shopSchema.parse({ ...setup.settings, [field]: to })).then(() => undefined),
      );
  };
  return (
    <Section title="Proposed">
      <Typography color="text.secondary">
        Taken, new pieces begin with it; a piece that is planned already keeps the numbers it was made with,
        and offers the new ones under <i>Shop</i>.
      </Typography>
      {change.error && <Alert severity="error">{change.error.message}</Alert>}
      {open.map(({ setup, proposal }) => (
        <Stack
          key={`${setup.id} ${proposal.field}`}
          direction="row"
          spacing={1}
          sx={{ alignItems: 'center', flexWrap: 'wrap' }}
        >
          <Typography sx={{ flex: 1, minWidth: 320 }}>
            {setup.name}: <b>{proposal.text}</b>
          </Typography>
          <Button
            variant="outlined"
            disabled={change.isPending}
            onClick={() => take(setup.id, proposal)}
            aria-label={`Take it: ${proposal.text}`}
          >
            Take it
          </Button>
          <Button
            onClick={() => letBe(`${setup.id} ${proposal.text}`)}
            aria-label={`Let it be: ${proposal.text}`}
          >
            Let it be
          </Button>
        </Stack>
      ))}
    </Section>
  );
}

/** How often what came lay in the band that was promised before it. */
function Held({
  calibrations,
  children,
}: {
  calibrations: readonly Calibration[];
  children: React.ReactNode;
}) {
  const count = calibrations.reduce((sum, c) => sum + c.count, 0);
  const held = calibrations.reduce((sum, c) => sum + c.held, 0);
  if (count === 0) return null;
  return (
    <Section title="Were the promises kept?">
      <Typography>
        Each measurement was held against the band that the ones before it promised for eight of ten:{' '}
        <b>
          {Math.round((100 * held) / count)} of 100 lay inside ({plural(count, 'measurement')})
        </b>
        . Bands are widened or narrowed by what is said here.
      </Typography>
      {children}
      <FiguresTable
        heads={['Number', 'Measured', 'Inside the band', 'Its bands are now']}
        right={['Measured', 'Inside the band', 'Its bands are now']}
      >
        {calibrations.map((c) => (
          <tr key={c.number}>
            <td>{numberOf(c.number).title}</td>
            <td style={numbersStyle}>{c.count}</td>
            <td style={numbersStyle}>{Math.round((100 * c.held) / c.count)} of 100</td>
            <td style={numbersStyle}>{c.times.toFixed(2)} × as wide</td>
          </tr>
        ))}
      </FiguresTable>
    </Section>
  );
}

/** Whole pieces: their length and hours against what was promised before they were begun. */
function KeptPieces({ learned }: { learned: ShopLearned }) {
  const shop = useShop();
  const { pieces, seeking, failed } = useKept(learned);
  const rows = pieces.filter((p) => p.length !== null || p.hours !== null);
  const size = (mm: number) => formatLength(mm, shop.lengths);
  const time = (h: number) => h.toFixed(1);
  const kept = (of: 'length' | 'hours'): string => {
    const judged = rows.flatMap((p) => p[of] ?? []);
    return `${judged.filter((p) => p.isKept).length} of ${judged.length}`;
  };
  if (rows.length === 0 && failed === 0)
    return seeking ? (
      <Stack direction="row" spacing={1} sx={{ alignItems: 'center', minHeight: 40 }}>
        <CircularProgress size={20} aria-label="Holding finished pieces against what was promised" />
        <span>Holding finished pieces against what was promised of them …</span>
      </Stack>
    ) : null;
  return (
    <>
      <Typography>
        Of finished pieces <b>{kept('length')}</b> came as long, and <b>{kept('hours')}</b> took the hours, as
        their plans promised by what was known before the first move.
        {seeking && ' Others are still being looked at …'}
        {failed > 0 && ` ${plural(failed, 'piece')} could not be looked at.`}
      </Typography>
      <FiguresTable
        heads={['Piece', 'Length promised', 'It came', 'Hours promised', 'It took']}
        right={['Length promised', 'It came', 'Hours promised', 'It took']}
        lined
      >
        {rows.map((p) => (
          <tr key={p.id}>
            <td>{p.name}</td>
            <PromiseCells promise={p.length} said={size} />
            <PromiseCells promise={p.hours} said={time} />
          </tr>
        ))}
      </FiguresTable>
    </>
  );
}

/** What was promised, and what came: set off where it lay outside. */
function PromiseCells({ promise, said }: { promise: KeptPiece['length']; said(value: number): string }) {
  if (!promise)
    return (
      <>
        <td style={numbersStyle}>–</td>
        <td style={numbersStyle}>–</td>
      </>
    );
  const { promised, came, isKept } = promise;
  return (
    <>
      <td style={numbersStyle}>
        {said(promised.low)} to {said(promised.high)}
      </td>
      <td style={{ ...numbersStyle, ...(!isKept && { color: colours.alarm }) }}>
        {said(came)}
        {!isKept && (came < promised.low ? ', less' : ', more')}
      </td>
    </>
  );
}

/** Everything behind a number: the formula, the source of where it began, every measurement over time and of which piece. */
function Behind({ learned, onClose }: { learned: OfPieces; onClose(): void }) {
  const shop = useShop();
  const { number, evidence, wild, table } = learned;
  const { title, formula, source } = numberOf(number);
  const said = (value: number) => valueSaid(number, value, shop);
  return (
    <Popup
      title={`${title}: ${ofSaid(learned, shop)}`}
      width="md"
      isLong
      onClose={onClose}
      actions={<Button onClick={onClose}>Close</Button>}
    >
      <Typography>
        <b>{sureSaid(number, learned, shop)}</b>; from time to time it differs by {said(learned.spread)}.
        Begun at {sureSaid(number, table, shop)}; {plural(learned.count, 'time')} measured
        {wild >= 0.5 && `, of which about ${Math.round(wild)} count as slips of the pen`}.
      </Typography>
      <OverTime learned={learned} />
      <Box sx={{ p: 1, background: colours.gesso, borderRadius: 1 }}>{formula}</Box>
      <Typography variant="body2" color="text.secondary">
        Where it begins: {source}. How it moves: the mean of a normal number from that beginning and all
        measurements, each by its own error, one in twenty taken to be a slip (Bayes’ rule, by expectation and
        maximisation).
      </Typography>
      <FiguresTable
        heads={['When', 'Piece', 'Move', 'Measured', 'Error of measuring']}
        right={['Measured', 'Error of measuring']}
      >
        {evidence.toReversed().map((e, i) => (
          <tr key={i}>
            <td>{new Date(e.at).toLocaleDateString([], DAY)}</td>
            <td>{e.name}</td>
            <td>{subjectSaid('heats', e.kind, shop)}</td>
            <td style={numbersStyle}>
              {e.isAtMost ? 'at most ' : ''}
              {said(e.value)}
            </td>
            <td style={numbersStyle}>{e.error > 0 ? said(e.error) : 'counted'}</td>
          </tr>
        ))}
      </FiguresTable>
    </Popup>
  );
}

/** Every measurement over time, and what is believed now. */
function OverTime({ learned }: { learned: OfPieces }) {
  const shop = useShop();
  const { number, evidence, value, spread, table } = learned;
  const said = (v: number) => valueSaid(number, v, shop);
  const option = {
    grid: { left: 12, right: 24, top: 12, bottom: 8, containLabel: true },
    xAxis: { type: 'time', axisLabel: { color: colours.faded } },
    yAxis: { type: 'value', scale: true, axisLabel: { color: colours.faded, formatter: said } },
    tooltip: {
      formatter: ({ dataIndex }: { dataIndex: number }) =>
        `${evidence[dataIndex].name}: ${said(evidence[dataIndex].value)}`,
    },
    series: [
      {
        type: 'scatter',
        symbolSize: 10,
        itemStyle: { color: colours.verdigris, opacity: 0.75 },
        data: evidence.map((e) => [e.at, e.value]),
        markLine: {
          symbol: 'none',
          precision: 9,
          silent: true,
          label: { position: 'insideEndTop', color: colours.ink },
          data: [
            {
              yAxis: value,
              label: { formatter: 'learned' },
              lineStyle: { color: colours.oxide, type: 'solid' },
            },
            {
              yAxis: table.value,
              label: { formatter: 'table' },
              lineStyle: { color: colours.faded, type: 'dashed' },
            },
          ],
        },
        markArea: {
          silent: true,
          itemStyle: { color: colours.gilding, opacity: 0.22 },
          data: [[{ yAxis: value - spread }, { yAxis: value + spread }]],
        },
      },
    ],
  };
  return (
    <LazyChart
      option={option}
      height={240}
      label={`${numberOf(number).title} over time: ${plural(evidence.length, 'measurement')}, learned ${said(value)}, the table has ${said(table.value)}`}
    />
  );
}
