import { Alert, Button, Checkbox, Stack, Typography } from '@mui/material';
import { useState } from 'react';
import {
  type CopyChoice,
  type CopyContents,
  type PartInCopy,
  type PieceInCopy,
  usualChoice,
} from '../../../../core/copies/standing.ts';
import { FiguresTable } from '../../ui/FiguresTable.tsx';
import { Section } from '../../ui/Section.tsx';

const MOMENT = {
  day: 'numeric',
  month: 'short',
  year: 'numeric',
  hour: '2-digit',
  minute: '2-digit',
  hourCycle: 'h23',
} as const;

export const moment = (iso: string): string =>
  new Date(iso).toLocaleString('en-GB', MOMENT).replace(' at ', ', ');

const PIECE: Readonly<Record<PieceInCopy['standing'], string>> = {
  new: 'Not here yet',
  newer: 'Goes on from yours: its later changes follow',
  different: 'Went another way than yours: put beside it',
  same: 'The same',
  older: 'Yours goes on from it',
};
const PART: Readonly<Record<PartInCopy['standing'], string>> = {
  new: 'Not here yet',
  different: 'Other than yours: takes its place',
  same: 'The same',
};

interface Row {
  readonly key: string;
  readonly name: string;
  readonly standing: string;
  readonly when: string;
  readonly able: boolean;
  readonly on: boolean;
  change(on: boolean): CopyChoice;
}

const put = (ids: readonly string[], id: string, on: boolean): string[] =>
  on ? [...ids, id] : ids.filter((one) => one !== id);

function rowsOf(contents: CopyContents, choice: CopyChoice): Row[] {
  const pieces = contents.pieces.map((piece) => ({
    key: piece.id,
    name: piece.name,
    standing: `${PIECE[piece.standing]}${piece.removed ? ' (put aside there)' : ''}${piece.removedHere ? ' (put aside here)' : ''}`,
    when: moment(piece.savedAt),
    able: piece.standing !== 'same' && piece.standing !== 'older',
    on: choice.pieces.includes(piece.id),
    change: (on: boolean) => ({ ...choice, pieces: put(choice.pieces, piece.id, on) }),
  }));
  const shop = (['setups', 'materials'] as const).flatMap((kind) =>
    contents[kind].map((part) => ({
      key: `${kind} ${part.id}`,
      name: `${kind === 'setups' ? 'Set-up' : 'Material'} ${part.name}`,
      standing: PART[part.standing],
      when: '',
      able: part.standing !== 'same',
      on: choice[kind].includes(part.id),
      change: (on: boolean) => ({ ...choice, [kind]: put(choice[kind], part.id, on) }),
    })),
  );
  const { rack } = contents;
  const onRack = rack && {
    key: 'rack',
    name: `The rack, ${rack.name}`,
    standing: PART[rack.standing],
    when: '',
    able: rack.standing !== 'same',
    on: choice.rack,
    change: (on: boolean) => ({ ...choice, rack: on }),
  };
  const all = [...pieces, ...shop, ...(onRack ? [onRack] : [])];
  // What can be taken in comes first.
  return [...all.filter((row) => row.able), ...all.filter((row) => !row.able)];
}

interface CopyInsideProps {
  contents: CopyContents;
  busy: boolean;
  onTake(choice: CopyChoice): void;
  onLeave(): void;
}

/** What is in a copy beside what is here, and what of it is taken in. */
export function CopyInside({ contents, busy, onTake, onLeave }: CopyInsideProps) {
  const [choice, setChoice] = useState(() => usualChoice(contents));
  const rows = rowsOf(contents, choice);
  const wanted = rows.filter((row) => row.able && row.on).length;
  return (
    <Section title={`In the copy of ${moment(contents.madeAt)}`}>
      <FiguresTable heads={['(Take it in)', 'What', 'Beside yours', 'Saved there']} lined>
        {rows.map((row) => (
          <tr key={row.key}>
            <td style={{ width: 44 }}>
              <Checkbox
                size="small"
                checked={row.able && row.on}
                disabled={!row.able}
                onChange={(e) => setChoice(row.change(e.target.checked))}
                slotProps={{ input: { 'aria-label': `Take in ${row.name}` } }}
              />
            </td>
            <td>{row.name}</td>
            <td>{row.standing}</td>
            <td style={{ whiteSpace: 'nowrap' }}>{row.when}</td>
          </tr>
        ))}
      </FiguresTable>
      {contents.unreadable.map((why) => (
        <Alert key={why} severity="warning" sx={{ mt: 1 }}>
          Left out, as it cannot be read: {why}
        </Alert>
      ))}
      <Stack direction="row" spacing={1.5} sx={{ mt: 1.5, alignItems: 'center' }}>
        <Button variant="contained" disabled={wanted === 0 || busy} onClick={() => onTake(choice)}>
          {wanted === 0 ? 'Nothing to take in' : `Take in ${wanted === 1 ? 'this one' : `these ${wanted}`}`}
        </Button>
        <Button onClick={onLeave}>Close it</Button>
        {busy && <Typography color="text.secondary">Taking in …</Typography>}
      </Stack>
    </Section>
  );
}
