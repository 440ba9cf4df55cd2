import { MenuItem, TextField } from '@mui/material';
import { useShop } from '../plan/useEvaluation.ts';

interface ChoiceProps<T extends string> {
  label: string;
  value: T;
  options: readonly (readonly [value: T, label: string])[];
  onChange(value: T): void;
  problem?: string | undefined;
  width?: number | string;
}

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

interface MaterialChoiceProps {
  label: string;
  value: string;
  onChange(id: string): void;
  problem?: string | undefined;
  width?: number | string;
}

/** A material from the table, with how it etches. */
export function MaterialChoice({ label, value, ...rest }: MaterialChoiceProps) {
  const { materials } = useShop();
  const known = materials.map((m) => [m.id, m.name] as const);
  const options = materials.some((m) => m.id === value)
    ? known
    : [...known, [value, `${value} (not in the table)`] as const];
  return <Choice label={label} value={value} options={options} {...rest} />;
}
