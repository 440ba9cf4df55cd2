import CloseIcon from '@mui/icons-material/Close';
import { Box, IconButton } from '@mui/material';
import { mostIn } from '../../../core/units/index.ts';
import { MOVES, type ParametersOf } from '../../../core/moves/index.ts';
import { useEvaluation } from '../document/useEvaluation.ts';
import { Another } from '../ui/Another.tsx';
import { Choice } from '../ui/fields/Choice.tsx';
import type { EditorProps } from './form/editor.ts';
import { SchemaForm } from './form/form.tsx';

const MOST = mostIn(MOVES.scarf.parameters, 'from');

/** The joint, and which pieces of other bars come after those in hand. */
export function ScarfEditor({ parameters: p, change, problem }: EditorProps<ParametersOf<'scarf'>>) {
  const { lanes } = useEvaluation();
  const from = p.from ?? [];
  const keyOf = (lane: string, piece: number) => `${piece} ${lane}`;
  const offered = lanes
    .filter((l) => !l.steps.some((s) => s.step.parameters === p))
    .flatMap((l) =>
      l.pieces.map(
        (_, i) =>
          [
            keyOf(l.lane.id, i + 1),
            `${l.lane.name}${l.pieces.length > 1 ? `, piece ${i + 1}` : ''}`,
          ] as const,
      ),
    );
  const refs = offered.map(([key]) => {
    const [piece, ...lane] = key.split(' ');
    return { lane: lane.join(' '), piece: Number(piece) };
  });
  const refOf = (key: string) => refs[offered.findIndex(([k]) => k === key)];
  const free = refs.find((r) => !from.some((f) => f.lane === r.lane && f.piece === r.piece));
  return (
    <>
      <SchemaForm schema={MOVES.scarf.parameters} values={p} change={change} problem={problem} />
      {from.map((ref, i) => (
        <Box key={i} sx={{ display: 'grid', gridTemplateColumns: '1fr auto', gap: 0.5, alignItems: 'start' }}>
          <Choice
            label={`Then, ${i + 1}`}
            value={keyOf(ref.lane, ref.piece)}
            options={
              offered.some(([key]) => key === keyOf(ref.lane, ref.piece))
                ? offered
                : [...offered, [keyOf(ref.lane, ref.piece), 'a piece that is not there'] as const]
            }
            onChange={(key) => change({ from: from.map((f, k) => (k === i ? refOf(key) : f)) })}
            problem={i === 0 ? problem('from') : undefined}
          />
          <IconButton
            aria-label={`Take piece ${i + 1} of another bar out`}
            onClick={() => change({ from: from.filter((_, k) => k !== i) })}
          >
            <CloseIcon fontSize="small" />
          </IconButton>
        </Box>
      ))}
      {free && (
        <Another has={from.length} most={MOST} act={() => change({ from: [...from, free] })}>
          A piece of another bar
        </Another>
      )}
    </>
  );
}
