import { TextField } from '@mui/material';
import { useState } from 'react';
import type { z } from 'zod';

interface WordFieldProps {
  label: string;
  value: string;
  /** What is refused stays in the field with the reason, and the last good value holds. */
  schema: z.ZodType<string>;
  onChange(value: string): void;
  width?: number | string;
}

/** A name or a line of text, as its schema allows it. */
export function WordField({ label, value, schema, onChange, width = '100%' }: WordFieldProps) {
  const [text, setText] = useState<string | null>(null);
  const parsed = text === null ? null : schema.safeParse(text);
  const problem = parsed?.success === false ? parsed.error.issues[0].message : undefined;
  return (
    <TextField
      label={label}
      sx={{ width }}
      value={text ?? value}
      error={problem !== undefined}
      helperText={problem}
      onChange={(change) => {
        const entered = change.target.value;
        setText(entered);
        const now = schema.safeParse(entered);
        if (now.success) onChange(now.data);
      }}
      onBlur={() => setText(problem === undefined ? null : text)}
      slotProps={{ htmlInput: { autoComplete: 'off' } }}
    />
  );
}
