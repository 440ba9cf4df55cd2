import { Another } from '../../ui/Another.tsx';
import { Group, Pair } from '../../ui/Group.tsx';
import { WordField } from '../../ui/fields/WordField.tsx';
import { z } from 'zod';
import { mostIn, quantitiesOf } from '../../../../core/units/index.ts';
import { programSchema } from '../../../../core/kiln/program.ts';
import { Box, Button, Typography } from '@mui/material';
import { type KilnProgram, type KilnSegment, clockTime, legsOf } from '../../../../core/kiln/program.ts';
import { fonts } from '../../ui/theme.ts';
import { Choice } from '../../ui/fields/Choice.tsx';
import { MaterialChoice } from '../../editors/form/MaterialChoice.tsx';
import { QuantityField } from '../../ui/fields/QuantityField.tsx';
import { useEvaluation } from '../../document/useEvaluation.ts';

const of = quantitiesOf(programSchema);
const MOST_LEGS = mostIn(programSchema, 'segments');
const THEN = programSchema.shape.segments.element.shape.then.unwrap();
/** By the clock of 24 hours, as the legs are. */
const startTime = z.string().regex(/^([01]?\d|2[0-3]):[0-5]\d$/, 'Write the time as 8:30 or 17:05');

interface ProgramEditorProps {
  program: KilnProgram;
  change(some: Partial<KilnProgram>): void;
  /** One of a move has its name from there, and goes with it. */
  ofMove: boolean;
  remove(): void;
}

const clock = (minutes: number): string => clockTime(minutes, 0);

/** A program's numbers, leg by leg, each with the time by the clock. */
export function ProgramEditor({ program, change, ofMove, remove }: ProgramEditorProps) {
  const { shop } = useEvaluation();
  const legs = legsOf(program, shop.kiln);
  const put = (i: number, some: Partial<KilnSegment>) =>
    change({ segments: program.segments.map((s, k) => (k === i ? { ...s, ...some } : s)) });
  const start = (time: string) => {
    const [h, m] = time.split(':').map(Number);
    if (Number.isInteger(h) && Number.isInteger(m)) change({ startMin: 60 * h + m });
  };
  return (
    <>
      {ofMove ? (
        <Typography variant="h3">{program.name}</Typography>
      ) : (
        <WordField
          label="Program"
          schema={programSchema.shape.name}
          value={program.name}
          onChange={(name) => change({ name })}
        />
      )}
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 150px', gap: 1 }}>
        <MaterialChoice label="For" value={program.material} onChange={(material) => change({ material })} />
        <WordField label="Starts at" schema={startTime} value={clock(program.startMin)} onChange={start} />
      </Box>
      {program.segments.map((s, i) => (
        <Group
          key={i}
          title={`Leg ${i + 1}`}
          note={
            <span
              style={{ fontFamily: fonts.numbers, fontWeight: 400 }}
              title={`Held from ${clockTime(program.startMin, legs[i].thereS)}`}
            >
              {clockTime(program.startMin, legs[i - 1]?.endS ?? 0)} –{' '}
              {clockTime(program.startMin, legs[i].endS)}
            </span>
          }
          out={
            program.segments.length > 1
              ? {
                  label: `Take leg ${i + 1} out`,
                  act: () => change({ segments: program.segments.filter((_, k) => k !== i) }),
                }
              : undefined
          }
        >
          <Pair>
            <Box sx={{ gridColumn: s.rateKPerH === null ? '1 / -1' : undefined }}>
              <Choice
                label={`Leg ${i + 1} goes`}
                value={s.rateKPerH === null ? 'free' : 'rate'}
                options={[
                  ['free', 'as fast as it can'],
                  ['rate', 'at a rate'],
                ]}
                onChange={(how) => put(i, { rateKPerH: how === 'free' ? null : (s.rateKPerH ?? 150) })}
              />
            </Box>
            {s.rateKPerH !== null && (
              <QuantityField
                of={of('segments.rateKPerH')}
                label={`Leg ${i + 1} rate`}
                value={s.rateKPerH}
                onChange={(rateKPerH) => put(i, { rateKPerH })}
              />
            )}
            <QuantityField
              of={of('segments.targetC')}
              label={`Leg ${i + 1} to`}
              value={s.targetC}
              onChange={(targetC) => put(i, { targetC })}
            />
            <QuantityField
              of={of('segments.holdMin')}
              label={`Leg ${i + 1} held`}
              value={s.holdMin}
              onChange={(holdMin) => put(i, { holdMin })}
            />
          </Pair>
          <WordField
            label={`After leg ${i + 1}`}
            schema={THEN}
            value={s.then ?? ''}
            onChange={(then) => put(i, { then: then || undefined })}
          />
        </Group>
      ))}
      <Box sx={{ display: 'flex', justifyContent: 'space-between' }}>
        <Another
          has={program.segments.length}
          most={MOST_LEGS}
          act={() =>
            change({ segments: [...program.segments, { ...program.segments.at(-1)!, then: undefined }] })
          }
        >
          Another leg
        </Another>
        {!ofMove && (
          <Button size="small" onClick={remove}>
            Take this program out
          </Button>
        )}
      </Box>
    </>
  );
}
