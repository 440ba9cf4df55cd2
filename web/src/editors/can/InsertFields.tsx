import { manyOf } from '../../../../core/instruct/canWords.ts';
import { Group, Pair } from '../../ui/Group.tsx';
import { quantitiesOf } from '../../../../core/units/index.ts';
import { insertSchema } from '../../../../core/canister/inserts.ts';
import { Alert, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { type Can, roomOf } from '../../../../core/canister/can.ts';
import {
  type Insert,
  allPlaced,
  insertVolume,
  isBall,
  isFlat,
  isLump,
  isRound,
  standing,
} from '../../../../core/canister/inserts.ts';
import { TOUCHING } from '../../../../core/canister/packing.ts';
import { materialById } from '../../../../core/materials/material.ts';
import { Choice } from '../../ui/fields/Choice.tsx';
import { MaterialChoice } from '../form/MaterialChoice.tsx';
import { OptionalField, QuantityField } from '../../ui/fields/QuantityField.tsx';
import { useEvaluation, useShop } from '../../document/useEvaluation.ts';
import { ask } from '../../document/workers/host.ts';

const of = quantitiesOf(insertSchema);

interface InsertFieldsProps {
  number: number;
  insert: Insert;
  can: Can;
  put(some: Partial<Insert>): void;
  remove(): void;
}

/** One kind of insert: what it is, how many, and how it lies. */
export function InsertFields({ number, insert, can, put, remove }: InsertFieldsProps) {
  const name = `Insert ${number}`;
  return (
    <Group
      title={`${name}: ${manyOf(insert.shape)}`}
      out={{ label: `Take insert ${number} out`, act: remove }}
    >
      {insert.shape === 'bar' ? (
        <Bars name={name} insert={insert} put={put} />
      ) : (
        <MaterialChoice
          label={`${name} of`}
          value={insert.material}
          onChange={(material) => put({ material })}
        />
      )}
      <Pair>
        {insert.shape !== 'bar' && (
          <QuantityField
            of={of('sizeMm')}
            label={isLump(insert) ? `${name}, each about` : `${name} size`}
            value={insert.sizeMm}
            onChange={(sizeMm) => put({ sizeMm })}
          />
        )}
        {isFlat(insert) && insert.shape !== 'bar' && (
          <QuantityField
            of={of('thicknessMm')}
            label={`${name} thick`}
            value={insert.thicknessMm ?? insert.sizeMm}
            onChange={(thicknessMm) => put({ thicknessMm })}
          />
        )}
        {isLump(insert) ? (
          <Weight name={name} insert={insert} can={can} put={put} />
        ) : (
          insert.shape !== 'bar' && (
            <QuantityField
              of={of('count')}
              label={`${name} count`}
              value={insert.count}
              onChange={(count) => put({ count, ...kept(insert, count) })}
            />
          )
        )}
        {!isLump(insert) && insert.shape !== 'bar' && (
          <OptionalField
            of={of('readyCount')}
            label={`${name} ready`}
            value={insert.readyCount}
            onChange={(readyCount) => put({ readyCount })}
          />
        )}
        <Choice
          label={`${name} lies`}
          value={insert.lay}
          options={[
            ['rows', 'in rows'],
            ['hexagonal', 'close, in hexagons'],
            ['rim', 'around the rim'],
            ...(can.picture ? [['outline', 'along the picture’s outline'] as const] : []),
            ...(insert.places ? [['placed', 'as poured or moved'] as const] : []),
          ]}
          onChange={(lay) => put({ lay })}
        />
        {isBall(insert) && !isLump(insert) && insert.lay !== 'placed' && (
          <OptionalField
            of={of('bedMm')}
            label={`${name}, bed to bed`}
            value={insert.bedMm}
            onChange={(bedMm) => put({ bedMm })}
          />
        )}
        {!isBall(insert) && insert.shape !== 'bar' && (
          <OptionalField
            of={of('cutMm')}
            label={`${name}, cut to`}
            value={insert.cutMm}
            onChange={(cutMm) => put({ cutMm })}
          />
        )}
        {!isBall(insert) && (insert.cutMm ?? 0) > 0 && (
          <OptionalField
            of={of('gapMm')}
            label={`${name}, gap between`}
            value={insert.gapMm}
            onChange={(gapMm) => put({ gapMm })}
          />
        )}
      </Pair>
      {isRound(insert) && <Pour number={number} insert={insert} can={can} put={put} />}
    </Group>
  );
}

/** Of places given one by one as many as are wanted stay. */
const kept = (insert: Insert, count: number): Partial<Insert> =>
  insert.lay === 'placed' && insert.places && count < insert.places.length
    ? { places: insert.places.slice(0, count) }
    : {};

/** Springs, chain and offcuts go by weight: so many lumps as weigh that much. */
function Weight({
  name,
  insert,
  can,
  put,
}: { name: string } & Pick<InsertFieldsProps, 'insert' | 'can' | 'put'>) {
  const { materials } = useShop();
  const density = materialById(materials, insert.material)?.densityKgM3 ?? 7850;
  const each = insertVolume(insert, roomOf(can).depthMm) * density * 1e-9;
  return (
    <QuantityField
      of={{
        ...of('count'),
        kind: 'mass',
        whole: false,
        least: of('count').least * each,
        most: of('count').most * each,
      }}
      label={`${name}, weight`}
      value={insert.count * each}
      onChange={(kg) =>
        put({ count: Math.max(1, Math.min(of('count').most, Math.round(kg / each))), lay: insert.lay })
      }
    />
  );
}

/** Finished pieces of another lane, stood up in the can. */
function Bars({ name, insert, put }: { name: string } & Pick<InsertFieldsProps, 'insert' | 'put'>) {
  const { lanes } = useEvaluation();
  const pieces = insert.pieces ?? [];
  const lane = pieces[0]?.lane ?? '';
  const choose = (id: string, count: number) =>
    put({ pieces: Array.from({ length: count }, (_, i) => ({ lane: id, piece: i + 1 })), count });
  const there = lanes.find((l) => l.lane.id === lane)?.pieces.length ?? 1;
  return (
    <Pair>
      <Choice
        label={`${name} from`}
        value={lane}
        options={lanes.map((l) => [l.lane.id, l.lane.name] as const)}
        onChange={(id) => choose(id, Math.max(1, pieces.length))}
      />
      <QuantityField
        of={{ ...of('count'), most: Math.max(1, there) }}
        label={`${name} count`}
        value={Math.max(1, pieces.length)}
        onChange={(count) => choose(lane, count)}
      />
    </Pair>
  );
}

/** Pours so many in and shakes them down, among what else stands there; pressed again, they fall otherwise. */
function Pour({ number, insert, can, put }: Omit<InsertFieldsProps, 'remove'>) {
  const [state, setState] = useState<'ready' | 'pouring' | 'too many' | 'failed'>('ready');
  const [seed, setSeed] = useState(1);
  const pour = async () => {
    setState('pouring');
    const room = roomOf(can);
    const others = can.inserts.filter((_, k) => k !== number - 1);
    const radii = Array.from({ length: insert.count }, () => insert.sizeMm / 2);
    const { widthMm, heightMm, depthMm, outline } = room;
    const section = { widthMm, heightMm, ...(outline && { outline }) };
    const into = isBall(insert) ? { ...section, depthMm } : section;
    const poured = await ask('answers', (api) =>
      api.pour(radii, into, standing(allPlaced(others, room)), seed),
    ).catch(() => null);
    if (!poured) return setState('failed');
    const { rounds, overlap } = poured;
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
      {state === 'failed' && <Alert severity="error">Pouring broke off: try it again.</Alert>}
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
