import { TextField } from '@mui/material';
import { useRef, useState } from 'react';
import { flushSync } from 'react-dom';
import type { Parsed } from '../../../../core/units/index.ts';
import { numbersStyle } from '../theme.ts';

interface EntryFieldProps<T> {
  label: string;
  /** The value as it is shown, and as it is put into the field to be edited. */
  shown: string;
  editable: string;
  read(text: string): Parsed<T>;
  onChange(value: T): void;
  /** What is wrong with the value as it stands, from the plan. */
  problem?: string | undefined;
  hint?: string | undefined;
  width?: number | string;
  hideLabel?: boolean;
  /** What is written over the field, where its place says the rest of its name. */
  short?: string | undefined;
}

/** What is being typed, the value it is typed over, and whether it was handed on and its own value is on the way back. */
interface Draft {
  readonly text: string;
  readonly over: string;
  readonly handed: boolean;
}

/**
 * What is typed, as long as it is typed: a draft of the field's own. What can be read and is allowed is handed on at once; the
 * rest stays in the field with the reason under it, and whoever holds the value keeps the last good one.
 */
export function EntryField<T>({
  label,
  shown,
  editable,
  read,
  onChange,
  problem,
  hint,
  width = '100%',
  hideLabel,
  short,
}: EntryFieldProps<T>) {
  const [draft, setDraft] = useState<Draft | null>(null);
  const text = draft?.text ?? null;
  const setText = (to: string | null, handed = false) =>
    setDraft(to === null ? null : { text: to, over: editable, handed });
  // A value that was changed from elsewhere is shown: the draft was over another one.
  if (draft && draft.over !== editable)
    setDraft({ text: draft.handed ? draft.text : editable, over: editable, handed: false });
  const parsed = text === null || text === editable ? null : read(text);
  const message = parsed && !parsed.ok ? parsed.message : problem;
  const selecting = useRef(0);
  const take = (entered: string) => {
    const now = read(entered);
    const hands = now.ok && entered !== editable;
    setText(entered, hands);
    if (hands) onChange(now.value);
  };
  const open = (field: HTMLInputElement | HTMLTextAreaElement) => {
    if (text !== null) return;
    // At once, so that whatever is typed or pasted next replaces it; and again after a press has placed the caret.
    flushSync(() => setText(editable));
    field.select();
    selecting.current = requestAnimationFrame(() => field.select());
  };
  const done = () => setText(parsed && !parsed.ok ? text : null);
  return (
    <TextField
      label={hideLabel ? undefined : (short ?? label)}
      value={text ?? shown}
      onChange={(change) => take(change.target.value)}
      // Selected after the first key, the next would replace it: 12 over a 1 would become 2. A change alone does not tell, for that 1 is none.
      onInput={() => cancelAnimationFrame(selecting.current)}
      onFocus={(focus) => open(focus.target)}
      onBlur={done}
      onKeyDown={(key) => {
        if (key.key === 'Escape') setText(editable);
        if (key.key === 'Enter') done();
      }}
      error={message !== undefined}
      helperText={message ?? hint}
      sx={{ width, ...(typeof width === 'number' && { flexShrink: 0 }) }}
      slotProps={{
        // Under a narrow field the reason may be wider than it.
        formHelperText: typeof width === 'number' ? { sx: { width: 'max-content', maxWidth: 260 } } : {},
        htmlInput: {
          'aria-label': label,
          'data-entry': '',
          style: numbersStyle,
          autoComplete: 'off',
          spellCheck: false,
        },
      }}
    />
  );
}
