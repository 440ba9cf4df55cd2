import { Slider } from '@mui/material';
import { useMemo, useState } from 'react';
import type { GroundBlade } from '../../../../core/blade/index.ts';
import type { Evaluation } from '../../../../core/plan/index.ts';
import { formatLength } from '../../../../core/units/index.ts';
import { SteelView } from '../../benches/steel/SteelView.tsx';
import { Shown } from './Shown.tsx';

/** How high a long blade is shown in part. */
export const CLOSE_UP_PX = 300;

interface CloseUpProps {
  evaluation: Evaluation;
  stepId: string;
  ground: GroundBlade;
  width: number;
}

/** Of a long blade a part, large: it is drawn along it from the tang's end to the tip. */
export function CloseUp({ evaluation: { plan, shop }, stepId, ground, width }: CloseUpProps) {
  const [at, setAt] = useState(0.5);
  const aspect = width / CLOSE_UP_PX;
  const closeUp = useMemo(() => ({ at, aspect }), [at, aspect]);
  const shownMm = Math.min(ground.widthMm, aspect * ground.heightMm);
  const middle = (percent: number) => {
    const mm = (percent / 100) * (ground.widthMm - shownMm) + shownMm / 2 - ground.heelMm;
    return `${formatLength(Math.abs(mm), shop.lengths)} ${mm < 0 ? 'behind' : 'from'} the heel`;
  };
  return (
    <Shown title={`Close up, right side; its middle ${middle(100 * at)}: draw it along the blade`}>
      <SteelView
        plan={plan}
        stepId={stepId}
        when="after"
        face="top"
        view="etched"
        blade="right"
        closeUp={closeUp}
        width={Math.round(width)}
        height={CLOSE_UP_PX}
        urgency={0}
        label="Close up of the ground blade"
      />
      <Slider
        aria-label="Close up, along the blade"
        value={100 * at}
        onChange={(_, percent) => setAt(percent / 100)}
        getAriaValueText={middle}
        sx={{ display: 'block', width: 'auto', mx: 1.5 }}
      />
    </Shown>
  );
}
