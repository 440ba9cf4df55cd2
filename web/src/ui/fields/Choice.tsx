import { MenuItem, TextField } from '@mui/material';

interface ChoiceProps<T extends string> {
  label: string;
  value: T;
  options: readonly (readonly [value: T, label: string])[];
  onChange(value: T): void;
  problem?: string | undefined;
  width?: number | string;
}

/** One of a few, each in its own words. */
export function Choice<T extends string>({
  label,
  value,
  options,
  onChange,
  problem,
  width = '100%',
}: ChoiceProps<T>) {
  return (
    <TextField
      select
      label={label}
      value={value}
      onChange={(change) => onChange(change.target.value as T)}
      error={problem !== undefined}
      helperText={problem}
      sx={{ width }}
    >
      {options.map(([option, name]) => (
        <MenuItem key={option} value={option}>
          {name}
        </MenuItem>
      ))}
    </TextField>
  );
}
