import { Box, Button, Typography } from '@mui/material';
import { recipeOf } from '../../../../core/recipes/index.ts';
import { formatMass } from '../../../../core/units/index.ts';
import { useShop } from '../../document/useEvaluation.ts';
import type { Found } from '../../document/wishes.ts';
import { PaintedView } from '../../benches/steel/PaintedView.tsx';
import { Popup } from '../../ui/Popup.tsx';

/** CSS pixels to the millimetre, by definition 96 to the inch. */
const PX_PER_MM = 96 / 25.4;

interface CompareProps {
  kept: readonly Found[];
  close(): void;
  open(id: number): void;
}

/** What was kept, one under the other at the size it will have. */
export function Compare({ kept, close, open }: CompareProps) {
  const { masses } = useShop();
  return (
    <Popup title="At true size" width="md" onClose={close} actions={<Button onClick={close}>Close</Button>}>
      <Typography color="text.secondary">As far as this screen’s inches are inches.</Typography>
      <Box sx={{ overflowX: 'auto', display: 'grid', gap: 2 }} tabIndex={0} aria-label="Kept, at true size">
        {kept.map((one) => (
          <Box key={one.id}>
            <PaintedView
              picture={one.picture}
              label={`${recipeOf(one.offer.spec.recipe).name}, at true size`}
              width={one.pictureMm * PX_PER_MM}
            />
            <Button size="small" onClick={() => open(one.id)}>
              {recipeOf(one.offer.spec.recipe).name}: {formatMass(one.offer.steelKg, masses)},{' '}
              {one.offer.heats} heats
            </Button>
          </Box>
        ))}
      </Box>
    </Popup>
  );
}
