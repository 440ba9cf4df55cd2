import { Box, Slider, Stack, Typography } from '@mui/material';
import { useEffect, useState } from 'react';
import { sizeOf } from '../../../../core/billet/billet.ts';
import { meanLine } from '../../../../core/billet/cornerLine.ts';
import { grindTrue } from '../../../../core/geometry/grindTrue.ts';
import { isRectangle } from '../../../../core/geometry/outline.ts';
import { radians } from '../../../../core/moves/contract/common.ts';
import { bestTrueDeg } from '../../../../core/moves/saw/trueUp.ts';
import { type StepResult, flowingOf, madeAgain, turnedOff } from '../../../../core/plan/index.ts';
import { formatFine, formatLength } from '../../../../core/units/index.ts';
import { colours } from '../../ui/theme.ts';
import { useEvaluation } from '../../document/useEvaluation.ts';
import { SteelView } from '../steel/SteelView.tsx';
import { useFlows, wantFlows } from '../../document/flows.ts';

const MOST_OFF_DEG = 8;
/** Below this nothing is worth grinding. Degrees. */
const TRUE_DEG = 0.2;

/** What happens when the bar is not tipped quite right: the section, the four-way it makes, and what grinding it true costs. */
export function AngleOff({ result, size }: { result: StepResult; size: { width: number; height: number } }) {
  const { plan, shop } = useEvaluation();
  const flows = useFlows((state) => state.flows);
  const [dragged, setDragged] = useState(3);
  const [offDeg, setOffDeg] = useState(3);
  const right = flowingOf(result, shop)!;
  const off = turnedOff(result, offDeg)!;
  const other = flowingOf(off, shop)!;
  const asked = other.spec;
  const stage = flows.of(asked);
  const known = stage !== null;
  useEffect(() => {
    if (!known) wantFlows('angle', [asked]);
  }, [known, asked]);
  useEffect(() => () => wantFlows('angle', []), []);
  const bar = stage?.ok ? madeAgain(off, { shop, flows }) : null;
  const after = result.after?.[0];
  const { widthMm, heightMm } = after ? sizeOf(after) : sizeOf(right.bar);
  const room = { width: size.width - 40, height: size.height - 150 };
  const scale = Math.max(0.05, Math.min(room.width / (4 * widthMm), room.height / heightMm));
  const [w, h] = [Math.max(8, Math.round(widthMm * scale)), Math.max(8, Math.round(heightMm * scale))];
  function sayOf(): string {
    if (!known) return 'Working it out …';
    if (!bar) return 'So turned, the flow could not be worked out.';
    if (!isRectangle(bar.outline)) return 'Left as pressed it has no corners that lines could meet.';
    const line = meanLine(bar, { x: 0, y: 0, ...sizeOf(bar) });
    const best = bestTrueDeg(bar);
    if (!line || best === null) return 'No lines run to its corners.';
    const missed = `The corner line misses its corner by ${formatFine(Math.abs(line.missMm), shop.lengths)} (${Math.abs(line.turnedDeg).toFixed(1)}°)`;
    if (Math.abs(best) < TRUE_DEG) return `${missed}: true to the eye.`;
    const trued = grindTrue(Math.min(sizeOf(bar).widthMm, sizeOf(bar).heightMm), radians(best));
    return `${missed}; in a four-way the lines meet so far from the middle. Ground true by ${Math.abs(best)}° on a ${formatFine(trued.shimMm, shop.lengths)} shim the bar comes down to ${formatLength(trued.toSideMm, shop.lengths)} and loses ${(100 * trued.lostShare).toFixed(1)} % of its steel.`;
  }

  return (
    <Box sx={{ width: size.width - 8 }}>
      <Stack direction="row" spacing={2} sx={{ alignItems: 'center' }}>
        <Typography sx={{ whiteSpace: 'nowrap' }}>Turned off by {dragged}°</Typography>
        <Slider
          aria-label="Turned off by"
          value={dragged}
          min={-MOST_OFF_DEG}
          max={MOST_OFF_DEG}
          step={0.5}
          marks={[{ value: 0 }]}
          valueLabelDisplay="auto"
          onChange={(_, v) => setDragged(v as number)}
          onChangeCommitted={(_, v) => setOffDeg(v as number)}
          sx={{ color: colours.oxide }}
        />
      </Stack>
      <Stack direction="row" spacing={2} sx={{ justifyContent: 'center', my: 1 }}>
        {(['planned', 'off'] as const).map((which) => (
          <Box key={which}>
            <Typography variant="h3" sx={{ whiteSpace: 'nowrap' }}>
              {which === 'planned' ? 'As planned' : `Off by ${offDeg}°`}, and its four-way
            </Typography>
            <Stack direction="row" spacing={1}>
              <Section
                {...{ plan, result, w, h }}
                offDeg={which === 'off' ? offDeg : 0}
                shown={which === 'planned' || known}
              />
              <FourWay
                {...{ plan, result }}
                w={Math.round(w / 2)}
                h={Math.round(h / 2)}
                offDeg={which === 'off' ? offDeg : 0}
                shown={which === 'planned' || known}
              />
            </Stack>
          </Box>
        ))}
      </Stack>
      <Typography aria-live="polite">{sayOf()}</Typography>
    </Box>
  );
}

interface PieceProps {
  plan: Parameters<typeof SteelView>[0]['plan'];
  result: StepResult;
  w: number;
  h: number;
  offDeg: number;
  shown: boolean;
  label?: string;
}

function Section({ plan, result, w, h, offDeg, shown, label }: PieceProps) {
  if (!shown) return <Box sx={{ width: w, height: h, bgcolor: colours.line }} />;
  return (
    <SteelView
      plan={plan}
      stepId={result.step.id}
      when="before"
      face="middle"
      view="etched"
      width={w}
      height={h}
      urgency={0}
      offDeg={offDeg}
      label={label ?? (offDeg === 0 ? 'The section as planned' : `The section turned off by ${offDeg}°`)}
    />
  );
}

/** Four of the section, mirrored to its sides, as a four-way is laid. */
function FourWay(props: PieceProps) {
  const { offDeg } = props;
  return (
    <Box
      role="img"
      aria-label={offDeg === 0 ? 'The four-way as planned' : `The four-way turned off by ${offDeg}°`}
      sx={{ display: 'grid', gridTemplateColumns: 'auto auto', width: 'max-content' }}
    >
      {[
        [1, 1],
        [-1, 1],
        [1, -1],
        [-1, -1],
      ].map(([sx, sy]) => (
        <Box key={`${sx}${sy}`} sx={{ transform: `scale(${sx}, ${sy})` }}>
          <Section {...props} label="" />
        </Box>
      ))}
    </Box>
  );
}
