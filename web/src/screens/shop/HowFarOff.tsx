import { Alert, Typography } from '@mui/material';
import { MOVE_KINDS } from '../../../../core/moves/index.ts';
import { type OffBy, offByMove, offPercent, percentSaid, titleOfKind } from '../../../../core/plan/index.ts';
import { useShopMeasured } from '../../document/shopApi.ts';
import { FiguresTable } from '../../ui/FiguresTable.tsx';
import { Section } from '../../ui/Section.tsx';
import { LazyChart } from '../../ui/lazyChart.tsx';
import { colours, numbersStyle } from '../../ui/theme.ts';

/** A chart of a few moves is read at a glance; a row for each. */
const ROW_PX = 34;

const FIGURES = ['Times', 'In the middle', 'From', 'To'];

/** How far off what was reckoned the sizes of all pieces came, move by move. */
export function HowFarOff() {
  const { data, error } = useShopMeasured();
  if (error) return <Alert severity="error">{error.message}</Alert>;
  const measured = data?.flatMap((piece) => piece.measured.map((m) => ({ ...m, of: piece.name })));
  if (!measured || measured.length < 2) return null;
  const rows = offByMove(measured, MOVE_KINDS);
  const kinds = MOVE_KINDS.filter((kind) => rows.some((r) => r.kind === kind)).reverse();
  const points = measured.filter((m) => kinds.some((kind) => kind === m.kind));
  const chart = {
    grid: { left: 8, right: 24, top: 8, bottom: 28, containLabel: true },
    yAxis: { type: 'category', data: kinds.map(titleOfKind), axisLabel: { color: colours.ink } },
    xAxis: {
      type: 'value',
      name: 'came beyond reckoned, %',
      nameLocation: 'middle',
      nameGap: 26,
      nameTextStyle: { color: colours.faded },
      axisLabel: { color: colours.faded },
    },
    tooltip: {
      formatter: ({ dataIndex }: { dataIndex: number }) => {
        const m = points[dataIndex];
        return `${m.of}, ${titleOfKind(m.kind)}: ${m.what}${m.piece === '1' ? '' : ` of ${m.piece}`} ${percentSaid(offPercent(m))}`;
      },
    },
    series: [
      {
        type: 'scatter',
        symbolSize: 10,
        data: points.map((m) => ({
          value: [Number(offPercent(m).toFixed(2)), titleOfKind(m.kind)],
          symbol: m.what === 'length' ? 'circle' : m.what === 'weight' ? 'rect' : 'diamond',
          itemStyle: { color: Math.abs(offPercent(m)) > 3 ? colours.oxide : colours.verdigris, opacity: 0.7 },
        })),
      },
    ],
  };
  return (
    <Section title="How far off it came, of all pieces">
      <Typography color="text.secondary">
        Lengths as dots, widths and heights as diamonds, weights as squares; more than 3 % off in rust.
      </Typography>
      <LazyChart
        option={chart}
        height={60 + ROW_PX * kinds.length}
        label={`How far off sizes came, by move: ${rows.map((r) => `${titleOfKind(r.kind)} ${r.what} ${percentSaid(r.middle)}`).join(', ')}`}
      />
      <FiguresTable heads={['Move', 'Measured', ...FIGURES]} right={FIGURES} tight>
        {rows.map((r) => (
          <Row key={`${r.kind} ${r.what}`} row={r} />
        ))}
      </FiguresTable>
    </Section>
  );
}

const Row = ({ row: { kind, what, count, least, middle, most } }: { row: OffBy }) => (
  <tr>
    <td>{titleOfKind(kind)}</td>
    <td>{what}</td>
    <td style={numbersStyle}>{count}</td>
    <td style={numbersStyle}>{percentSaid(middle)}</td>
    <td style={numbersStyle}>{percentSaid(least)}</td>
    <td style={numbersStyle}>{percentSaid(most)}</td>
  </tr>
);
