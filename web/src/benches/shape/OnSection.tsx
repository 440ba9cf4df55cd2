import Rotate90DegreesCcwIcon from '@mui/icons-material/Rotate90DegreesCcw';
import Rotate90DegreesCwIcon from '@mui/icons-material/Rotate90DegreesCw';
import { Box, Button, Stack, Typography } from '@mui/material';
import { useMemo } from 'react';
import { sizeOf } from '../../../../core/billet/billet.ts';
import { bladeSchema } from '../../../../core/blade/index.ts';
import type { Point2 } from '../../../../core/geometry/outline.ts';
import {
  type LaidSection,
  type LaneResult,
  type StepResult,
  bladeOnSection,
  quarterTurnBefore,
} from '../../../../core/plan/index.ts';
import { formatLength, quantitiesOf } from '../../../../core/units/index.ts';
import { editPlan } from '../../document/planStore.ts';
import { useEvaluation } from '../../document/useEvaluation.ts';
import { QuantityField } from '../../ui/fields/QuantityField.tsx';
import { colours } from '../../ui/theme.ts';
import { useSize } from '../../ui/useSize.ts';
import { SteelView } from '../steel/SteelView.tsx';

const of = quantitiesOf(bladeSchema);
const GAP = 20;
/** Times as wide as high. */
const FLAT = 2.5;
/** px. A flat section is drawn so high. */
const FLAT_PX = 96;
/** px. Words over and under a picture. */
const WORDS_PX = 64;
/** px. The tools over the pictures. */
const TOOLS_PX = 100;

/** The blade laid on the section of the bar before this move: what lies outside it is cut, forged or ground away. */
export function OnSection({ result }: { lane: LaneResult; result: StepResult }) {
  const evaluation = useEvaluation();
  const { plan, shop } = evaluation;
  const { blade } = plan;
  const { id } = result.step;
  const [room, { width, height }] = useSize();
  const sections = useMemo(
    () => (blade ? bladeOnSection(evaluation, id, blade) : null),
    [evaluation, blade, id],
  );
  const [bar] = result.before;
  if (!blade || !bar || !sections || sections.length === 0)
    return <Typography color="text.secondary">No blade lies on this bar yet.</Typography>;
  const { widthMm, heightMm } = sizeOf(bar);
  // A flat bar is seen larger one section under another.
  const isFlat = widthMm > FLAT * heightMm;
  const columns = isFlat ? 1 : sections.length;
  const perMm = Math.max(
    0,
    Math.min(
      (width - (columns - 1) * GAP - 4) / columns / widthMm,
      (isFlat ? FLAT_PX : height - TOOLS_PX - WORDS_PX) / heightMm,
    ),
  );
  const turn = (way: 'turned 90°' | 'turned 270°') =>
    editPlan((now) => quarterTurnBefore(now, id, way), 'turn the bar');
  return (
    <Box ref={room} sx={{ height: '100%', overflowY: 'auto' }}>
      <Stack
        direction="row"
        useFlexGap
        spacing={1}
        sx={{ flexWrap: 'wrap', alignItems: 'center', mb: 1, pt: 1 }}
      >
        <Button
          variant="outlined"
          size="small"
          startIcon={<Rotate90DegreesCcwIcon />}
          onClick={() => turn('turned 90°')}
        >
          Turn the bar left
        </Button>
        <Button
          variant="outlined"
          size="small"
          startIcon={<Rotate90DegreesCwIcon />}
          onClick={() => turn('turned 270°')}
        >
          Turn the bar right
        </Button>
        <QuantityField
          of={of('acrossMm')}
          width={150}
          value={blade.acrossMm}
          onChange={(acrossMm) =>
            editPlan((now) => ({ ...now, blade: { ...blade, acrossMm } }), 'blade acrossMm')
          }
        />
        <Typography variant="body2" color="text.secondary">
          The bar before this move, seen on end B: what is bright becomes blade, the rest is cut, forged or
          ground away.
        </Typography>
      </Stack>
      {perMm > 0 && (
        <Box
          sx={{
            display: 'flex',
            flexDirection: isFlat ? 'column' : 'row',
            gap: `${GAP / 2}px ${GAP}px`,
          }}
        >
          {sections.map((section) => (
            <Box key={section.fromHeelMm} sx={{ width: widthMm * perMm }}>
              <Typography variant="body2">
                <b>{formatLength(section.fromHeelMm, shop.lengths)}</b> from the heel
              </Typography>
              <Box sx={{ position: 'relative', width: widthMm * perMm, height: heightMm * perMm }}>
                <SteelView
                  plan={plan}
                  stepId={id}
                  when="before"
                  face="middle"
                  cutShare={section.atMm / bar.lengthMm}
                  view="etched"
                  width={Math.round(widthMm * perMm)}
                  height={Math.round(heightMm * perMm)}
                  urgency={1}
                  label={`The section ${formatLength(section.atMm, shop.lengths)} from end A, with the blade on it`}
                />
                <Wedge section={section} widthMm={widthMm} heightMm={heightMm} perMm={perMm} />
              </Box>
              <Typography variant="body2" color="text.secondary">
                {formatLength(section.atMm, shop.lengths)} from end A; {Math.round(100 * section.kept)} % of
                it becomes blade
              </Typography>
            </Box>
          ))}
        </Box>
      )}
    </Box>
  );
}

interface WedgeProps {
  section: LaidSection;
  widthMm: number;
  heightMm: number;
  perMm: number;
}

/** The blade's section over the bar's, the rest dimmed; its edge and its spine named. */
function Wedge({ section, widthMm, heightMm, perMm }: WedgeProps) {
  const [w, h] = [widthMm * perMm, heightMm * perMm];
  const at = ([x, y]: Point2): Point2 => [w / 2 + x * perMm, h / 2 - y * perMm];
  const line = `M${section.outline.map((p) => at(p).join(',')).join('L')}Z`;
  const named = (text: string, p: Point2) => {
    const [x, y] = at(p);
    return (
      <text
        x={Math.min(w - 22, Math.max(22, x))}
        y={Math.min(h - 6, Math.max(16, y))}
        textAnchor="middle"
        fontSize={15}
        fontWeight={700}
        fill={colours.oxide}
        stroke={colours.paper}
        strokeWidth={4}
        paintOrder="stroke"
      >
        {text}
      </text>
    );
  };
  return (
    <svg width={w} height={h} style={{ position: 'absolute', left: 0, top: 0 }} aria-hidden>
      <path d={`M0,0H${w}V${h}H0Z${line}`} fillRule="evenodd" fill={colours.paper} fillOpacity={0.7} />
      <path d={line} fill="none" stroke={colours.oxide} strokeWidth={2} />
      {named('edge', section.edge)}
      {named('spine', section.spine)}
    </svg>
  );
}
