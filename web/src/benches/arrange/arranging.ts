import { type Placed } from '../../../../core/moves/index.ts';
import {
  type Orientation,
  compose,
  orientationName,
  orientationNamed,
} from '../../../../core/geometry/orientation.ts';
import type { AssembleParameters } from '../../../../core/moves/lay/assemble/laid.ts';

export const ROLL: Orientation = { turns: 0, rolled: true };

/** The places with one piece turned or rolled further. */
export const movedOn = (places: readonly Placed[], at: number, then: Orientation): Placed[] =>
  places.map((place, i) =>
    i === at
      ? { ...place, orientation: orientationName(compose(then, orientationNamed(place.orientation))) }
      : place,
  );

/** The places with two pieces exchanged; each keeps the way it lies. */
export const swapped = (places: readonly Placed[], a: number, b: number): Placed[] =>
  places.map((place, i) => (i === a ? places[b] : i === b ? places[a] : place));

/** The layout written out, as it is when pieces are moved by hand. Other pieces make other seams: all are judged again. */
export const free = (places: Placed[]): Partial<AssembleParameters> => ({
  layout: 'free',
  places,
  clash: undefined,
});
