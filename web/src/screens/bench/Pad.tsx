import BackspaceIcon from '@mui/icons-material/BackspaceOutlined';
import { Box, Button } from '@mui/material';
import { Fragment } from 'react';
import type { Quantity } from '../../../../core/units/index.ts';
import { editableLength, parseLength } from '../../../../core/units/length.ts';
import { fire } from '../../ui/fireTheme.ts';
import { useUnits } from '../../ui/units.ts';

interface PadProps {
  of: Quantity;
  text: string;
  onText(text: string): void;
  /** Takes what stands there, and goes to the next size. */
  enter(): void;
  close(): void;
  /** Takes out what was written before; nothing where nothing was. */
  takeOut: (() => void) | undefined;
}

const INCH_MM = 25.4;
const KEY_PX = 64;
/** Room that the keys take at the bottom of the screen. */
export const PAD_PX = 4 * KEY_PX + 60;

const ROWS = [
  ['7', '8', '9'],
  ['4', '5', '6'],
  ['1', '2', '3'],
];

/** Large keys: figures, and in inches the shop's fractions, each of which is added to what stands there. */
export function Pad({ of, text, onText, enter, close, takeOut }: PadProps) {
  const { lengths } = useUnits();
  const inches = of.kind === 'length' && lengths.unit === 'in';
  const parts = inches ? [2, 4, 8, 16, 32, 64].filter((n) => n <= Math.max(32, lengths.division)) : [];
  const columns = parts.length > 0 ? 2 : 0;
  const add = (part: number) => {
    const now = text.trim() === '' ? { ok: true as const, value: 0 } : parseLength(text, 'in');
    if (now.ok) onText(editableLength(now.value + INCH_MM / part, lengths).replace('"', ''));
  };
  const sign = (label: string, act = () => onText(text + label), background: string = fire.raised) => (
    <Button key={label} variant="outlined" onClick={act} sx={{ fontSize: 28, fontWeight: 700, background }}>
      {label}
    </Button>
  );
  const partsOf = (row: number) =>
    Array.from({ length: columns }, (_, i) => {
      const part = parts[2 * row + i];
      return part ? sign(`1/${part}`, () => add(part), fire.rightGround) : <span key={i} />;
    });
  const back = (
    <Button variant="outlined" aria-label="Take one back" onClick={() => onText(text.trimEnd().slice(0, -1))}>
      <BackspaceIcon fontSize="large" />
    </Button>
  );
  const acts = [
    back,
    takeOut ? (
      <Button variant="text" onClick={takeOut}>
        Take it out
      </Button>
    ) : (
      <span />
    ),
    <Button key="close" variant="text" onClick={close}>
      Close
    </Button>,
  ];
  return (
    <>
      {/* What lies behind the keys can be scrolled into sight. */}
      <Box aria-hidden sx={{ height: PAD_PX }} />
      <Box
        role="group"
        aria-label="Keys"
        // The field that is written into keeps the caret: a caliper that types may go on.
        onMouseDown={(press) => press.preventDefault()}
        sx={{
          position: 'fixed',
          insetInline: 0,
          bottom: 0,
          zIndex: 3,
          p: 1.5,
          background: fire.ground,
          borderTop: `2px solid ${fire.ember}`,
          display: 'grid',
          gridTemplateColumns: `repeat(${4 + columns}, minmax(0, 1fr))`,
          gap: 1,
          gridAutoRows: KEY_PX,
        }}
      >
        {ROWS.map((row, r) => (
          <Fragment key={r}>
            {row.map((digit) => sign(digit))}
            {partsOf(r)}
            {acts[r]}
          </Fragment>
        ))}
        {sign('0')}
        {sign('.')}
        {of.least < 0 ? sign('−', () => onText(text.startsWith('−') ? text.slice(1) : `−${text}`)) : <span />}
        <Button variant="contained" onClick={enter} sx={{ gridColumn: `span ${1 + columns}`, fontSize: 26 }}>
          Enter
        </Button>
      </Box>
    </>
  );
}
