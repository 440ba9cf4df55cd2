import { Box, Button, Stack, ToggleButton, ToggleButtonGroup, Typography } from '@mui/material';
import { useState } from 'react';
import { type Billet, sizeOf, writtenOn } from '../../../../core/billet/billet.ts';
import { keptValue } from '../../../../core/instruments/reading.ts';
import { massKg } from '../../../../core/materials/volumes.ts';
import { type StepResult, heatsIn } from '../../../../core/plan/index.ts';
import {
  type PieceCame,
  SCRAP_REASONS,
  pieceCameSchema,
  recordSchema,
} from '../../../../core/records/record.ts';
import type { Shop } from '../../../../core/shop/shop.ts';
import {
  type Quantity,
  editableQuantity,
  quantitiesOf,
  readQuantity,
  showQuantity,
} from '../../../../core/units/index.ts';
import { LEAST_TARGET, fire } from '../../ui/fireTheme.ts';
import { useUnits } from '../../ui/units.ts';
import { useReadings } from '../../document/useNews.ts';
import { Pad } from './Pad.tsx';
import { SizeField } from './SizeField.tsx';
import type { Doing } from '../../document/useDoing.ts';

const of = quantitiesOf(pieceCameSchema);

/** A number of what came, and where it stands in the record of a piece. */
interface Size {
  readonly path: string;
  readonly label: string;
  readonly of: Quantity;
  get(came: PieceCame | undefined): number | undefined;
  set(came: PieceCame | undefined, value: number | undefined): Partial<PieceCame>;
  reckoned(bar: Billet, shop: Shop): number | undefined;
  /** It is of the move as a whole, not of one piece. */
  readonly ofMove?: 'passes' | 'biteMm' | 'hottestC';
}

const ofRecord = quantitiesOf(recordSchema);

const ofMove = (key: 'passes' | 'biteMm' | 'hottestC', label: string): Size => ({
  path: key,
  label,
  of: ofRecord(key),
  get: () => undefined,
  set: () => ({}),
  reckoned: () => undefined,
  ofMove: key,
});

const plain = (
  key: 'widthMm' | 'heightMm' | 'lengthMm' | 'massKg' | 'leansDeg',
  label: string,
  reckoned: Size['reckoned'],
): Size => ({
  path: key,
  label,
  of: of(key),
  get: (came) => came?.[key],
  set: (_, value) => ({ [key]: value }),
  reckoned,
});

const ofEnd = (end: 'endA' | 'endB', key: 'turnedDeg' | 'spoiltMm', label: string): Size => ({
  path: `${end}.${key}`,
  label,
  of: of(`${end}.${key}`),
  get: (came) => came?.[end]?.[key],
  set: (came, value) => {
    const next = Object.fromEntries(
      Object.entries({ ...came?.[end], [key]: value }).filter(([, mm]) => mm !== undefined),
    );
    return { [end]: Object.keys(next).length > 0 ? next : undefined };
  },
  reckoned: () => undefined,
});

const cutBack = (end: 'endAMm' | 'endBMm', label: string): Size => ({
  path: `cropped.${end}`,
  label,
  of: of(`cropped.${end}`),
  get: (came) => came?.cropped?.[end] || undefined,
  set: (came, value) => {
    const next = { endAMm: 0, endBMm: 0, why: 'cracked' as const, ...came?.cropped, [end]: value ?? 0 };
    return { cropped: next.endAMm + next.endBMm > 0 ? next : undefined };
  },
  reckoned: () => undefined,
});

const GROUPS = {
  sizes: [
    plain('widthMm', 'Width', (bar) => sizeOf(bar).widthMm),
    plain('heightMm', 'Height', (bar) => sizeOf(bar).heightMm),
    plain('lengthMm', 'Length', (bar) => bar.lengthMm),
    plain('massKg', 'Weight', (bar, shop) => massKg(bar.volumes, shop.materials)),
  ],
  ends: [
    ofEnd('endA', 'turnedDeg', 'Turned, end A'),
    ofEnd('endB', 'turnedDeg', 'Turned, end B'),
    ofEnd('endA', 'spoiltMm', 'Distorted, end A'),
    ofEnd('endB', 'spoiltMm', 'Distorted, end B'),
    plain('leansDeg', 'Leans to the right', () => undefined),
  ],
  dies: [ofMove('passes', 'Passes'), ofMove('biteMm', 'Bite'), ofMove('hottestC', 'Hottest')],
  cut: [cutBack('endAMm', 'Cut back, end A'), cutBack('endBMm', 'Cut back, end B')],
} as const satisfies Record<string, readonly Size[]>;

type Group = keyof typeof GROUPS | 'scrap';

const TITLES: Readonly<Record<Group, string>> = {
  sizes: 'Sizes',
  dies: 'At the dies',
  ends: 'Ends show',
  cut: 'Cut back',
  scrap: 'Scrap it',
};

/** The keys stay so long after something else was touched, ms. */
const LEAVES_MS = 250;

/** What kind of number a reading is. */
const MEASURES = { length: 'length', mass: 'mass', temperature: 'temperature' } as const;

/** Farther off than this it is asked once whether it was read right. */
const FAR_OFF = 0.1;

const focusOn = ({ label }: Size): void =>
  document.querySelector<HTMLInputElement>(`input[aria-label="${label}"]`)?.focus();

interface Entry {
  readonly size: Size;
  readonly text: string;
  /** Asked whether it is right, and not answered yet. */
  readonly doubted: boolean;
  /** Taken, for something else was touched; its keys go in a moment. */
  readonly left?: boolean;
}

/** What came, piece by piece: sizes, what the ends show, what was cut back or given up. */
export function Came({ result, shop, doing }: { result: StepResult; shop: Shop; doing: Doing }) {
  const made = (result.reckoned ?? result).after ?? [];
  const names = made.map(writtenOn);
  const [chosen, setChosen] = useState(0);
  const [group, setGroup] = useState<Group>('sizes');
  const [entry, setEntry] = useState<Entry | null>(null);
  const units = useUnits();
  const isHot = heatsIn(result.step) > 0;
  useReadings((reading) => {
    if (!entry || entry.left || MEASURES[reading.quantity] !== entry.size.of.kind) return;
    const value = keptValue(reading);
    setEntry({ ...entry, text: editableQuantity(entry.size.of, value, units), doubted: false });
  });
  const at = Math.min(chosen, made.length - 1);
  const bar = made[at];
  if (!bar) return null;
  const name = names[at];
  const came = doing.record?.pieces?.find((p) => p.piece === name);
  const sizes: readonly Size[] = group === 'scrap' ? [] : GROUPS[group];
  const valueOf = (size: Size): number | undefined =>
    size.ofMove ? doing.record?.[size.ofMove] : size.get(came);
  const write = (size: Size, value: number | undefined): void =>
    size.ofMove ? doing.change({ [size.ofMove]: value }) : doing.changePiece(name, size.set(came, value));
  /** Takes what is being typed; false where that cannot be read, or is asked about first. */
  const take = (): boolean => {
    if (!entry || entry.text.trim() === '') return true;
    const { size, text, doubted } = entry;
    const read = readQuantity(size.of, text, units);
    if (!read.ok) return false;
    const reckoned = size.reckoned(bar, shop);
    if (!doubted && reckoned && Math.abs(read.value / reckoned - 1) > FAR_OFF) {
      setEntry({ ...entry, doubted: true });
      return false;
    }
    write(size, read.value);
    return true;
  };
  const open = (size: Size) => setEntry({ size, text: '', doubted: false });
  /** One that cannot be read, or is asked about, stays until that is mended. */
  const touch = (size: Size) => {
    if (!entry || entry.left) open(size);
  };
  const next = (size: Size) => {
    const after = sizes[sizes.indexOf(size) + 1];
    if (after && after.path !== 'massKg') {
      open(after);
      focusOn(after);
    } else setEntry(null);
  };
  const leave = () => {
    if (!entry || entry.left || !take()) return;
    // Not before the press that took the caret away has found its button: nothing moves under the finger.
    const gone = entry && { ...entry, left: true };
    setEntry((now) => (now === entry ? gone : now));
    setTimeout(() => setEntry((now) => (now === gone ? null : now)), LEAVES_MS);
  };
  const enter = () => {
    if (entry && take()) next(entry.size);
  };
  const clear = () => {
    if (entry) write(entry.size, undefined);
    setEntry(null);
  };
  const parsed = entry && entry.text.trim() !== '' ? readQuantity(entry.size.of, entry.text, units) : null;
  const choose = (i: number) => {
    setEntry(null);
    setChosen(i);
  };
  return (
    <Stack component="section" aria-label="What came" sx={{ gap: 1 }}>
      <Stack direction="row" useFlexGap sx={{ gap: 1, flexWrap: 'wrap', alignItems: 'center' }}>
        <Typography variant="h2" sx={{ mr: 1 }}>
          What came
        </Typography>
        <ToggleButtonGroup
          exclusive
          value={group}
          aria-label="What is written"
          onChange={(_, to: Group | null) => {
            if (!to) return;
            setEntry(null);
            setGroup(to);
          }}
        >
          {(Object.keys(TITLES) as Group[])
            .filter((id) => id !== 'dies' || isHot)
            .map((id) => (
              <ToggleButton key={id} value={id} sx={CHIP}>
                {TITLES[id]}
              </ToggleButton>
            ))}
        </ToggleButtonGroup>
      </Stack>
      {made.length > 1 && (
        <Stack direction="row" useFlexGap role="group" aria-label="Piece" sx={{ gap: 1, flexWrap: 'wrap' }}>
          {names.map((text, i) => {
            const written = doing.record?.pieces?.find((p) => p.piece === text);
            return (
              <Button
                key={text}
                variant="outlined"
                aria-pressed={i === at}
                aria-label={`Piece ${text}${written?.scrapped ? ', scrapped' : written ? ', written' : ''}`}
                onClick={() => choose(i)}
                sx={{
                  fontSize: 26,
                  borderWidth: 2,
                  ...(written && i !== at && { color: fire.right }),
                  ...(written?.scrapped && { textDecoration: 'line-through', color: fire.alarm }),
                }}
              >
                {text}
              </Button>
            );
          })}
        </Stack>
      )}
      {group === 'scrap' ? (
        <Scrap came={came} many={made.length > 1} name={name} doing={doing} />
      ) : (
        <Box sx={{ display: 'grid', gap: 1, gridTemplateColumns: 'repeat(auto-fit, minmax(300px, 1fr))' }}>
          {sizes.map((size) => (
            <SizeField
              key={size.path}
              of={size.of}
              label={size.label}
              value={valueOf(size)}
              reckoned={size.reckoned(bar, shop)}
              text={entry?.size === size && !entry.left ? entry.text : null}
              open={() => touch(size)}
              onText={(text) => setEntry({ size, text, doubted: false })}
              enter={enter}
              cancel={() => setEntry(null)}
              leave={leave}
            />
          ))}
        </Box>
      )}
      {entry?.doubted && parsed?.ok && (
        <Doubt
          is={showQuantity(entry.size.of, parsed.value, units)}
          reckoned={showQuantity(entry.size.of, entry.size.reckoned(bar, shop) ?? 0, units)}
          yes={enter}
          no={() => {
            open(entry.size);
            focusOn(entry.size);
          }}
        />
      )}
      {entry && !entry.doubted && (
        <Pad
          of={entry.size.of}
          text={entry.text}
          onText={(text) => setEntry({ ...entry, text, doubted: false })}
          enter={enter}
          close={() => setEntry(null)}
          takeOut={valueOf(entry.size) === undefined ? undefined : clear}
        />
      )}
    </Stack>
  );
}

const CHIP = {
  minHeight: LEAST_TARGET,
  px: 1.5,
  fontSize: 22,
  textTransform: 'none',
  color: fire.ink,
  borderColor: fire.faded,
  '&.Mui-selected, &.Mui-selected:hover': {
    color: fire.ember,
    background: fire.raised,
    borderColor: fire.ember,
  },
} as const;

interface DoubtProps {
  is: string;
  reckoned: string;
  yes(): void;
  no(): void;
}

/** Asked once of a size that is far off, in the place of the keys: nothing else is pressed before it is answered. */
function Doubt({ is, reckoned, yes, no }: DoubtProps) {
  return (
    <Stack
      role="alert"
      sx={{
        position: 'fixed',
        insetInline: 0,
        bottom: 0,
        zIndex: 3,
        gap: 1.5,
        p: 2,
        minHeight: 200,
        background: fire.ground,
        borderTop: `2px solid ${fire.ember}`,
      }}
    >
      <span>
        {is} where {reckoned} was reckoned. Is that right?
      </span>
      <Stack direction="row" sx={{ gap: 1 }}>
        <Button variant="contained" onClick={yes}>
          It is right
        </Button>
        <Button variant="outlined" onClick={no}>
          Write it again
        </Button>
      </Stack>
    </Stack>
  );
}

interface ScrapProps {
  came: PieceCame | undefined;
  many: boolean;
  name: string;
  doing: Doing;
}

/** Why a piece is given up; taken back as easily. */
function Scrap({ came, many, name, doing }: ScrapProps) {
  const what = many ? `Piece ${name}` : 'The bar';
  if (came?.scrapped)
    return (
      <Stack direction="row" sx={{ gap: 2, alignItems: 'center' }}>
        <span>
          {what} is scrapped: {SCRAP_REASONS[came.scrapped]}.
        </span>
        <Button variant="outlined" onClick={() => doing.changePiece(name, { scrapped: undefined })}>
          It is not
        </Button>
      </Stack>
    );
  return (
    <Box sx={{ display: 'grid', gap: 1, gridTemplateColumns: 'repeat(auto-fit, minmax(230px, 1fr))' }}>
      {Object.entries(SCRAP_REASONS).map(([why, text]) => (
        <Button
          key={why}
          variant="outlined"
          onClick={() => doing.changePiece(name, { scrapped: why as keyof typeof SCRAP_REASONS })}
        >
          {what}: {text}
        </Button>
      ))}
    </Box>
  );
}
