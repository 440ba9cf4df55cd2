import { InputAdornment, TextField } from '@mui/material';
import { type ReactNode, useState } from 'react';
import { flushSync } from 'react-dom';
import type { Parsed } from '../../../../core/units/index.ts';
import { fonts } from '../theme.ts';

interface EntryFieldProps {
  label: string;
  value: number;
  /** The value as it is shown, and as it is put into the field to be edited. */
  shown: string;
  editable: string;
  read(text: string): Parsed<number>;
  onChange(value: number): void;
  /** What is wrong with the value as it stands, from the plan. */
  problem?: string | undefined;
  unit?: ReactNode;
  width?: number | string;
  hideLabel?: boolean;
}

/**
 * A number typed in the shop's own way. What can be read is taken at once; what cannot is kept in the field with the reason,
 * and the plan keeps its last good value.
 */
export function EntryField({
  label,
  shown,
  editable,
  read,
  onChange,
  problem,
  unit,
  width = '100%',
  hideLabel,
}: EntryFieldProps) {
  const [text, setText] = useState<string | null>(null);
  const parsed = text === null || text === editable ? null : read(text);
  const message = parsed && !parsed.ok ? parsed.message : problem;
  const take = (entered: string) => {
    setText(entered);
    const now = read(entered);
    if (now.ok && entered !== editable) onChange(now.value);
  };
  const open = (field: HTMLInputElement | HTMLTextAreaElement) => {
    if (text !== null) return;
    // At once, so that whatever is typed or pasted next replaces it; and again after a press has placed the caret.
    flushSync(() => setText(editable));
    field.select();
    requestAnimationFrame(() => {
      if (field.value === editable) field.select();
    });
  };
  const done = () => setText(parsed && !parsed.ok ? text : null);
  return (
    <TextField
      label={hideLabel ? undefined : label}
      value={text ?? shown}
      onChange={(change) => take(change.target.value)}
      onFocus={(focus) => open(focus.target)}
      onBlur={done}
      onKeyDown={(key) => {
        if (key.key === 'Escape') setText(editable);
        if (key.key === 'Enter') done();
      }}
      error={message !== undefined}
      helperText={message}
      sx={{ width }}
      slotProps={{
        htmlInput: {
          'aria-label': label,
          style: { fontFamily: fonts.numbers, textAlign: 'right' },
          autoComplete: 'off',
          spellCheck: false,
        },
        input: unit ? { endAdornment: <InputAdornment position="end">{unit}</InputAdornment> } : {},
      }}
    />
  );
}
