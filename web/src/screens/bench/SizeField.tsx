import { Box, Typography } from '@mui/material';
import { type Quantity, readQuantity, showQuantity } from '../../../../core/units/index.ts';
import { LEAST_TARGET, fire } from '../../ui/fireTheme.ts';
import { fonts } from '../../ui/theme.ts';
import { PAD_PX } from './Pad.tsx';
import { useUnits } from '../../ui/units.ts';

interface SizeFieldProps {
  of: Quantity;
  label: string;
  value: number | undefined;
  /** What it was reckoned to be; nothing where nothing was. */
  reckoned: number | undefined;
  /** What is being typed; null while another field is written into. */
  text: string | null;
  open(): void;
  onText(text: string): void;
  enter(): void;
  cancel(): void;
  /** Something else was touched. */
  leave(): void;
}

/** A size to be written with the large keys, a caliper that types, or a keyboard. */
export function SizeField(props: SizeFieldProps) {
  const { of, label, value, reckoned, text, open, onText, enter, cancel, leave } = props;
  const units = useUnits();
  const shown = value === undefined ? '' : showQuantity(of, value, units);
  const parsed = text === null || text.trim() === '' ? null : readQuantity(of, text, units);
  const wrong = parsed && !parsed.ok ? parsed.message : undefined;
  return (
    <Box
      component="label"
      sx={{
        display: 'grid',
        gap: 0.25,
        p: 1,
        minHeight: LEAST_TARGET,
        minWidth: 0,
        borderRadius: 1,
        cursor: 'text',
        background: fire.raised,
        border: `2px solid ${wrong ? fire.alarm : text !== null ? fire.ember : fire.line}`,
      }}
    >
      <Typography component="span" color="text.secondary">
        {label}
      </Typography>
      <Box
        component="input"
        aria-label={label}
        aria-invalid={wrong !== undefined}
        inputMode="none"
        autoComplete="off"
        value={text ?? shown}
        placeholder="–"
        onFocus={({ target }: React.FocusEvent<HTMLInputElement>) => {
          if (text === null) open();
          // Above the keys, which come up with it.
          requestAnimationFrame(() => target.scrollIntoView({ block: 'nearest' }));
        }}
        onBlur={leave}
        onChange={(change: React.ChangeEvent<HTMLInputElement>) => onText(change.target.value)}
        onKeyDown={(key: React.KeyboardEvent) => {
          if (key.key === 'Enter') {
            key.preventDefault();
            enter();
          }
          if (key.key === 'Escape') cancel();
        }}
        sx={{
          width: '100%',
          minWidth: 0,
          height: 40,
          scrollMarginBottom: PAD_PX + 60,
          scrollMarginTop: 60,
          border: 0,
          outline: 'none',
          background: 'none',
          color: fire.ink,
          fontFamily: fonts.numbers,
          fontWeight: 700,
          fontSize: 28,
          '&::placeholder': { color: fire.faded, opacity: 1 },
        }}
      />
      <Typography
        component="span"
        color={wrong ? 'error' : 'text.secondary'}
        role={wrong ? 'alert' : undefined}
      >
        {wrong ?? (reckoned === undefined ? ' ' : `reckoned ${showQuantity(of, reckoned, units)}`)}
      </Typography>
    </Box>
  );
}
