import { manyOf } from '../../../../core/instruct/canWords.ts';
import { mostIn, quantitiesOf } from '../../../../core/units/index.ts';
import { FILLINGS, USUAL_TAP, canSchema } from '../../../../core/canister/can.ts';
import AddIcon from '@mui/icons-material/Add';
import { Alert, Box, Button } from '@mui/material';
import { useState } from 'react';
import { roomOf } from '../../../../core/canister/can.ts';
import { handyNumbers } from '../../../../core/units/handy.ts';
import { type Insert, insertSchema, MOST_INSERTS } from '../../../../core/canister/inserts.ts';
import { mostThatLie } from '../../../../core/canister/layout.ts';
import type { ParametersOf } from '../../../../core/moves/index.ts';
import { InsertFields } from './InsertFields.tsx';
import { PourAll } from './Pouring.tsx';
import { Pair } from '../../ui/Group.tsx';
import { PictureFields } from './PictureFields.tsx';
import { outlineOfDrawing } from './outlineOfDrawing.ts';
import { FileButton } from '../../ui/FileButton.tsx';
import { useEvaluation } from '../../document/useEvaluation.ts';
import { Choice } from '../../ui/fields/Choice.tsx';
import { MaterialChoice } from '../form/MaterialChoice.tsx';
import { QuantityField } from '../../ui/fields/QuantityField.tsx';
import type { EditorProps } from '../form/editor.ts';

const of = quantitiesOf(canSchema);
const MOST_KINDS = mostIn(canSchema, 'inserts');

type Can = ParametersOf<'can'>;

/** The density follows the way of filling, unless it is one's own. */
const settled = ({ filling, tapDensity }: Can, to: Can['filling']): Partial<Can> =>
  tapDensity === USUAL_TAP[filling] ? { tapDensity: USUAL_TAP[to] } : {};

const FRESH: Record<Insert['shape'], Partial<Insert>> = {
  ball: { sizeMm: 12, lay: 'hexagonal' },
  rod: { sizeMm: 6, lay: 'hexagonal' },
  'square bar': { sizeMm: 10, lay: 'rows' },
  strip: { sizeMm: 25, thicknessMm: 2, lay: 'rows' },
  'saw blade': { sizeMm: 30, thicknessMm: 1.2, lay: 'rows' },
  'bent rod': { sizeMm: 6, lay: 'rim' },
  springs: { sizeMm: 12, wireMm: 2, pitchMm: 5, lay: 'hexagonal' },
  chain: { sizeMm: 17, wireMm: 5, pitchMm: 18.5, lay: 'hexagonal' },
  offcuts: { sizeMm: 10, lay: 'hexagonal' },
  bar: { sizeMm: 20, thicknessMm: 20, lay: 'rows' },
};

/** A can: its box, its powder, and what stands in it. */
export function CanEditor({ parameters: p, change, problem }: EditorProps<Can>) {
  const room = roomOf(p);
  const { lanes, shop } = useEvaluation();
  const { materials } = shop;
  const put = (i: number, some: Partial<Insert>) =>
    change(({ inserts }) => ({ inserts: inserts.map((o, k) => (k === i ? { ...o, ...some } : o)) }));
  const add = (shape: Insert['shape']) => {
    const plain: Insert = { shape, material: '15n20', sizeMm: 10, count: 1, lay: 'rows', ...FRESH[shape] };
    const insert = handyNumbers(insertSchema, plain, shop);
    if (shape === 'bar') {
      const other = lanes.find((l) => l.pieces.length > 0 && !l.steps.some((s) => s.step.parameters === p));
      const pieces = [{ lane: other?.lane.id ?? lanes[0].lane.id, piece: 1 }];
      return change({ inserts: [...p.inserts, { ...insert, pieces }] });
    }
    const count = Math.max(1, Math.min(MOST_INSERTS, mostThatLie(insert, room, p.inserts)));
    change({ inserts: [...p.inserts, { ...insert, count }] });
  };
  return (
    <>
      <Choice
        label="Can made as"
        value={p.shape}
        options={[
          ['box', 'a box of plate'],
          ['tube', 'a round tube'],
          ['free', 'plate bent round an outline'],
        ]}
        onChange={(shape) => change({ shape })}
        problem={problem('shape')}
      />
      {p.shape === 'free' && <FreeOutline take={(outline) => change({ outline })} />}
      <Pair>
        <QuantityField of={of('widthMm')} value={p.widthMm} onChange={(widthMm) => change({ widthMm })} />
        {p.shape === 'box' && (
          <QuantityField
            of={of('heightMm')}
            value={p.heightMm}
            onChange={(heightMm) => change({ heightMm })}
          />
        )}
        <QuantityField of={of('lengthMm')} value={p.lengthMm} onChange={(lengthMm) => change({ lengthMm })} />
        <QuantityField
          of={of('wallMm')}
          value={p.wallMm}
          onChange={(wallMm) => change({ wallMm })}
          problem={problem('wallMm')}
        />
      </Pair>
      <MaterialChoice label="Can of" value={p.wall} onChange={(wall) => change({ wall })} />
      <Pair>
        <QuantityField of={of('capMm')} value={p.capMm} onChange={(capMm) => change({ capMm })} />
        <Choice
          label="Release"
          value={p.release}
          options={[
            ['none', 'none'],
            ['white coating', 'white coating'],
            ['foil', 'foil'],
          ]}
          onChange={(release) => change({ release })}
        />
        <Choice
          label="Vent"
          value={p.vent}
          options={[
            ['far end', 'far end'],
            ['handle end', 'handle end'],
            ['none', 'none'],
          ]}
          onChange={(vent) => change({ vent })}
        />
        <Choice
          label="Held by"
          value={p.handle}
          options={[
            ['stub', 'a stub'],
            ['bar', 'a handle bar'],
            ['none', 'tongs alone'],
          ]}
          onChange={(handle) => change({ handle })}
        />
        <QuantityField of={of('ventMm')} value={p.ventMm} onChange={(ventMm) => change({ ventMm })} />
      </Pair>
      <MaterialChoice
        label={p.picture ? 'Powder of the ground' : 'Powder'}
        value={p.powder}
        onChange={(powder) => change({ powder })}
      />
      <Pair>
        <QuantityField
          of={of('tapDensity')}
          value={p.tapDensity}
          onChange={(tapDensity) => change({ tapDensity })}
        />
        <Choice
          label="Filled"
          value={p.filling}
          options={Object.entries(FILLINGS) as [Can['filling'], string][]}
          onChange={(filling) => change({ filling, ...settled(p, filling) })}
        />
      </Pair>
      <Pair>
        <QuantityField of={of('spill')} value={p.spill} onChange={(spill) => change({ spill })} />
      </Pair>
      <Pair>
        {[...new Set([p.powder, ...(p.picture?.drawn.map((f) => f.powder) ?? [])])].map((id) => (
          <QuantityField
            of={of('readyKg.any')}
            key={id}
            label={`${materials.find((m) => m.id === id)?.name ?? id} on the shelf`}
            value={p.readyKg?.[id] ?? 0}
            onChange={(kg) => change({ readyKg: { ...p.readyKg, [id]: kg } })}
          />
        ))}
      </Pair>
      <PictureFields can={p} change={change} />
      {p.inserts.map((insert, i) => (
        <InsertFields
          key={i}
          number={i + 1}
          insert={insert}
          can={p}
          put={(some) => put(i, some)}
          change={change}
          remove={() => change({ inserts: p.inserts.filter((_, k) => k !== i) })}
        />
      ))}
      <PourAll can={p} change={change} />
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.5 }}>
        {(Object.keys(FRESH) as Insert['shape'][]).map((shape) => (
          <Button
            key={shape}
            size="small"
            startIcon={<AddIcon />}
            disabled={p.inserts.length >= MOST_KINDS}
            onClick={() => add(shape)}
          >
            {named(shape)}
          </Button>
        ))}
      </Box>
    </>
  );
}

const named = (shape: Insert['shape']): string => {
  const many = manyOf(shape);
  return many[0].toUpperCase() + many.slice(1);
};

/** The inside of a free can from a drawing of it. */
function FreeOutline({ take }: { take(outline: [number, number][]): void }) {
  const [problem, setProblem] = useState<string | null>(null);
  return (
    <>
      <FileButton
        size="small"
        variant="outlined"
        text="Outline from an SVG drawing"
        accept=".svg,image/svg+xml"
        take={async (file) => {
          const read = await outlineOfDrawing(file);
          setProblem(read.ok ? null : read.message);
          if (read.ok) take(read.outline);
        }}
      />
      {problem && <Alert severity="error">{problem}</Alert>}
    </>
  );
}
