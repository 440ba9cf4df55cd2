import { Box, Button, Stack, Typography } from '@mui/material';
import { type Blank, sizeOf } from '../../../../core/billet/billet.ts';
import { MOST_SPREAD, hammered } from '../../../../core/moves/forge/shape.ts';
import type { Action } from '../../../../core/instruct/action.ts';
import { type LaneResult, type StepResult, actionsOf } from '../../../../core/plan/index.ts';
import { blankSvg } from '../../../../core/print/blankSvg.ts';
import { formatFine, formatLength } from '../../../../core/units/index.ts';
import { useEvaluation } from '../../document/useEvaluation.ts';
import { colours, fonts } from '../../ui/theme.ts';
import { download, fileName } from '../../ui/download.ts';
import { useSize } from '../../ui/useSize.ts';
import { SteelView } from '../steel/SteelView.tsx';

type Told = Extract<Action, { do: 'forge to shape' }>;
type TipCutTold = Extract<Action, { do: 'cut tip' }>;

const told = <K extends Action['do']>(actions: readonly Action[], what: K) =>
  actions.find((a): a is Extract<Action, { do: K }> => a.do === what);

/** px. Room under a picture for the letters of its sections. */
const LETTERS_PX = 22;
/** px. Letters that stand nearer than this are left out, their lines are not. */
const APART_PX = 18;
const letterOf = (i: number): string => String.fromCharCode(97 + (i % 26));

/** The bar with what is cut off it, and the blank: a line on the one comes to lie where the same letter is on the other. */
export function ShapeView({ result }: { lane: LaneResult; result: StepResult }) {
  const { plan, shop } = useEvaluation();
  const [room, { width }] = useSize();
  const [bar] = result.before;
  const blank = result.after?.[0];
  const made = blank?.blank;
  if (!bar || !made)
    return <Typography color="text.secondary">There is nothing forged to shape here yet.</Typography>;
  const actions = actionsOf(result, shop);
  const shape = told(actions, 'forge to shape')!;
  const cut = told(actions, 'cut tip');
  const offMm = Math.max(0, bar.lengthMm - made.forged.barLengthMm);
  const perMm = Math.max(0, (width - 4) / Math.max(bar.lengthMm, blank.lengthMm));
  const common = { plan, stepId: result.step.id, view: 'etched', face: 'top' } as const;
  const barPx = { width: Math.round(bar.lengthMm * perMm), height: Math.round(sizeOf(bar).widthMm * perMm) };
  const blankPx = {
    width: Math.round(blank.lengthMm * perMm),
    height: Math.round(sizeOf(blank).widthMm * perMm),
  };
  return (
    <Box ref={room} sx={{ height: '100%', overflowY: 'auto' }}>
      {perMm > 0 && (
        <Stack spacing={1}>
          <Typography variant="body2" color="text.secondary">
            The blank, {formatLength(blank.lengthMm, shop.lengths)} long, edge down, end A to the left. What
            lies under a letter there lies under the same letter on the bar.
          </Typography>
          <Marked
            atMm={shape.sections.map((s) => s.atMm)}
            perMm={perMm}
            height={blankPx.height}
            width={blankPx.width}
          >
            <SteelView {...common} {...blankPx} when="after" urgency={1} label="The blank, forged" />
          </Marked>
          <Typography variant="body2" color="text.secondary">
            The bar before, {formatLength(bar.lengthMm, shop.lengths)} long
            {offMm > 0.5 && `: ${formatLength(offMm, shop.lengths)} come off at end A`}
            {cut && ', and the tip is cut'}.
          </Typography>
          <Marked
            atMm={shape.sections.map((s) => offMm + s.barMm)}
            perMm={perMm}
            height={barPx.height}
            width={barPx.width}
          >
            <SteelView {...common} {...barPx} when="before" urgency={2} label="The bar before" />
            <Cut cut={cut} offMm={offMm} {...barPx} perMm={perMm} />
          </Marked>
          <Typography variant="body2">{hammerSaid(made)}</Typography>
          <Button
            size="small"
            variant="outlined"
            sx={{ alignSelf: 'flex-start' }}
            onClick={() =>
              download(
                fileName(plan.name, '-blank.svg'),
                new Blob([blankSvg(made.forged, made.heelMm, plan.name)], {
                  type: 'image/svg+xml',
                }),
              )
            }
          >
            Outline in true size, SVG
          </Button>
          <Sections told={shape} />
        </Stack>
      )}
    </Box>
  );
}

/** What the hammer is asked for, in a line. */
function hammerSaid({ forged, heelMm }: Blank): string {
  const { spread, lengthening } = hammered(forged, heelMm);
  const longer = lengthening.map((n) => n.toFixed(1)).join(' to ');
  return `The steel of the blade becomes ${longer} times as long${
    spread === null
      ? '.'
      : `; at its widest it spreads by ${spread.toFixed(2)}, where flat dies reach ${MOST_SPREAD} at most and less than 0 wants blows on the edge.`
  }`;
}

interface MarkedProps {
  atMm: readonly number[];
  perMm: number;
  width: number;
  height: number;
  children: React.ReactNode;
}

/** Which letters there is room for, from the left. */
function lettersApart(xs: readonly number[]): boolean[] {
  let last = -Infinity;
  return xs.map((x) => {
    if (x - last < APART_PX) return false;
    last = x;
    return true;
  });
}

/** A picture with a line at every section, and its letter under it. */
function Marked({ atMm, perMm, width, height, children }: MarkedProps) {
  const shown = lettersApart(atMm.map((mm) => mm * perMm));
  return (
    <Box sx={{ position: 'relative', width, height: height + LETTERS_PX }}>
      {children}
      <svg
        width={width}
        height={height + LETTERS_PX}
        style={{ position: 'absolute', left: 0, top: 0, overflow: 'visible', pointerEvents: 'none' }}
        aria-hidden
      >
        {atMm.map((mm, i) => (
          <g key={i}>
            <line
              x1={mm * perMm}
              x2={mm * perMm}
              y1={0}
              y2={height + 4}
              stroke={colours.oxide}
              strokeWidth={1}
              strokeDasharray="3 3"
            />
            {shown[i] && (
              <text
                x={Math.min(width - 5, Math.max(5, mm * perMm))}
                y={height + 18}
                fontFamily={fonts.numbers}
                fontSize={15}
                textAnchor="middle"
                fill={colours.ink}
              >
                {letterOf(i)}
              </text>
            )}
          </g>
        ))}
      </svg>
    </Box>
  );
}

interface CutProps {
  cut: TipCutTold | undefined;
  offMm: number;
  width: number;
  height: number;
  perMm: number;
}

/** What comes off the bar before: its end, and the sides of its tip. Its edge lies down. */
function Cut({ cut, offMm, width, height, perMm }: CutProps) {
  const from = width - (cut?.alongMm ?? 0) * perMm;
  const off = (points: string) => (
    <polygon points={points} fill={colours.paper} fillOpacity={0.72} stroke={colours.oxide} />
  );
  return (
    <svg
      width={width}
      height={height}
      style={{ position: 'absolute', left: 0, top: 0, pointerEvents: 'none' }}
      aria-hidden
    >
      {offMm > 0.5 && off(`0,0 ${offMm * perMm},0 ${offMm * perMm},${height} 0,${height}`)}
      {cut && cut.offSpineMm > 0 && off(`${from},0 ${width},0 ${width},${cut.offSpineMm * perMm}`)}
      {cut &&
        cut.offEdgeMm > 0 &&
        off(`${from},${height} ${width},${height} ${width},${height - cut.offEdgeMm * perMm}`)}
    </svg>
  );
}

/** The sections in figures, as they are forged. */
function Sections({ told: { sections, edges } }: { told: Told }) {
  const { shop } = useEvaluation();
  const mm = (length: number) => formatLength(length, shop.lengths);
  const fine = (length: number) => formatFine(length, shop.lengths);
  const head = [
    '',
    'From end A',
    'On the bar',
    'Wide',
    edges === 2 ? 'Thick in the middle' : 'Thick at the spine',
    edges === 2 ? 'At both edges' : 'At the edge',
  ];
  return (
    <Box
      component="table"
      sx={{
        borderCollapse: 'collapse',
        fontSize: 15,
        '& td': { fontFamily: fonts.numbers },
        '& td, & th': { px: 1, py: 0.25, textAlign: 'right' },
        '& th': { fontWeight: 600, borderBottom: `1px solid ${colours.faded}` },
      }}
    >
      <thead>
        <tr>
          {head.map((h) => (
            <th key={h} scope="col">
              {h}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {sections.map((s, i) => (
          <tr key={s.atMm}>
            <td>
              <b>{letterOf(i)}</b> {s.name}
            </td>
            <td>{mm(s.atMm)}</td>
            <td>{mm(s.barMm)}</td>
            <td>{mm(s.toEdgeMm + s.toSpineMm)}</td>
            <td>{fine(s.spineMm)}</td>
            <td>{fine(s.edgeMm)}</td>
          </tr>
        ))}
      </tbody>
    </Box>
  );
}
