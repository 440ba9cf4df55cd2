import { Box, Button, Stack, Typography } from '@mui/material';
import { useMemo, useState } from 'react';
import { tileJoints } from '../../../../core/assembly/index.ts';
import { type Billet, sizeOf } from '../../../../core/billet/billet.ts';
import { TILE_LAYS, type TileLay } from '../../../../core/billet/fields/tiled.ts';
import {
  type LaneResult,
  type StepResult,
  type TileAdvice,
  tileAdvice,
  WANTED_STRETCH,
} from '../../../../core/plan/index.ts';
import type { Shop } from '../../../../core/shop/shop.ts';
import {
  type TileParameters,
  sizesOf,
  tileFits,
  tileGapMm,
  tileLays,
} from '../../../../core/moves/saw/tile.ts';
import { formatFine, formatLength, quantityOf } from '../../../../core/units/index.ts';
import { moveOf } from '../../../../core/moves/index.ts';
import { colours, fonts } from '../../ui/theme.ts';
import { QuantityField } from '../../ui/fields/QuantityField.tsx';
import { BarSide } from '../BarSide.tsx';
import { changeSteps, setParameters } from '../../document/planStore.ts';
import { useEvaluation } from '../../document/useEvaluation.ts';
import { useSize } from '../../ui/useSize.ts';
import { SteelView } from '../steel/SteelView.tsx';

/** The bar from the side with its cuts, the tiles as they will lie, the face they make, and how to get the wanted stretch. */
export function TilesView({ lane, result }: { lane: LaneResult; result: StepResult }) {
  const { shop } = useEvaluation();
  const [bar] = result.before;
  if (!bar) return <Typography color="text.secondary">There is no bar to tile yet.</Typography>;
  const p = result.step.parameters as TileParameters;
  return (
    <Box
      sx={{
        display: 'flex',
        flexDirection: 'column',
        gap: 1,
        minHeight: 0,
        height: '100%',
        overflowY: 'auto',
      }}
    >
      <Faces lane={lane} result={result} />
      <TileRow bar={bar} p={p} stepId={result.step.id} shop={shop} />
      <JointWords result={result} />
      <Typography variant="h3">The bar from the side</Typography>
      <BarSide result={result} shop={shop} />
      <Waste bar={bar} p={p} />
      <Stretch result={result} />
    </Box>
  );
}

function Waste({ bar, p }: { bar: Billet; p: TileParameters }) {
  const { shop } = useEvaluation();
  const sizes = sizesOf(bar, p, shop);
  const used = sizes.count * sizes.pitchMm;
  const rest = bar.lengthMm - sizes.setbackMm - used;
  const wedges =
    sizes.setbackMm > 0.5
      ? `Each slanted end leaves a wedge ${formatLength(sizes.setbackMm, shop.lengths)} long: steel for a bolster, or a sample to etch. `
      : '';
  const spare = rest > 1 ? `${formatLength(rest, shop.lengths)} of bar is left over.` : '';
  return wedges + spare === '' ? null : (
    <Typography variant="body2" color="text.secondary">
      {wedges}
      {spare}
    </Typography>
  );
}

/** Share of a joint that may differ before it is called a mismatch. */
const MATCH = 0.02;

/** How the pictures meet from tile to tile, on the top and on the bottom. */
function JointWords({ result }: { result: StepResult }) {
  const { shop } = useEvaluation();
  const { before, after, step } = result;
  const joints = useMemo(() => {
    const at = moveOf(step.kind).joints?.(before[0], step.parameters, shop) ?? [];
    const { angleDeg } = step.parameters as TileParameters;
    return after ? tileJoints(after[0], at, (angleDeg * Math.PI) / 180) : [];
  }, [after, before, step, shop]);
  if (joints.length === 0) return null;
  const said = (['topMismatch', 'bottomMismatch'] as const).map((side) => {
    const face = side === 'topMismatch' ? 'top' : 'bottom';
    const worst = joints.reduce((a, b) => (b[side] > a[side] ? b : a));
    if (worst[side] <= MATCH) return `Every joint matches on the ${face}.`;
    return `On the ${face} ${joints.filter((j) => j[side] > MATCH).length} of ${joints.length} joints differ, most after tile ${worst.after}: ${Math.round(100 * worst[side])} % of it.`;
  });
  return (
    <Typography variant="body2" role="status">
      {said.join(' ')}
    </Typography>
  );
}

interface TileRowProps {
  bar: Billet;
  p: TileParameters;
  stepId: string;
  shop: Shop;
}

const SHORT: Record<TileLay, string> = {
  'as it lies': '',
  'rolled over': '⟲',
  'turned in the plane': '↻',
  'turned about its length': '⇅',
};

/** px. Thinner tiles are drawn larger, thicker ones smaller. */
const LEAST_HIGH = 20;
const MOST_HIGH = 64;

/** The tiles from the side in the order they will lie: press one to turn it over; what cannot fit shows its gap. */
function TileRow({ bar, p, stepId, shop }: TileRowProps) {
  const [box, { width }] = useSize();
  const sizes = sizesOf(bar, p, shop);
  const lays = tileLays(p, sizes.count);
  const cot = 1 / Math.tan((p.angleDeg * Math.PI) / 180);
  const gaps = lays.map((lay) => (tileFits(lay, p) ? 0 : tileGapMm(p)));
  const overMm = p.thicknessMm * cot;
  const room = Math.max(0, width - 8);
  const eachMm = sizes.faceMm + Math.max(0, ...gaps);
  // One scale both ways, so that the slant is the true one; in several lines where the tiles would be too thin to press.
  const scale = Math.min(
    Math.max(room / (sizes.count * eachMm + overMm), LEAST_HIGH / p.thicknessMm),
    room / (eachMm + overMm),
    MOST_HIGH / p.thicknessMm,
  );
  const perLine = Math.max(1, Math.floor((room / scale - overMm) / eachMm + 1e-6));
  const height = p.thicknessMm * scale;
  const slant = overMm * scale;
  const turn = (i: number) => {
    const next = TILE_LAYS[(TILE_LAYS.indexOf(lays[i]) + 1) % TILE_LAYS.length];
    setParameters(stepId, { ...p, lay: lays.map((l, k) => (k === i ? next : l)) }, 'lay');
  };
  return (
    <Box ref={box}>
      <Typography variant="h3">The tiles as they will lie</Typography>
      <Typography variant="body2" color="text.secondary">
        Seen on the left side, the new end A to the left. Press a tile to change how it lies: ⟲ rolled over, ↻
        turned in the plane, ⇅ turned about its length.
      </Typography>
      <Box sx={{ position: 'relative', height: Math.ceil(lays.length / perLine) * (height + 8), mt: 0.5 }}>
        {scale > 0 &&
          lays.map((lay, i) => {
            const fits = tileFits(lay, p);
            const line = Math.floor(i / perLine);
            const w = sizes.faceMm * scale;
            const before = gaps.slice(line * perLine, i).reduce((sum, g) => sum + g, 0);
            const left = 4 + (i - line * perLine) * w + before * scale;
            // Start to the left: the top of the row lies further to the start than its bottom, as the saw leaned.
            const points = fits
              ? `0,0 ${w},0 ${w + slant},${height} ${slant},${height}`
              : `${slant},0 ${w + slant},0 ${w},${height} 0,${height}`;
            return (
              <Box
                key={i}
                component="button"
                onClick={() => turn(i)}
                aria-label={`Tile ${i + 1}, ${lay}${fits ? '' : ', does not fit'}`}
                sx={{
                  position: 'absolute',
                  left,
                  top: 2 + line * (height + 8),
                  width: w + slant,
                  height: height + 2,
                  p: 0,
                  border: 0,
                  background: 'none',
                  cursor: 'pointer',
                }}
              >
                <svg width={w + slant} height={height + 2} aria-hidden>
                  <polygon
                    points={points}
                    fill={!fits ? colours.alarmWash : lay === 'as it lies' ? '#d5cdbd' : '#e9e1cf'}
                    stroke={fits ? colours.faded : colours.alarm}
                    strokeWidth={fits ? 1 : 2}
                  />
                  {(w > 22 || i % 5 === 0) && (
                    <text
                      x={(w + slant) / 2}
                      y={height / 2 + 5}
                      textAnchor="middle"
                      fontFamily={fonts.numbers}
                      fontSize={14}
                      fill={colours.ink}
                    >
                      {i + 1}
                      {w > 34 ? SHORT[lay] : ''}
                    </text>
                  )}
                </svg>
              </Box>
            );
          })}
      </Box>
    </Box>
  );
}

/** Both broad faces as laid, and the finished bar. */
function Faces({ lane, result }: { lane: LaneResult; result: StepResult }) {
  const { plan, shop } = useEvaluation();
  const [box, { width }] = useSize();
  const last = lane.steps.findLast((s) => s.after?.length === 1);
  if (!result.after) return null;
  const rows = [
    ...(last && last !== result
      ? [{ title: 'The finished face', stepId: last.step.id, billet: last.after![0], face: 'top' as const }]
      : []),
    { title: 'Laid, top', stepId: result.step.id, billet: result.after[0], face: 'top' as const },
    { title: 'Laid, bottom', stepId: result.step.id, billet: result.after[0], face: 'bottom' as const },
  ];
  const longest = Math.max(...rows.map((r) => r.billet.lengthMm));
  const scale = Math.max(0, (width - 4) / longest);
  return (
    <Box ref={box} sx={{ display: 'grid', gap: 0.75 }}>
      {scale > 0 &&
        rows.map((row) => (
          <Box key={row.title}>
            <Typography variant="body2" color="text.secondary">
              {row.title} · {formatLength(row.billet.lengthMm, shop.lengths)} ×{' '}
              {formatLength(sizeOf(row.billet).widthMm, shop.lengths)}
            </Typography>
            <SteelView
              plan={plan}
              stepId={row.stepId}
              when="after"
              face={row.face}
              view="etched"
              width={Math.max(1, Math.round(row.billet.lengthMm * scale))}
              height={Math.max(1, Math.round(sizeOf(row.billet).widthMm * scale))}
              urgency={3}
              label={row.title}
            />
          </Box>
        ))}
    </Box>
  );
}

const WORDS: Record<TileAdvice['what'], (value: string) => string> = {
  height: (v) => `Make the bar ${v} high before it is sawn`,
  angle: (v) => `Saw at ${v}`,
  'tile thickness': (v) => `Saw the tiles ${v} thick`,
  'final thickness': (v) => `Draw out to ${v} thick`,
};

const WHY_NOT: Record<NonNullable<TileAdvice['why']>, string> = {
  'no step': ': no draw step holds it yet',
  'cannot be done': ': the rest of this plan cannot be done then',
  'not the finished thickness': ': the finished bar would not be as thick as wanted',
};

/** How far the picture is stretched, and four ways to another stretch, each by one number. */
function Stretch({ result }: { result: StepResult }) {
  const evaluation = useEvaluation();
  const { shop } = evaluation;
  const [wanted, setWanted] = useState(1);
  const now = useMemo(() => tileAdvice(evaluation, result, wanted), [evaluation, result, wanted]);
  if (!now) return null;
  return (
    <Box>
      <Typography variant="h3">How far the picture is stretched</Typography>
      <Stack direction="row" spacing={1.5} sx={{ alignItems: 'center', my: 1, flexWrap: 'wrap' }} useFlexGap>
        <Typography>
          Each picture comes out <b style={{ fontFamily: fonts.numbers }}>{now.ratio.toFixed(2)}</b> times as
          long as wide.
        </Typography>
        <QuantityField of={quantityOf(WANTED_STRETCH)} width={170} value={wanted} onChange={setWanted} />
      </Stack>
      <Box sx={{ display: 'grid', gap: 0.75, gridTemplateColumns: { xs: '1fr', lg: '1fr 1fr' } }}>
        {now.advice.map((a) => {
          const value =
            a.value === null
              ? null
              : a.what === 'angle'
                ? `${a.value.toFixed(1)}°`
                : formatFine(a.value, shop.lengths);
          return (
            <Stack key={a.what} direction="row" spacing={1} sx={{ alignItems: 'center' }}>
              <Button
                size="small"
                variant="outlined"
                disabled={value === null || a.changes.length === 0}
                onClick={() => changeSteps(a.changes, `stretch by ${a.what}`)}
              >
                Do it
              </Button>
              <span>
                {value === null ? `No ${a.what} alone does it` : WORDS[a.what](value)}
                {a.why && WHY_NOT[a.why]}
              </span>
            </Stack>
          );
        })}
      </Box>
    </Box>
  );
}
