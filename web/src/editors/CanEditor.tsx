import AddIcon from '@mui/icons-material/Add';
import CloseIcon from '@mui/icons-material/Close';
import { Alert, Box, Button, IconButton, Typography } from '@mui/material';
import { useState } from 'react';
import { roomOf } from '../../../core/canister/can.ts';
import { type Insert, allPlaced, mostThatLie, standing } from '../../../core/canister/inserts.ts';
import { TOUCHING } from '../../../core/canister/packing.ts';
import type { ParametersOf } from '../../../core/steps/index.ts';
import { colours } from '../app/theme.ts';
import { Choice, MaterialChoice } from '../fields/Choice.tsx';
import { CountField, LengthField, ShareField } from '../fields/numberFields.tsx';
import { reckoner } from '../steel/painter.ts';
import type { EditorProps } from './editor.ts';

type Can = ParametersOf<'can'>;

const FRESH: Record<Insert['shape'], Partial<Insert>> = {
  ball: { sizeMm: 12, lay: 'hexagonal' },
  rod: { sizeMm: 6, lay: 'hexagonal' },
  'square bar': { sizeMm: 10, lay: 'rows' },
  strip: { sizeMm: 25, thicknessMm: 2, lay: 'rows' },
};

/** A can: its box, its powder, and what stands in it. */
export function CanEditor({ parameters: p, change, problem }: EditorProps<Can>) {
  const room = roomOf(p);
  const put = (i: number, some: Partial<Insert>) =>
    change({ inserts: p.inserts.map((o, k) => (k === i ? { ...o, ...some } : o)) });
  const add = (shape: Insert['shape']) => {
    const insert: Insert = { shape, material: '15n20', sizeMm: 10, count: 1, lay: 'rows', ...FRESH[shape] };
    const count = Math.max(1, Math.min(2000, mostThatLie(insert, room)));
    change({ inserts: [...p.inserts, { ...insert, count }] });
  };
  return (
    <>
      <Pair>
        <LengthField
          label="Can width"
          mostMm={500}
          value={p.widthMm}
          onChange={(widthMm) => change({ widthMm })}
        />
        <LengthField
          label="Can height"
          mostMm={500}
          value={p.heightMm}
          onChange={(heightMm) => change({ heightMm })}
        />
        <LengthField
          label="Can length"
          mostMm={2000}
          value={p.lengthMm}
          onChange={(lengthMm) => change({ lengthMm })}
        />
        <LengthField
          label="Wall"
          fine
          mostMm={20}
          value={p.wallMm}
          onChange={(wallMm) => change({ wallMm })}
          problem={problem('wallMm')}
        />
      </Pair>
      <MaterialChoice label="Can of" value={p.wall} onChange={(wall) => change({ wall })} />
      <Pair>
        <LengthField label="Caps" fine mostMm={50} value={p.capMm} onChange={(capMm) => change({ capMm })} />
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
        <LengthField
          label="Vent, wide"
          fine
          mayBeNone
          mostMm={10}
          value={p.ventMm}
          onChange={(ventMm) => change({ ventMm })}
        />
      </Pair>
      <MaterialChoice label="Powder" value={p.powder} onChange={(powder) => change({ powder })} />
      <Pair>
        <ShareField
          label="Tap density"
          least={0.3}
          most={0.75}
          value={p.tapDensity}
          onChange={(tapDensity) => change({ tapDensity })}
        />
        <ShareField
          label="For lid and spill"
          least={0}
          most={0.3}
          value={p.spill}
          onChange={(spill) => change({ spill })}
        />
      </Pair>
      {p.inserts.map((insert, i) => (
        <InsertFields
          key={i}
          number={i + 1}
          insert={insert}
          can={p}
          put={(some) => put(i, some)}
          remove={() => change({ inserts: p.inserts.filter((_, k) => k !== i) })}
        />
      ))}
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.5 }}>
        {(Object.keys(FRESH) as Insert['shape'][]).map((shape) => (
          <Button
            key={shape}
            size="small"
            startIcon={<AddIcon />}
            disabled={p.inserts.length >= 12}
            onClick={() => add(shape)}
          >
            {shape === 'strip' ? 'Strips' : `${shape[0].toUpperCase()}${shape.slice(1)}s`}
          </Button>
        ))}
      </Box>
    </>
  );
}

const Pair = ({ children }: { children: React.ReactNode }) => (
  <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1.25, alignItems: 'start' }}>
    {children}
  </Box>
);

interface InsertFieldsProps {
  number: number;
  insert: Insert;
  can: Can;
  put(some: Partial<Insert>): void;
  remove(): void;
}

/** One kind of insert: what it is, how many, and how it lies. */
function InsertFields({ number, insert, can, put, remove }: InsertFieldsProps) {
  const name = `Insert ${number}`;
  return (
    <Box
      component="fieldset"
      sx={{
        border: `1px solid ${colours.line}`,
        borderRadius: 1,
        p: 1,
        m: 0,
        display: 'grid',
        gap: 1.25,
        minWidth: 0,
      }}
    >
      <Box sx={{ display: 'flex', alignItems: 'center' }}>
        <Typography component="legend" sx={{ fontWeight: 600, flex: 1 }}>
          {name}: {insert.shape === 'strip' ? 'strips' : `${insert.shape}s`}
        </Typography>
        <IconButton size="small" aria-label={`Take insert ${number} out`} onClick={remove}>
          <CloseIcon fontSize="small" />
        </IconButton>
      </Box>
      <MaterialChoice
        label={`${name} of`}
        value={insert.material}
        onChange={(material) => put({ material })}
      />
      <Pair>
        <LengthField
          label={`${name} size`}
          fine
          mostMm={300}
          value={insert.sizeMm}
          onChange={(sizeMm) => put({ sizeMm })}
        />
        {insert.shape === 'strip' && (
          <LengthField
            label={`${name} thick`}
            fine
            mostMm={300}
            value={insert.thicknessMm ?? insert.sizeMm}
            onChange={(thicknessMm) => put({ thicknessMm })}
          />
        )}
        <CountField
          label={`${name} count`}
          least={1}
          most={2000}
          value={insert.count}
          onChange={(count) => put({ count })}
        />
        <Choice
          label={`${name} lies`}
          value={insert.lay}
          options={[
            ['rows', 'in rows'],
            ['hexagonal', 'close, in hexagons'],
            ['rim', 'around the rim'],
            ...(insert.places ? [['placed', 'as poured'] as const] : []),
          ]}
          onChange={(lay) => put({ lay })}
        />
      </Pair>
      {(insert.shape === 'ball' || insert.shape === 'rod') && (
        <Pour number={number} insert={insert} can={can} put={put} />
      )}
    </Box>
  );
}

/** Pours so many in and shakes them down, among what else stands there; pressed again, they fall otherwise. */
function Pour({ number, insert, can, put }: Omit<InsertFieldsProps, 'remove'>) {
  const [state, setState] = useState<'ready' | 'pouring' | 'too many'>('ready');
  const [seed, setSeed] = useState(1);
  const pour = async () => {
    setState('pouring');
    const room = roomOf(can);
    const others = can.inserts.filter((_, k) => k !== number - 1);
    const radii = Array.from({ length: insert.count }, () => insert.sizeMm / 2);
    const { widthMm, heightMm, depthMm } = room;
    const into = insert.shape === 'ball' ? room : { widthMm, heightMm };
    const { rounds, overlap } = await reckoner.pour(radii, into, standing(allPlaced(others, room)), seed);
    setSeed(seed + 1);
    if (overlap > 5 * TOUCHING) return setState('too many');
    const fine = (mm: number) => Math.round(mm * 1000) / 1000;
    const places = rounds.map(({ x, y, z }) => ({ x: fine(x), y: fine(y), z: fine(Math.min(z, depthMm)) }));
    put({ lay: 'placed', places });
    setState('ready');
  };
  return (
    <>
      <Button size="small" variant="outlined" disabled={state === 'pouring'} onClick={() => void pour()}>
        {state === 'pouring'
          ? 'Pouring…'
          : insert.lay === 'placed'
            ? `Pour insert ${number} again`
            : `Pour insert ${number} in`}
      </Button>
      {state === 'too many' && (
        <Alert severity="warning">
          {insert.count} do not settle without pressing into each other: take fewer, or a larger can.
        </Alert>
      )}
      {insert.lay === 'placed' && (
        <Typography variant="body2" color="text.secondary">
          One settled arrangement of many; the real ones will lie otherwise.
        </Typography>
      )}
    </>
  );
}
