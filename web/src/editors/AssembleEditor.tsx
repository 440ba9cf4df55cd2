import { quantitiesOf } from '../../../core/units/index.ts';
import { MOVES } from '../../../core/moves/index.ts';
import { Button, Checkbox, FormControl, FormControlLabel, FormLabel, Stack, Typography } from '@mui/material';
import { laneMark } from '../../../core/plan/index.ts';
import { type AssembleParameters, gridPlacesOf } from '../../../core/moves/lay/assemble/laid.ts';
import { type GridFill, presetPlaces } from '../../../core/moves/lay/assemble/layout.ts';
import { Choice } from '../ui/fields/Choice.tsx';
import { MaterialChoice } from './form/MaterialChoice.tsx';
import { QuantityField } from '../ui/fields/QuantityField.tsx';
import { useEvaluation } from '../document/useEvaluation.ts';
import type { EditorProps } from './form/editor.ts';

const of = quantitiesOf(MOVES.assemble.parameters);

const LAYOUTS = [
  ['mirrored', 'Mirrored, like a kaleidoscope'],
  ['turned', 'Turned (pinwheel)'],
  ['alike', 'All alike'],
  ['brick', 'Bricks, every other row shifted'],
  ['free', 'Each its own way'],
] as const;

const FILLS = [
  ['in turn', 'Bars in turn'],
  ['chequer', 'Bars as a chessboard'],
  ['either side', 'The first on both sides of the others'],
] as const;

const STRIPS = [
  ['none', 'No strips'],
  ['cross', 'Strips between, both ways'],
  ['upright', 'Upright strips between'],
  ['level', 'Level strips between'],
  ['frame', 'A frame round the outside'],
  ['cross and frame', 'Between and round the outside'],
] as const;

type P = AssembleParameters;

/** A change of the grid keeps a free layout free: it is laid out again from the start. */
function regrid(p: P, changes: Partial<P>): Partial<P> {
  // Other places make other seams: what was said of the old ones goes.
  const some = { ...changes, clash: undefined };
  const next = { ...p, ...some };
  if (next.layout !== 'free') return { ...some, places: undefined };
  const { columns, rows, from, fill } = next;
  return { ...some, places: presetPlaces({ columns, rows, preset: 'alike', from, fill }) };
}

export function AssembleEditor({ parameters: p, change, before, problem }: EditorProps<P>) {
  const relayout = (layout: P['layout']) =>
    change({ layout, places: layout === 'free' ? gridPlacesOf(p) : undefined, clash: undefined });
  const setStrips = (where: (typeof STRIPS)[number][0]) =>
    change({
      strips: where === 'none' ? undefined : { material: '15n20', thicknessMm: 1.5, ...p.strips, where },
    });
  const own = before.filter((b) => b.piece?.lane === undefined).length;
  return (
    <>
      <From p={p} own={own} change={(some) => change(regrid(p, some))} problem={problem('from')} />
      <Stack direction="row" spacing={1}>
        <QuantityField
          of={of('columns')}
          value={p.columns}
          onChange={(columns) => change(regrid(p, { columns }))}
          problem={problem('columns')}
        />
        <QuantityField of={of('rows')} value={p.rows} onChange={(rows) => change(regrid(p, { rows }))} />
      </Stack>
      <Choice
        label="Lay them"
        value={p.layout}
        options={LAYOUTS}
        onChange={relayout}
        problem={problem('layout')}
      />
      {own > 1 && p.from === undefined && (
        <Button
          size="small"
          onClick={() =>
            change({ columns: own, rows: 1, layout: 'mirrored', places: undefined, clash: undefined })
          }
        >
          Book-matched row of all {own}
        </Button>
      )}
      <Choice
        label="Strips"
        value={p.strips?.where ?? 'none'}
        options={STRIPS}
        onChange={setStrips}
        problem={problem('strips')}
      />
      {p.strips && (
        <Stack direction="row" spacing={1}>
          <MaterialChoice
            label="Strip"
            value={p.strips.material}
            onChange={(material) => change({ strips: { ...p.strips!, material } })}
          />
          <QuantityField
            of={of('strips.thicknessMm')}
            hideLabel
            width={125}
            value={p.strips.thicknessMm}
            onChange={(thicknessMm) => change({ strips: { ...p.strips!, thicknessMm } })}
          />
        </Stack>
      )}
    </>
  );
}

interface FromProps {
  p: P;
  own: number;
  change(some: Partial<P>): void;
  problem: string | undefined;
}

/** Which bars the pieces come from, where the plan has others. */
function From({ p, own, change, problem }: FromProps) {
  const { plan, lanes } = useEvaluation();
  const others = lanes.filter((l) => l.pieces.length > 0 && !l.steps.some((s) => s.step.parameters === p));
  if (others.length === 0 && p.from === undefined) return null;
  const from = p.from ?? [];
  const toggle = (id: string, on: boolean) => {
    const chosen = on ? [...from, id] : from.filter((f) => f !== id);
    if (chosen.length > 0 || own > 0) change({ from: chosen.length > 0 ? chosen : undefined });
  };
  const share = (fill: GridFill) => {
    const [first] = from.map((id) => lanes.find((l) => l.lane.id === id)?.pieces.length ?? 1);
    change(fill === 'either side' ? { fill, columns: first + from.length - 1, rows: 1 } : { fill });
  };
  return (
    <FormControl component="fieldset">
      <FormLabel component="legend" sx={{ fontSize: '0.9rem' }}>
        Pieces come from
      </FormLabel>
      {others.map((l) => (
        <FormControlLabel
          key={l.lane.id}
          sx={{ '& .MuiCheckbox-root': { py: 0.25 } }}
          control={
            <Checkbox checked={from.includes(l.lane.id)} onChange={(_, on) => toggle(l.lane.id, on)} />
          }
          label={`${laneMark(plan, l.lane.id)} ${l.lane.name} (${l.pieces.length})`}
        />
      ))}
      {from.length > 1 && (
        <Choice
          label="Share the places"
          value={p.fill ?? 'in turn'}
          options={FILLS}
          onChange={(fill: GridFill) => share(fill)}
        />
      )}
      {problem && (
        <Typography variant="body2" color="error">
          {problem}
        </Typography>
      )}
    </FormControl>
  );
}
