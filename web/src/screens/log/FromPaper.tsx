import { Box, Checkbox, FormControlLabel, TextField, Typography } from '@mui/material';
import { Fragment, useState } from 'react';
import { writtenOn } from '../../../../core/billet/billet.ts';
import { moveOf } from '../../../../core/moves/index.ts';
import { type Evaluation, type StepResult, benchOrder, heatsIn } from '../../../../core/plan/index.ts';
import { pieceCameSchema, recordSchema } from '../../../../core/records/record.ts';
import { quantitiesOf } from '../../../../core/units/index.ts';
import { useDoing } from '../../document/useDoing.ts';
import { OptionalField } from '../../ui/fields/QuantityField.tsx';
import { colours } from '../../ui/theme.ts';

const ofPiece = quantitiesOf(pieceCameSchema);
const ofRecord = quantitiesOf(recordSchema);
const SIZES = ['widthMm', 'heightMm', 'lengthMm', 'massKg'] as const;
/** Of a move at the fire, and how wide each is on the page, px. */
const AT_THE_FIRE = { heats: 90, passes: 90, biteMm: 128, hottestC: 128, coolMin: 128 } as const;
const MOST_REMARK = recordSchema.shape.remark.unwrap().maxLength ?? undefined;

const today = (): string => new Date().toLocaleDateString('sv');

/** The blanks of the sheet for the wall, move by move in one place: what was written on paper is typed in here. */
export function FromPaper({ stands }: { stands: Evaluation }) {
  const [day, setDay] = useState(today);
  const noon = Date.parse(`${day}T12:00`);
  return (
    <Box>
      <TextField
        type="date"
        label="It was done on"
        value={day}
        onChange={(change) => setDay(change.target.value || today())}
        slotProps={{ inputLabel: { shrink: true } }}
        sx={{ mt: 1 }}
      />
      <Box component="ol" aria-label="Moves, as on the sheet" sx={{ listStyle: 'none', m: 0, p: 0 }}>
        {benchOrder(stands).map((result, i) => (
          // A second apart, so that they stay in their order.
          <Blanks
            key={result.step.id}
            number={i + 1}
            result={result}
            doneAt={new Date(noon + 1000 * i).toISOString()}
          />
        ))}
      </Box>
    </Box>
  );
}

function Blanks({ number, result, doneAt }: { number: number; result: StepResult; doneAt: string }) {
  const doing = useDoing(result.step.id, doneAt);
  const { record, done, change, changePiece, end, reopen } = doing;
  const [remark, setRemark] = useState<string | null>(null);
  const { title } = moveOf(result.step.kind);
  const made = (result.reckoned ?? result).after ?? [];
  const name = `Move ${number}, ${title}`;
  return (
    <Box component="li" aria-label={name} sx={{ py: 1.25, borderBottom: `1px solid ${colours.line}` }}>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', justifyContent: 'space-between' }}>
        <Typography variant="h3">
          {number}. {title}
        </Typography>
        <FormControlLabel
          control={<Checkbox checked={done} onChange={() => (done ? reopen() : end())} />}
          label="done"
        />
      </Box>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1, alignItems: 'center' }}>
        {made.map((bar, i) => {
          const piece = writtenOn(bar, i);
          const came = record?.pieces?.find((p) => p.piece === piece);
          const of = made.length > 1 ? ` of ${piece}` : '';
          return (
            <Fragment key={piece}>
              {SIZES.map((key) => (
                <OptionalField
                  key={key}
                  of={ofPiece(key)}
                  label={`${ofPiece(key).label}${of}`}
                  width={128}
                  value={came?.[key]}
                  onChange={(value) => changePiece(piece, { [key]: value })}
                />
              ))}
            </Fragment>
          );
        })}
        {heatsIn(result.step) > 0 &&
          (Object.keys(AT_THE_FIRE) as (keyof typeof AT_THE_FIRE)[]).map((key) => (
            <OptionalField
              key={key}
              of={ofRecord(key)}
              width={AT_THE_FIRE[key]}
              value={record?.[key]}
              onChange={(value) => change({ [key]: value })}
            />
          ))}
        {result.step.kind === 'etch' && (
          <OptionalField
            of={ofRecord('bathMin')}
            width={128}
            value={record?.bathMin}
            onChange={(bathMin) => change({ bathMin })}
          />
        )}
        <TextField
          label="Remark"
          value={remark ?? record?.remark ?? ''}
          sx={{ flex: '1 1 220px' }}
          slotProps={{ htmlInput: { maxLength: MOST_REMARK } }}
          onChange={(typed) => setRemark(typed.target.value)}
          onBlur={() => {
            if (remark !== null && remark !== (record?.remark ?? '')) change({ remark: remark || undefined });
            setRemark(null);
          }}
        />
      </Box>
    </Box>
  );
}
