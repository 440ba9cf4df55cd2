import type { Stations } from '../geometry/maps/forged.ts';

/** What the fire, the press and the hammer do, as data. Lengths mm, angles degrees; sides and turns as seen on the end in front. */

/** A stop block, and which side of the bar is between the dies. */
export interface Stop {
  readonly pressed: 'height' | 'width';
  readonly stopMm: number;
}

/** Dies that are not flat: on both sides, or with a flat one opposite. */
export type ShapedDies = { readonly on: 'both' | 'above' | 'below' } & (
  | { readonly shape: 'V'; readonly angleDeg: number }
  | { readonly shape: 'round'; readonly radiusMm: number }
  | { readonly shape: 'wedge'; readonly angleDeg: number; readonly tipMm: number }
);

/** A section of a blank, and where in the bar its slice was; `name` where it is one that a maker asks for. */
export interface ShapedSection {
  readonly name?: string;
  readonly atMm: number;
  readonly barMm: number;
  readonly toEdgeMm: number;
  readonly toSpineMm: number;
  readonly spineMm: number;
  readonly edgeMm: number;
}

export type Along = 'by the bite' | 'held' | 'free';

export type ForgeAction =
  | { readonly do: 'soak'; readonly temperatureC: number; readonly heats: number }
  /** By these stops in turn to width and height. */
  | {
      readonly do: 'draw';
      readonly toMm: readonly [wide: number, high: number];
      readonly passes: readonly Stop[];
      readonly heats: number;
    }
  /** From a diagonal, at every stop both ways, to a square of a side. */
  | {
      readonly do: 'press both ways';
      readonly fromMm: number;
      readonly stopsMm: readonly number[];
      readonly toSideMm: number;
      readonly heats: number;
    }
  /** The bar lies with the arrow that it has pointing to this corner; up is where the new one points. */
  | { readonly do: 'new arrow'; readonly oldTo: 'upper left' | 'upper right' }
  | { readonly do: 'arrow up' }
  /** Of a bar turned 45°: to an octagon, and on to a round. */
  | {
      readonly do: 'knock corners';
      readonly octagonMm: number;
      readonly roundMm?: number;
      readonly heats: number;
    }
  /** Across two corners, until the section leans so far from upright. */
  | {
      readonly do: 'lean';
      readonly corners: 'upper left and lower right' | 'upper right and lower left';
      readonly firstToMm: number;
      readonly leansDeg: number;
      readonly towards: 'left' | 'right';
      readonly heats: number;
    }
  /** How the bar is held through the passes that follow, and where the steel goes along it. */
  | { readonly do: 'hold'; readonly held: boolean; readonly along: Along; readonly heats: number }
  /** One pass, from above: to a height, or by a share of the one it has. */
  | {
      readonly do: 'press';
      readonly pass: number;
      readonly toMm: number;
      readonly takePercent?: number;
      readonly dies?: ShapedDies;
      readonly stopsMm?: number;
      readonly biteMm?: number;
      readonly friction?: number;
      readonly afterS?: number;
    }
  /** End A is held; end B is turned. */
  | {
      readonly do: 'twist';
      readonly turns: number;
      readonly way: 'clockwise' | 'counter-clockwise';
      readonly everyMm: number;
      readonly heats: number;
    }
  /** The lower edge to a point. */
  | {
      readonly do: 'press wedge';
      readonly apexDeg: number;
      readonly acrossMm: number;
      readonly deepMm: number;
      readonly heats: number;
    }
  /** In the middle from above and below, to a waist; the outer sides stay upright. */
  | {
      readonly do: 'press bow-tie';
      readonly apexDeg: number;
      readonly waistMm: number;
      readonly acrossMm: number;
      readonly deepMm: number;
      readonly heats: number;
    }
  /** Along the middle line of the top, right through; cut faces cleaned, the halves laid back and pressed square. */
  | {
      readonly do: 'split';
      readonly dragMm: number;
      readonly fadesMm: number;
      readonly toMm: readonly [wide: number, high: number];
      readonly heats: number;
    }
  /** Stood on end A. */
  | { readonly do: 'press on end'; readonly toMm: number; readonly heats: number }
  /** A can: first from the ends, then by these stops. */
  | {
      readonly do: 'press solid';
      readonly endMm: number;
      /** Of a flat can: the stops between its caps, one after the other, and nothing on its sides. */
      readonly flatMm?: readonly number[];
      readonly ways: 'two ways' | 'one way';
      readonly passes: readonly Stop[];
      readonly toMm: readonly [wide: number, high: number];
      readonly longMm: number;
      readonly capMm: number;
    }
  | { readonly do: 'straighten'; readonly heats: number }
  /** Hollows in a face or both; the middle of the first lies on end A, at the bar's middle line. */
  | {
      readonly do: 'groove';
      readonly pattern: 'across' | 'diagonal' | 'dimples';
      readonly how: 'ground' | 'pressed';
      readonly depthMm: number;
      readonly widthMm: number;
      /** From middle to middle where they are made: on the bar as it is before. */
      readonly markMm: number;
      /** The same once they are made: what is pressed aside makes the bar longer. */
      readonly pitchMm: number;
      /** More than 0: the right end of each nearer end A. */
      readonly slantDeg: number;
      /** Whether the top has them, and by how much those of the bottom, where it has any, begin further from end A. */
      readonly top: boolean;
      readonly bottomShiftMm: number | null;
      readonly heats: number;
    }
  /** The tip sawn at end B: from a mark on the edge's or the spine's side, or both, straight to one on the end. Seen on end B the edge lies left. */
  | {
      readonly do: 'cut tip';
      readonly alongMm: number;
      readonly offEdgeMm: number;
      readonly offSpineMm: number;
    }
  /**
   * Section by section, each from its place in the bar to its place in the blank, both from end A; straight between them. Seen on
   * end B the edge lies left, the spine right, both measured from the bar's middle line.
   */
  | {
      readonly do: 'forge to shape';
      readonly sections: readonly ShapedSection[];
      readonly bevel: Stations['bevel'];
      readonly edges: Stations['edges'];
      readonly heats: number;
    }
  /** The high parts down, until the top is level. */
  | { readonly do: 'forge flat'; readonly toMm: number; readonly heats: number };
