/** What is done between the heats, as data: it moves no steel. °C, K/h, minutes, hours. */

export const CLEANINGS = {
  vinegar: 'In vinegar overnight',
  pickled: 'Pickled in acid',
  ground: 'Ground or blasted bare',
  solvent: 'Oil off, in a solvent',
} as const;

export type Cleaning = keyof typeof CLEANINGS;

export type BetweenAction =
  /** Leg by leg; null: as fast as it goes. `then`: what hands do when the hold ends. */
  | {
      readonly do: 'kiln';
      readonly what: string;
      readonly steel: string;
      readonly legs: readonly {
        readonly rateKPerH: number | null;
        readonly targetC: number;
        readonly holdMin: number;
        readonly then?: string | undefined;
      }[];
    }
  | { readonly do: 'clean'; readonly how: Cleaning; readonly hours: number }
  /** One part of concentrate to so many of water; dips with the oxide wiped off between them. */
  | {
      readonly do: 'etch';
      readonly partsWater: number;
      readonly dips: number;
      readonly minutesEach: number;
      readonly coffeeH: number;
      readonly endsOnly: boolean;
    };
