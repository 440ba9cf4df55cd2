import { firstNumbers, moveOf } from '../../../../core/moves/index.ts';
import { Box, Slider, Stack, Typography } from '@mui/material';
import { useMemo, useState } from 'react';
import { type Billet, sizeOf } from '../../../../core/billet/billet.ts';
import { facePlane } from '../../../../core/billet/face.ts';
import { type Can, roomOf, withBars } from '../../../../core/canister/can.ts';
import { type Place, isBall } from '../../../../core/canister/inserts.ts';
import { allPlaced } from '../../../../core/canister/layout.ts';
import { type CanPressing, solidCan } from '../../../../core/canister/consolidate.ts';
import { type LaneResult, type StepResult, flowingOf, canOf } from '../../../../core/plan/index.ts';
import { plural } from '../../../../core/instruct/said.ts';
import { passesOf, pressedCan } from '../../../../core/moves/forge/consolidate/consolidateByVolumes.ts';
import { formatFine, formatLength } from '../../../../core/units/index.ts';
import { colours } from '../../ui/theme.ts';
import { Toggles } from '../../ui/fields/Toggles.tsx';
import { PressView } from '../press/PressView.tsx';
import { useEvaluation } from '../../document/useEvaluation.ts';
import { useSize } from '../../ui/useSize.ts';
import { DIMENSION_ROOM, Dimensioned } from '../steel/Dimensioned.tsx';
import { Legend } from '../steel/Legend.tsx';
import { SteelView } from '../steel/SteelView.tsx';
import { FormView } from './FormView.tsx';
import { InsertHandles } from './InsertHandles.tsx';

interface CanViewProps {
  lane: LaneResult;
  result: StepResult;
}

type Shown = 'section' | 'side' | 'above' | 'pressing' | 'form';
type Cut = 'middle' | 'lengthwise' | 'level';

const CUTS: Partial<Record<Shown, Cut>> = { section: 'middle', side: 'lengthwise', above: 'level' };
/** What a cut is moved along, and what its picture is called. */
const CUT_SAID: Record<Cut, readonly [along: string, label: string]> = {
  middle: ['from end A', 'The can in section'],
  lengthwise: ['from the left', 'The can cut lengthwise'],
  level: ['from the bottom', 'The can cut level, seen from above'],
};

/** A can in section, from the side, and its form. */
export function CanView({ lane, result }: CanViewProps) {
  const { shop } = useEvaluation();
  const [shown, setShown] = useState<Shown>('section');
  if (!result.after)
    return (
      <Typography color="text.secondary">The can cannot be shown until what is wrong is mended.</Typography>
    );
  const next = nextOf(lane, result);
  const flows = next !== undefined && flowingOf(next, shop) !== null;
  const hasPicture = canOf(result)?.picture !== undefined;
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', minHeight: 0, flex: 1, height: '100%', gap: 0.5 }}>
      <Toggles<Shown>
        label="View of the can"
        value={shown}
        options={[
          ['section', 'Section'],
          ['side', 'From the side'],
          ['above', 'From above'],
          ...(flows ? [['pressing', 'Between the dies'] as const] : []),
          ...(hasPicture ? [['form', 'Form'] as const] : []),
        ]}
        onChange={setShown}
      />
      {shown === 'form' && hasPicture ? (
        <FormView result={result} />
      ) : shown === 'pressing' && flows ? (
        <PressView lane={lane} result={next} />
      ) : (
        <Filled key={shown} lane={lane} result={result} face={CUTS[shown] ?? 'middle'} />
      )}
    </Box>
  );
}

const nextOf = (lane: LaneResult, result: StepResult): StepResult | undefined =>
  lane.steps[lane.steps.indexOf(result) + 1];

/** How the can is planned to be pressed; as it is first proposed where that is not planned yet. */
function usePressing(lane: LaneResult, result: StepResult): CanPressing {
  const next = nextOf(lane, result);
  const planned = (next && moveOf(next.step.kind).closes?.(next.step.parameters)) ?? null;
  const { shop } = useEvaluation();
  return useMemo(
    () => planned ?? firstNumbers('consolidate', result.after!, shop),
    [planned, result.after, shop],
  );
}

/** The can with its inserts, loose at first; a slider presses it solid. */
function Filled({ lane, result, face }: CanViewProps & { face: Cut }) {
  const { plan, shop } = useEvaluation();
  const [room, size] = useSize();
  const [share, setShare] = useState(0);
  const pressing = usePressing(lane, result);
  const pressed = useMemo(() => (share > 0 ? { share, pressing } : undefined), [share, pressing]);
  const bar = result.after![0];
  const can = withBars(canOf(result)!, result.before);
  const loose = facePlane(bar, face);
  // Where it tells most, until somebody moves it.
  const [chosenCut, setCutShare] = useState<number | null>(null);
  const telling = useMemo(() => tellingCut(can, bar, face), [can, bar, face]);
  const cutShare = chosenCut ?? telling;
  const before = pressedCan(bar);
  const now = solidCan(before, pressing, share);
  const w = face === 'middle' ? now.widthMm : now.lengthMm;
  const h = face === 'level' ? now.widthMm : now.heightMm;
  const along = { middle: now.lengthMm, lengthwise: now.widthMm, level: now.heightMm }[face];
  const at = formatLength(cutShare * along, shop.lengths);
  // The scale is the loose can's, so that it is seen to shrink.
  const scale = Math.max(
    0.05,
    Math.min(
      (size.width - DIMENSION_ROOM.right - 8) / loose.widthMm,
      (size.height - DIMENSION_ROOM.below - 8) / loose.heightMm,
    ),
  );
  const density = before.fillFactor / (1 - share * (1 - before.fillFactor));
  const { passes, flatMm } = passesOf(bar, { ...pressing, passMm: 2.5 });
  const [width, height] = [Math.max(1, Math.round(w * scale)), Math.max(1, Math.round(h * scale))];
  return (
    <>
      <Box
        ref={room}
        sx={{ flex: 1, minHeight: 120, display: 'grid', placeContent: 'center', overflow: 'hidden' }}
      >
        {size.width > 0 && (
          <Dimensioned
            width={w * scale}
            height={h * scale}
            across={formatLength(w, shop.lengths)}
            up={formatLength(h, shop.lengths)}
          >
            <Box sx={{ position: 'relative', width, height }}>
              <SteelView
                plan={plan}
                stepId={result.step.id}
                when="after"
                face={face}
                view="etched"
                width={width}
                height={height}
                urgency={0}
                pressed={pressed}
                cutShare={cutShare}
                label={CUT_SAID[face][1]}
              />
              {face === 'middle' && share === 0 && (
                <InsertHandles
                  stepId={result.step.id}
                  can={can}
                  sectionMm={cutShare * can.lengthMm - can.capMm}
                  scale={width / loose.widthMm}
                  width={width}
                  height={height}
                />
              )}
            </Box>
          </Dimensioned>
        )}
      </Box>
      <Stack direction="row" useFlexGap spacing={2} sx={{ alignItems: 'center', flexWrap: 'wrap' }}>
        <Marked
          label="Where it is cut"
          share={cutShare}
          onChange={setCutShare}
          marks={[{ value: 50, label: `cut ${at} ${CUT_SAID[face][0]}` }]}
        />
        <Marked
          label="From loose to solid"
          share={share}
          onChange={setShare}
          marks={[
            { value: 0, label: 'loose' },
            { value: 100, label: 'solid' },
          ]}
        />
        <Typography sx={{ minWidth: 240 }} aria-live="polite">
          {Math.round(100 * density)} % solid, wall {formatFine(now.wallXMm, shop.lengths)}.{' '}
          <span style={{ color: colours.faded }}>
            {share >= 1
              ? 'By volumes alone: a prediction of first order.'
              : `${plural(passes.length + flatMm.length, 'pass', 'passes')} of ${formatFine(2.5, shop.lengths)} to solid.`}
          </span>
        </Typography>
      </Stack>
      <Legend view="etched" billets={[bar]} />
    </>
  );
}

interface MarkedProps {
  label: string;
  /** 0…1 */
  share: number;
  onChange(share: number): void;
  marks: { value: number; label: string }[];
}

/** A slider over a share, its marks below it. */
const Marked = ({ label, share, onChange, marks }: MarkedProps) => (
  <Box sx={{ flex: '1 1 160px', px: 2.5 }}>
    <Slider
      aria-label={label}
      value={100 * share}
      step={1}
      onChange={(_, percent) => onChange((percent as number) / 100)}
      marks={marks}
      sx={{
        color: colours.oxide,
        mb: '14px',
        '& .MuiSlider-markLabel': { top: 22, color: colours.ink },
      }}
    />
  </Box>
);

/** The middle, or where the cut goes through the middles of most balls: between two beds nothing of them is seen. */
function tellingCut(can: Can, bar: Billet, face: Cut): number {
  const { widthMm, heightMm } = sizeOf(bar);
  const room = roomOf(can);
  const balls = allPlaced(can.inserts, room).filter((p) => isBall(p.insert));
  if (balls.length === 0) return 0.5;
  const share = {
    middle: (p: Place) => (p.z + can.capMm) / can.lengthMm,
    lengthwise: (p: Place) => 0.5 + p.x / widthMm,
    level: (p: Place) => 0.5 + p.y / heightMm,
  }[face];
  const beds = new Map<string, number[]>();
  for (const ball of balls) {
    const key = share(ball).toFixed(2);
    beds.set(key, [...(beds.get(key) ?? []), share(ball)]);
  }
  const fullest = [...beds.values()].reduce((a, b) =>
    b.length > a.length || (b.length === a.length && Math.abs(b[0] - 0.5) < Math.abs(a[0] - 0.5)) ? b : a,
  );
  return Math.round(100 * fullest[0]) / 100;
}
