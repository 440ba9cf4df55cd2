import { ToggleButton, ToggleButtonGroup } from '@mui/material';
import { colours } from '../theme.ts';

interface TogglesProps<T extends string> {
  label: string;
  value: T;
  options: readonly (readonly [value: T, text: string])[];
  onChange(value: T): void;
}

/** A choice of a few, all in sight. */
export function Toggles<T extends string>({ label, value, options, onChange }: TogglesProps<T>) {
  return (
    <ToggleButtonGroup
      size="small"
      exclusive
      value={value}
      onChange={(_, chosen: T | null) => chosen !== null && onChange(chosen)}
      aria-label={label}
    >
      {options.map(([key, text]) => (
        <ToggleButton key={key} value={key} sx={{ textTransform: 'none', py: 0.4, color: colours.ink }}>
          {text}
        </ToggleButton>
      ))}
    </ToggleButtonGroup>
  );
}
