import { type Packing, type Round, poured } from '../../../../core/canister/packing.ts';
import type { Room } from '../../../../core/canister/room.ts';
import { type Plan, type StartAnswer, startFor } from '../../../../core/plan/index.ts';

/** Questions with one answer. */
export const answers = {
  startFor: (plan: Plan): StartAnswer => startFor(plan),
  pour: (radii: number[], room: Room, fixed: Round[], seed: number): Packing =>
    poured(radii, room, fixed, seed),
};
