/** How a can is built and filled, as data. Lengths mm, masses kg. */
export type CanAction =
  | {
      readonly do: 'build can';
      readonly shape: 'box' | 'tube' | 'free';
      readonly material: string;
      readonly wallMm: number;
      readonly outsideMm: readonly [wide: number, high: number];
      readonly longMm: number;
      readonly capMm: number;
      readonly release: string;
      readonly handle: 'none' | 'stub' | 'bar';
    }
  /** Pieces of other lanes by their names, or steel. Middles from the left and from the bottom of the room inside, seen on end B; each as many lengths as are said, from end A. */
  | {
      readonly do: 'set in';
      readonly what: InsertWord;
      readonly material: string;
      readonly sizesMm: readonly number[];
      readonly middlesMm: readonly (readonly [fromLeft: number, fromBottom: number])[];
      /** Of springs and chain: the wire, from turn to turn or link to link, and how many springs are threaded into one another. */
      readonly wire?: { readonly thickMm: number; readonly pitchMm: number; readonly strands: number };
      /** How far the middle stands out of the line of the edges, or of the ends: the first up, the next down, by turns. */
      readonly bowMm?: number;
      readonly bowed?: 'across' | 'along';
      /** Along the right edge, on each length; the first begins at its end A. */
      readonly teeth?: { readonly deepMm: number; readonly count: number };
      /** Null where it runs from end to end. */
      readonly lengths: { readonly count: number; readonly eachMm: number; readonly gapMm: number } | null;
      readonly kg: number;
    }
  /** Bars of other lanes, from cap to cap: by what is written on each, where its middle goes. */
  | {
      readonly do: 'stand in';
      readonly bars: readonly {
        readonly name: string;
        readonly sizeMm: readonly [across: number, up: number];
        readonly middleMm: readonly [fromLeft: number, fromBottom: number];
        /** Whether it is longer than the room: its end B is sawn off. */
        readonly isCut: boolean;
        /** Whether it is a can with its powder still loose. */
        readonly isCan: boolean;
      }[];
      readonly longMm: number;
      readonly kg: number;
    }
  /** Round inside the wall, closed on itself; their middles from end A's cap. */
  | {
      readonly do: 'bend in';
      readonly material: string;
      readonly thickMm: number;
      readonly longMm: number;
      readonly middlesMm: readonly number[];
      readonly kg: number;
    }
  /** Counted or weighed, and lying where they fall. */
  | {
      readonly do: 'strew in';
      readonly what: InsertWord;
      readonly material: string;
      readonly sizesMm: readonly number[];
      /** Nothing where they are weighed alone. */
      readonly count: number | null;
      /** In so many lifts, by turns with the others that are poured so; 1: together with them. Nothing where each has its place. */
      readonly poured: { readonly lifts: number; readonly withOthers: boolean } | null;
      readonly kg: number;
      /** Pieces of other lanes that they are sawn from. */
      readonly from?: readonly string[];
    }
  | { readonly do: 'set form'; readonly wallMm: number; readonly leftIn: boolean }
  | { readonly do: 'powder'; readonly material: string; readonly kg: number; readonly readyKg: number }
  | {
      readonly do: 'fill';
      readonly lifts: number;
      readonly liftMm: number;
      readonly drawUp: boolean;
      readonly how: 'poured' | 'tapped' | 'shaken';
    }
  | { readonly do: 'weigh can'; readonly fullKg: number }
  /** With a pinhole, or shut. */
  | { readonly do: 'cap'; readonly pinhole: { readonly mm: number; readonly where: string } | null };

export type InsertWord =
  | 'rod'
  | 'square bar'
  | 'bent rod'
  | 'strip'
  | 'saw blade'
  | 'ball'
  | 'springs'
  | 'chain'
  | 'offcuts'
  | 'bar';
