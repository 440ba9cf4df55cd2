import { Box } from '@mui/material';
import { shortFace, tellingFace } from '../../../../core/billet/face.ts';
import type { Plan, StepResult } from '../../../../core/plan/index.ts';
import { SteelView } from './SteelView.tsx';

interface SmallFaceProps {
  plan: Plan;
  result: StepResult;
  width: number;
  height: number;
  urgency: number;
  label: string;
}

/** The steel after a move, small: the telling face, of a long one the middle, as large as the room allows. */
export function SmallFace({ plan, result, width, height, urgency, label }: SmallFaceProps) {
  const billet = result.after?.[0];
  if (!billet) return <Box sx={{ height }} />;
  const face = tellingFace(billet);
  const mostAspect = width / (0.8 * height);
  const plane = shortFace(billet, face, mostAspect);
  const scale = Math.min(width / plane.widthMm, height / plane.heightMm);
  const size = {
    width: Math.max(2, Math.round(plane.widthMm * scale)),
    height: Math.max(2, Math.round(plane.heightMm * scale)),
  };
  return (
    <Box sx={{ height, display: 'grid', placeContent: 'end center' }}>
      <SteelView
        plan={plan}
        stepId={result.step.id}
        when="after"
        face={face}
        view="etched"
        urgency={urgency}
        label={label}
        mostAspect={mostAspect}
        {...size}
      />
    </Box>
  );
}
