import {
  type Kind,
  type Packing,
  type Round,
  poured,
  pouredKinds,
} from '../../../../core/canister/packing.ts';
import type { Room } from '../../../../core/canister/room.ts';
import { type Plan, type StartAnswer, startFor } from '../../../../core/plan/index.ts';
import { flows } from './knowledge.ts';

/** Questions with one answer. */
export const answers = {
  startFor: (plan: Plan): StartAnswer => startFor(plan, flows),
  pour: (radii: number[], room: Room, fixed: Round[], seed: number): Packing =>
    poured(radii, room, fixed, seed),
  pourKinds: (kinds: Kind[], room: Room & { depthMm: number }, fixed: Round[], seed: number, lifts: number) =>
    pouredKinds(kinds, room, fixed, seed, lifts),
};
