import { Alert, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { type Can, roomOf } from '../../../../core/canister/can.ts';
import {
  type Insert,
  type Place,
  isBall,
  isLump,
  liftsSchema,
  standing,
} from '../../../../core/canister/inserts.ts';
import { allPlaced, insideBent } from '../../../../core/canister/layout.ts';
import { type Round, TOUCHING } from '../../../../core/canister/packing.ts';
import { quantityOf } from '../../../../core/units/index.ts';
import { ask } from '../../document/workers/host.ts';
import { QuantityField } from '../../ui/fields/QuantityField.tsx';

type State = 'ready' | 'pouring' | 'too many' | 'failed';

const fine = (mm: number) => Math.round(mm * 1000) / 1000;
const settled = (rounds: readonly Round[], depthMm: number): Place[] =>
  rounds.map(({ x, y, z }) => ({ x: fine(x), y: fine(y), z: fine(Math.max(0, Math.min(z, depthMm))) }));

/** What is poured into: the room within rods that are bent round it, and what stands there. */
function pouredInto(can: Can, stays: readonly Insert[]) {
  const { widthMm, heightMm, depthMm, outline } = insideBent(can.inserts, roomOf(can));
  return {
    section: { widthMm, heightMm, ...(outline && { outline }) },
    depthMm,
    fixed: standing(allPlaced(stays, roomOf(can))),
  };
}

const SETTLED = 'One settled arrangement of many; the real ones will lie otherwise.';

/** Whether it is still what was poured. */
const isSame = (now: Insert, then: Insert): boolean =>
  now.shape === then.shape && now.sizeMm === then.sizeMm && now.count === then.count;

interface PourProps {
  number: number;
  insert: Insert;
  can: Can;
  change(how: (now: Can) => Partial<Can>): void;
}

/** Pours so many in and shakes them down, among what else stands there; pressed again, they fall otherwise. */
export function Pour({ number, insert, can, change }: PourProps) {
  const [state, setState] = useState<State>('ready');
  const [seed, setSeed] = useState(1);
  const pour = async () => {
    setState('pouring');
    const { section, depthMm, fixed } = pouredInto(
      can,
      can.inserts.filter((_, k) => k !== number - 1),
    );
    const radii = Array.from({ length: insert.count }, () => insert.sizeMm / 2);
    const into = isBall(insert) ? { ...section, depthMm } : section;
    const poured = await ask('pouring', (api) => api.pour(radii, into, fixed, seed)).catch(() => null);
    if (!poured) return setState('failed');
    setSeed(seed + 1);
    if (poured.overlap > 5 * TOUCHING) return setState('too many');
    change(({ inserts }) => ({
      inserts: inserts.map((o, k) =>
        k === number - 1 && isSame(o, insert)
          ? { ...o, lay: 'placed', poured: 0, places: settled(poured.rounds, depthMm) }
          : o,
      ),
    }));
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
          {SETTLED}
        </Typography>
      )}
    </>
  );
}

const LIFTS = quantityOf(liftsSchema);

interface PourAllProps {
  can: Can;
  change(how: (now: Can) => Partial<Can>): void;
}

const isPoured = (insert: Insert): boolean => isBall(insert) && !isLump(insert);

/** Balls of several sizes poured together, or in turn in lifts along the can. */
export function PourAll({ can, change }: PourAllProps) {
  const [state, setState] = useState<State>('ready');
  const [seed, setSeed] = useState(1);
  const [lifts, setLifts] = useState(1);
  const balls = can.inserts.filter(isPoured);
  if (balls.length < 2) return null;
  const pour = async () => {
    setState('pouring');
    const { section, depthMm, fixed } = pouredInto(
      can,
      can.inserts.filter((i) => !isPoured(i)),
    );
    const kinds = balls.map((i) => ({ radiusMm: i.sizeMm / 2, count: i.count }));
    const poured = await ask('pouring', (api) =>
      api.pourKinds(kinds, { ...section, depthMm }, fixed, seed, lifts),
    ).catch(() => null);
    if (!poured) return setState('failed');
    setSeed(seed + 1);
    if (poured.overlap > 5 * TOUCHING) return setState('too many');
    // What was changed while they settled stays as it is now.
    change(({ inserts }) => ({
      inserts: inserts.map((insert, i) => {
        const then = can.inserts[i] as Insert | undefined;
        const k = then && isSame(insert, then) ? balls.indexOf(then) : -1;
        return k < 0
          ? insert
          : { ...insert, lay: 'placed', poured: lifts, places: settled(poured.rounds[k], depthMm) };
      }),
    }));
    setState('ready');
  };
  return (
    <>
      <QuantityField of={LIFTS} value={lifts} onChange={setLifts} />
      <Button variant="outlined" disabled={state === 'pouring'} onClick={() => void pour()}>
        {state === 'pouring'
          ? 'Pouring…'
          : lifts > 1
            ? `Pour all balls in turn, in ${lifts} lifts`
            : 'Pour all balls together'}
      </Button>
      {state === 'failed' && <Alert severity="error">Pouring broke off: try it again.</Alert>}
      {state === 'too many' && (
        <Alert severity="warning">
          They do not settle without pressing into each other: take fewer, or a larger can.
        </Alert>
      )}
    </>
  );
}
