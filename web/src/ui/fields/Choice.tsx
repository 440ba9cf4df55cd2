import { MenuItem, TextField } from '@mui/material';
import { type MouseEvent, useRef } from 'react';

interface ChoiceProps<T extends string> {
  label: string;
  value: T;
  options: readonly (readonly [value: T, label: string])[];
  onChange(value: T): void;
  problem?: string | undefined;
  width?: number | string;
}

/** px. A press let go within this of where it began was no drag onto an option. */
const STILL_PX = 5;

/** One of a few, each in its own words. */
export function Choice<T extends string>({
  label,
  value,
  options,
  onChange,
  problem,
  width = '100%',
}: ChoiceProps<T>) {
  const pressed = useRef<readonly [number, number]>([0, 0]);
  // Where there is no room below, the list opens under the pointer: the press that opened it must not choose from it, however late it ends.
  const chooseNothing = (up: MouseEvent) => {
    const [x, y] = pressed.current;
    if (Math.hypot(up.clientX - x, up.clientY - y) < STILL_PX) up.stopPropagation();
  };
  return (
    <TextField
      select
      onMouseDown={(down) => (pressed.current = [down.clientX, down.clientY])}
      slotProps={{ select: { MenuProps: { onMouseUpCapture: chooseNothing } } }}
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
