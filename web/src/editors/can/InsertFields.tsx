import { begin } from '../../../../core/instruct/said.ts';
import { manyOf } from '../../../../core/instruct/canWords.ts';
import { Group, Pair, WholeRow } from '../../ui/Group.tsx';
import { quantitiesOf } from '../../../../core/units/index.ts';
import { insertSchema } from '../../../../core/canister/inserts.ts';
import { Button } from '@mui/material';
import { type Can, roomOf } from '../../../../core/canister/can.ts';
import { mostThatLie } from '../../../../core/canister/layout.ts';
import {
  type Insert,
  MOST_INSERTS,
  insertVolume,
  isBall,
  isBent,
  isFlat,
  isLump,
  isOfLanes,
  TOOTH_PITCH,
  isRound,
  isToothed,
  isWire,
} from '../../../../core/canister/inserts.ts';
import { Pour } from './Pouring.tsx';
import { materialById } from '../../../../core/materials/material.ts';
import { Choice } from '../../ui/fields/Choice.tsx';
import { MaterialChoice } from '../form/MaterialChoice.tsx';
import { OptionalField, QuantityField } from '../../ui/fields/QuantityField.tsx';
import { useEvaluation, useShop } from '../../document/useEvaluation.ts';

const of = quantitiesOf(insertSchema);

interface InsertFieldsProps {
  number: number;
  insert: Insert;
  can: Can;
  put(some: Partial<Insert>): void;
  change(how: (now: Can) => Partial<Can>): void;
  remove(): void;
}

/** One kind of insert: what it is, how many, and how it lies. */
export function InsertFields({ number, insert, can, put, change, remove }: InsertFieldsProps) {
  const name = `Insert ${number}`;
  const others = can.inserts.filter((_, k) => k !== number - 1);
  const most = () => Math.max(1, Math.min(MOST_INSERTS, mostThatLie(insert, roomOf(can), others)));
  return (
    <Group
      title={`${name}: ${manyOf(insert.shape)}`}
      out={{ label: `Take insert ${number} out`, act: remove }}
    >
      {insert.shape === 'bar' ? (
        <Bars name={name} insert={insert} put={put} />
      ) : (
        !isOfLanes(insert) && (
          <MaterialChoice
            label={`${name} of`}
            value={insert.material}
            onChange={(material) => put({ material })}
          />
        )
      )}
      {insert.shape === 'offcuts' && <SawnFrom name={name} insert={insert} can={can} put={put} />}
      <Pair>
        {insert.shape !== 'bar' && (
          <QuantityField
            of={of('sizeMm')}
            label={isLump(insert) ? `${name}, each about` : `${name} ${sizeWord(insert)}`}
            short={isLump(insert) ? 'Each about' : begin(sizeWord(insert))}
            value={insert.sizeMm}
            onChange={(sizeMm) => put({ sizeMm })}
          />
        )}
        {isWire(insert) && (
          <>
            <QuantityField
              of={of('wireMm')}
              label={`${name} wire`}
              short="Wire"
              value={insert.wireMm!}
              onChange={(wireMm) => put({ wireMm })}
            />
            <QuantityField
              of={of('pitchMm')}
              label={`${name}, ${insert.shape === 'chain' ? 'link to link' : 'turn to turn'}`}
              short={insert.shape === 'chain' ? 'Link to link' : 'Turn to turn'}
              value={insert.pitchMm!}
              onChange={(pitchMm) => put({ pitchMm })}
            />
            {insert.shape === 'springs' && (
              <QuantityField
                of={of('strands')}
                label={`${name} threaded into one another`}
                short="Threaded together"
                value={insert.strands ?? 1}
                onChange={(strands) => put({ strands })}
              />
            )}
          </>
        )}
        {isFlat(insert) && insert.shape !== 'bar' && (
          <QuantityField
            of={of('thicknessMm')}
            label={`${name} thick`}
            short="Thick"
            value={insert.thicknessMm ?? insert.sizeMm}
            onChange={(thicknessMm) => put({ thicknessMm })}
          />
        )}
        {isFlat(insert) && insert.shape !== 'bar' && (
          <QuantityField
            of={of('bowMm')}
            label={`${name} bowed`}
            short="Bowed"
            value={insert.bowMm ?? 0}
            onChange={(bowMm) => put({ bowMm })}
          />
        )}
        {isFlat(insert) && insert.shape !== 'bar' && (insert.bowMm ?? 0) > 0 && (
          <WholeRow>
            <Choice
              label={`${name} bowed which way`}
              value={insert.bowed ?? 'across'}
              options={[
                ['across', 'across: its edges'],
                ['along', 'along: its ends'],
              ]}
              onChange={(bowed) => put({ bowed })}
            />
          </WholeRow>
        )}
        {insert.shape === 'saw blade' && (
          <QuantityField
            of={of('toothMm')}
            label={`${name} teeth deep`}
            short="Teeth deep"
            value={insert.toothMm ?? 0}
            onChange={(toothMm) => put({ toothMm })}
          />
        )}
        {isToothed(insert) && (
          <QuantityField
            of={of('teethMm')}
            label={`${name} tooth to tooth`}
            short="Tooth to tooth"
            value={insert.teethMm ?? TOOTH_PITCH * insert.toothMm!}
            onChange={(teethMm) => put({ teethMm })}
          />
        )}
        {isLump(insert) && !isOfLanes(insert) ? (
          <WholeRow>
            <Weight name={name} insert={insert} can={can} put={put} />
          </WholeRow>
        ) : (
          insert.shape !== 'bar' && (
            <QuantityField
              of={of('count')}
              label={`${name} count`}
              short="Count"
              value={insert.count}
              onChange={(count) => put({ count, ...kept(insert, count) })}
            />
          )
        )}
        {!isLump(insert) && insert.shape !== 'bar' && (
          <OptionalField
            of={of('readyCount')}
            label={`${name} ready`}
            short="Ready"
            value={insert.readyCount}
            onChange={(readyCount) => put({ readyCount })}
          />
        )}
        {!isBent(insert) && (
          <WholeRow>
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
          </WholeRow>
        )}
        {isBall(insert) && !isLump(insert) && insert.lay !== 'placed' && (
          <OptionalField
            of={of('bedMm')}
            label={`${name}, bed to bed`}
            short="Bed to bed"
            value={insert.bedMm}
            onChange={(bedMm) => put({ bedMm })}
          />
        )}
        {!isBall(insert) && !isBent(insert) && insert.shape !== 'bar' && (
          <OptionalField
            of={of('cutMm')}
            label={`${name}, cut to`}
            short="Cut to"
            value={insert.cutMm}
            onChange={(cutMm) => put({ cutMm })}
          />
        )}
        {!isBall(insert) && (insert.cutMm ?? 0) > 0 && (
          <OptionalField
            of={of('gapMm')}
            label={`${name}, gap between`}
            short="Gap between"
            value={insert.gapMm}
            onChange={(gapMm) => put({ gapMm })}
          />
        )}
      </Pair>
      {!isLump(insert) && insert.shape !== 'bar' && insert.lay !== 'placed' && (
        <Button size="small" onClick={() => put({ count: most() })}>
          As many as go in
        </Button>
      )}
      {isRound(insert) && <Pour number={number} insert={insert} can={can} change={change} />}
    </Group>
  );
}

/** Offcuts of plain steel, or sawn from the pieces of another lane with their picture. */
function SawnFrom({
  name,
  insert,
  can,
  put,
}: { name: string } & Pick<InsertFieldsProps, 'insert' | 'can' | 'put'>) {
  const { lanes: all } = useEvaluation();
  const lanes = all.filter((l) => !l.steps.some((s) => s.step.parameters === can));
  const lane = insert.pieces?.[0]?.lane ?? '';
  const choose = (id: string) =>
    put({
      pieces: lanes.find((l) => l.lane.id === id)?.pieces.map((_, i) => ({ lane: id, piece: i + 1 })),
    });
  return (
    <Choice
      label={`${name} sawn from`}
      value={lane}
      options={[['', 'plain steel'], ...lanes.map((l) => [l.lane.id, l.lane.name] as const)]}
      onChange={choose}
    />
  );
}

/** What its size is the size of, in whole words. */
const sizeWord = (insert: Insert): string =>
  isRound(insert) || isBent(insert)
    ? isWire(insert)
      ? 'outside'
      : 'diameter'
    : isFlat(insert)
      ? 'wide'
      : 'side';

/** Of places given one by one as many as are wanted stay. */
const kept = (insert: Insert, count: number): Partial<Insert> =>
  insert.lay === 'placed' && insert.places && count < insert.places.length
    ? { places: insert.places.slice(0, count) }
    : {};

/** Springs, chain and offcuts go by weight: so many as weigh that much. */
function Weight({
  name,
  insert,
  can,
  put,
}: { name: string } & Pick<InsertFieldsProps, 'insert' | 'can' | 'put'>) {
  const { materials } = useShop();
  const density = materialById(materials, insert.material)?.densityKgM3 ?? 7850;
  const each = insertVolume(insert, roomOf(can)) * density * 1e-9;
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
      short="Weight"
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
        short="Count"
        value={Math.max(1, pieces.length)}
        onChange={(count) => choose(lane, count)}
      />
    </Pair>
  );
}
