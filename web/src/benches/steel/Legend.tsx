import { materialOrder } from '../../../../core/plan/index.ts';
import { Box, Stack, Typography } from '@mui/material';
import { massKg, totalVolume } from '../../../../core/materials/volumes.ts';
import { materialById } from '../../../../core/materials/material.ts';
import { type Ink, type View, makePalette } from '../../../../core/render/palette.ts';
import { materialCode } from '../../../../core/shop/shop.ts';
import type { Billet } from '../../../../core/billet/billet.ts';
import { addVolumes } from '../../../../core/materials/volumes.ts';
import { formatMass } from '../../../../core/units/index.ts';
import { colours } from '../../ui/theme.ts';
import { useEvaluation } from '../../document/useEvaluation.ts';

const rgb = (c: Ink['paper']): string => `rgb(${c.map(Math.round).join(' ')})`;

/** The same hatch as in the picture, as a CSS background. */
function swatch(ink: Ink): string {
  if (ink.duty === 0) return rgb(ink.paper);
  const angle = (Math.atan2(ink.hatchX, ink.hatchY) * 180) / Math.PI;
  const period = 1 / Math.hypot(ink.hatchX, ink.hatchY);
  const line = period * ink.duty;
  return `repeating-linear-gradient(${angle}deg, ${rgb(ink.line)} 0 ${line}px, ${rgb(ink.paper)} ${line}px ${period}px)`;
}

/** Share of the steel below which a material is only a trace, such as of a jacket ground off. */
const TRACE = 5e-4;

/** What is what in the picture, and how much of it there is. */
export function Legend({ view, billets }: { view: View; billets: readonly Billet[] }) {
  const evaluation = useEvaluation();
  const { shop } = evaluation;
  const order = materialOrder(evaluation);
  const palette = makePalette(shop, view, order);
  const volumes = addVolumes(...billets.map((b) => b.volumes));
  const whole = totalVolume(volumes);
  const present = order.filter((id) => (volumes[id] ?? 0) > TRACE * whole);
  return (
    <Stack
      direction="row"
      useFlexGap
      sx={{ flexWrap: 'wrap', columnGap: 2, m: 0, p: 0 }}
      component="ul"
      aria-label="Materials in the picture"
    >
      {present.map((id) => (
        <Stack
          key={id}
          component="li"
          direction="row"
          spacing={0.75}
          sx={{ alignItems: 'center', listStyle: 'none' }}
        >
          <Box
            sx={{
              width: 22,
              height: 16,
              border: `1px solid ${colours.faded}`,
              background: swatch(palette[materialCode(shop, id)]!),
            }}
          />
          <Typography variant="body2">
            {materialById(shop.materials, id)?.name}{' '}
            <span style={{ color: colours.faded }}>
              {formatMass(massKg({ [id]: volumes[id] }, shop.materials), shop.masses)}
            </span>
          </Typography>
        </Stack>
      ))}
    </Stack>
  );
}
