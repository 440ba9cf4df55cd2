import { Box, Slider, Typography } from '@mui/material';
import { type Quantity, showQuantity } from '../../../../core/units/index.ts';
import { useUnits } from '../units.ts';

interface LevelFieldProps {
  /** What the number is, as its schema says; the slider runs over all of it. */
  of: Quantity;
  value: number;
  step: number;
  onChange(value: number): void;
  width?: number;
}

/** A number set by eye, between its bounds. */
export function LevelField({ of, value, step, onChange, width }: LevelFieldProps) {
  const units = useUnits();
  return (
    <Box sx={{ width }}>
      <Typography variant="body2">
        {of.label}: {showQuantity(of, value, units)}
      </Typography>
      <Slider
        size="small"
        aria-label={of.label}
        value={value}
        min={of.least}
        max={of.most}
        step={step}
        onChange={(_, now) => onChange(now as number)}
      />
    </Box>
  );
}
