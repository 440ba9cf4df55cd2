import { Box } from '@mui/material';
import type { Material } from '../../../core/materials/material.ts';
import { colours } from './theme.ts';

/** How a material looks when etched. */
export function ToneSwatch({
  material: { tone, tint, etches },
}: {
  material: Pick<Material, 'tone' | 'tint' | 'etches'>;
}) {
  const [r, g, b] = (tint ?? [255, 255, 255]).map((c) => Math.round(c * tone));
  return (
    <Box
      role="img"
      aria-label={`etches ${etches || 'as shown'}`}
      sx={{ width: 40, height: 20, border: `1px solid ${colours.faded}`, background: `rgb(${r} ${g} ${b})` }}
    />
  );
}
