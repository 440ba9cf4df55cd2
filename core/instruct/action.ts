import type { OrientationName } from '../geometry/orientation.ts';
import type { BetweenAction } from './betweenAction.ts';
import type { CanAction } from './canAction.ts';
import type { Care } from './careWords.ts';
import type { ForgeAction } from './forgeAction.ts';

/**
 * What hands do, as data: the sentence, the marks that are drawn and the sheet for the wall come from it, and a test follows it
 * literally. A bar lies with end B in front and the arrow up; sides and turns are as seen on the end in front. After sawing, the
 * pieces lie as they were in the bar. Lengths mm, angles degrees.
 */
export type Action =
  | BenchAction
  | ForgeAction
  | CanAction
  | BetweenAction
  /** What moves no steel to another place, and is done with care. */
  | { readonly do: 'care'; readonly what: Care };

/** From where parts that lie in one bar are counted, seen on the end in front. */
export type Counted = 'from end A' | 'from the left' | 'from the bottom';

/** Mark, saw, grind, turn, lay: what the saw, the grinder and the bench do. */
export type BenchAction =
  /** On the ends: a piece's number, the end's letter, the arrow up. */
  | {
      readonly do: 'mark';
      readonly pieces: readonly string[];
      readonly ends: 'both' | 'front';
      readonly counted?: Counted;
    }
  /** A new arrow, up as it now lies; where its ends changed places, a new A and B too. */
  | { readonly do: 'mark as it lies'; readonly otherEnds: boolean }
  /** The same on pieces that have numbers, before each is sawn into parts: what was one is then `old`, by its number. */
  | {
      readonly do: 'mark anew';
      readonly parts: readonly { readonly was: string; readonly now: readonly string[] }[];
      readonly counted: Counted;
    }
  /** Square across: the near side of every kerf, from end A. Parts from end A; null is waste. */
  | {
      readonly do: 'saw across';
      readonly piece?: string;
      readonly nearMm: readonly number[];
      readonly marksMm: readonly number[];
      readonly kerfMm: number;
      readonly parts: readonly (string | null)[];
      readonly eachMm: number;
      readonly differMm: number;
    }
  /** Slanting: where the near side of every kerf meets the bottom, from end A; kerf and thickness square to the cut. */
  | {
      readonly do: 'saw slanting';
      readonly bottomMm: readonly number[];
      readonly angleDeg: number;
      readonly topTowards: 'A' | 'B';
      readonly kerfMm: number;
      readonly parts: readonly (string | null)[];
      readonly thicknessMm: number;
      readonly everyMm: number;
    }
  /** Along the bar: the near side of the kerf from the left (upright) or from the bottom (level). */
  | {
      readonly do: 'saw along';
      readonly piece?: string;
      readonly way: 'upright' | 'level';
      readonly nearMm: number;
      readonly kerfMm: number;
      readonly parts: readonly [string, string];
      /** Across the cut: left and right, or bottom and top. */
      readonly sizesMm: readonly [number, number];
    }
  | {
      readonly do: 'crop';
      readonly end: 'A' | 'B';
      readonly offMm: number;
      readonly piece?: string;
      /** What went wrong at that end; nothing where it is the usual crop. */
      readonly why?: CropReason;
      readonly leftMm: number;
    }
  /** Without `piece`: the bar. A half turn has no way; about the upright it is the page of a book, about the line across a tipping. */
  | {
      readonly do: 'turn';
      readonly piece?: string;
      readonly about: 'length' | 'upright' | 'across';
      readonly deg: number;
      readonly way?: 'clockwise' | 'counter-clockwise';
    }
  /** In a row from the top and a place from the left, as it is now turned. */
  | {
      readonly do: 'lay';
      readonly piece: string;
      readonly row: number;
      readonly place: number;
      readonly of: { readonly rows: number; readonly places: number };
      readonly front: 'A' | 'B';
      readonly arrow: Arrow;
    }
  /** Point to the middle of a square of four. */
  | {
      readonly do: 'lay wedge';
      readonly piece: string;
      readonly side: Side;
      readonly front: 'A' | 'B';
      readonly arrow: Arrow;
    }
  /** Both slanting faces of a blunt wedge of 90°, square to them, until they meet; the side that its blunt end looks to as it lies. */
  | { readonly do: 'grind to a point'; readonly piece: string; readonly point: Side; readonly offMm: number }
  /** Between four wedges from corner to corner: one from the lower left to the upper right, two from its sides to the other corners. */
  | {
      readonly do: 'lay cross';
      readonly material: string;
      readonly thickMm: number;
      readonly longMm: number;
      /** Of the whole square. */
      readonly squareMm: number;
    }
  /** Between rows and places, or outside all of them. */
  | {
      readonly do: 'lay strips';
      readonly material: string;
      readonly thickMm: number;
      readonly betweenPlaces: boolean;
      readonly betweenRows: boolean;
      readonly outside: boolean;
      readonly longMm: number;
    }
  /** With a face that was sawn (or an end) up, one behind the other from the new end A. */
  | {
      readonly do: 'lay down';
      readonly pieces: readonly string[];
      readonly what: 'tile' | 'piece' | 'block';
      /** The end that the face now up looked to in the bar. */
      readonly up: 'A' | 'B';
      /** The new end that the old top now looks to. */
      readonly topTowards: 'A' | 'B';
    }
  /** An end sawn so that the cut runs up towards end B, from the bottom edge to so much further along at the top; nothing comes off the longer side. */
  | {
      readonly do: 'scarf';
      readonly piece: string;
      readonly end: 'A' | 'B';
      readonly angleDeg: number;
      readonly reachMm: number;
    }
  /**
   * One that slid off where it lay among others: its faces that met them ground, and as much off what they lay against, into the
   * corner; back as it lay, pushed home to those sides. Where it lay is from the left and the bottom of the section in front.
   */
  | {
      readonly do: 'put back';
      readonly piece: string;
      readonly fromMm: readonly [left: number, bottom: number];
      readonly sizesMm: readonly [wide: number, high: number];
      readonly faces: readonly Side[];
      readonly offMm: number;
    }
  /** Edge to edge in this order, from the new end A. */
  | { readonly do: 'row'; readonly pieces: readonly string[]; readonly longMm: number }
  /** On the chuck, pattern upright: this edge on a shim, the other on the chuck. */
  | { readonly do: 'raise'; readonly edge: 'left' | 'right'; readonly shimMm: number }
  /** What is up as it rests, level, to a height over the chuck. */
  | { readonly do: 'grind down'; readonly toMm: number }
  /** Off the shim, or on the face that is now down: flat on it. */
  | { readonly do: 'rest flat'; readonly on: 'the same face' | 'the ground face' }
  | { readonly do: 'grind off'; readonly piece?: string; readonly side: Side; readonly offMm: number }
  /** From the bottom (or from the left), one on the other: pieces, and bought steel by its name. */
  | {
      readonly do: 'pile';
      readonly from: 'bottom' | 'left';
      /** A piece by its name; null is the bar, or what was just piled. */
      readonly parts: readonly ({ readonly piece: string | null } | Bought)[];
      readonly longMm: number;
    }
  | {
      readonly do: 'cut strips';
      readonly count: number;
      readonly sizesMm: readonly [wide: number, long: number];
    }
  /** Strips of one size from the bottom, in turn until there are so many. */
  | {
      readonly do: 'stack';
      readonly count: number;
      readonly inTurn: readonly Bought[];
      readonly sizesMm: readonly [wide: number, long: number];
      readonly tallMm: number;
    }
  /** In sheet: above and below right across, and beside what lies there as high as it is; or above and below alone. */
  | { readonly do: 'wrap'; readonly material: string; readonly thickMm: number; readonly allRound: boolean }
  | {
      readonly do: 'join';
      readonly end: 'A' | 'B';
      readonly material: string;
      readonly lengthMm: number;
      readonly sizesMm: readonly [number, number];
    }
  /** A jacket from all four sides, or from top and bottom. */
  | {
      readonly do: 'unwrap';
      readonly how: 'peel' | 'grind';
      readonly sideMm: number;
      readonly topMm: number;
    }
  /** The top and the bottom, the same off each. */
  | { readonly do: 'grind both'; readonly toMm: number }
  /** The top, the bottom or both alike, down to the bottom of what was pressed into them. */
  | { readonly do: 'grind to the hollows'; readonly toMm: number; readonly faces: 'top' | 'bottom' | 'both' }
  /** By turns from the top and the bottom, the first from the top; where the middle line of each meets the bar, from end A. */
  | {
      readonly do: 'cut Vs';
      readonly openingDeg: number;
      readonly deepMm: number;
      readonly middlesMm: readonly number[];
      readonly everyMm: number;
      /** Both ends are sawn as the walls of the Vs beside them: where that cut meets bottom and top, from end A. */
      readonly ends: Readonly<Record<'A' | 'B', { readonly bottomMm: number; readonly topMm: number }>>;
    }
  /** Every V opened until the bar lies flat, the walls of the first up. */
  | {
      readonly do: 'open Vs';
      readonly wideMm: number;
      readonly thickMm: number;
      /** Of the laid bar, from leg to leg. */
      readonly eachMm: number;
      readonly longMm: number;
    }
  /** Out of what lies on the bench, and what is written on each then, so that no other has its name. */
  | {
      readonly do: 'set aside';
      readonly pieces: readonly { readonly was: string; readonly now: string }[];
    }
  | { readonly do: 'bring back'; readonly pieces: readonly string[] }
  /** What follows is done to each of so many pieces that lie alike; by their names where it is not all of them. */
  | { readonly do: 'each'; readonly count: number; readonly pieces?: readonly string[] };

interface Bought {
  readonly material: string;
  readonly thickMm: number;
}

export const SIDES = ['top', 'bottom', 'left', 'right'] as const;
export type Side = (typeof SIDES)[number];
export type Arrow = 'up' | 'right' | 'down' | 'left';

/** What a piece is called whose number was struck out. */
export const OLD = 'old ';

/** Why an end is cut off, in the words it is kept in. */
export const CROP_REASONS = {
  usual: 'as ends usually are',
  open: 'the weld is open there',
  cracked: 'it cracked there',
  distorted: 'the picture is distorted there',
  pinched: 'it is pinched or folded there',
  burnt: 'it was burnt there',
} as const;
export type CropReason = Exclude<keyof typeof CROP_REASONS, 'usual'>;

export const endCrop = (
  end: 'A' | 'B',
  offMm: number,
  leftMm: number,
  piece?: string,
  why?: CropReason,
): Action[] =>
  offMm > 1e-9
    ? [{ do: 'crop', end, offMm, leftMm, ...(piece === undefined ? {} : { piece }), ...(why && { why }) }]
    : [];

export const care = (...all: Care[]): Action[] => all.map((what) => ({ do: 'care', what }));

const TURNED = ['up', 'left', 'down', 'right'] as const;

/** Where the arrow on the front end points after so many quarter turns counter-clockwise. */
export const arrowAfter = (turns: 0 | 1 | 2 | 3): Arrow => TURNED[turns];

/** How a piece comes to lie so, from as it lay in the bar. */
export function turnsTo(piece: string | undefined, orientation: OrientationName): Action[] {
  const turn = (
    about: 'length' | 'upright' | 'across',
    deg: number,
    way?: 'clockwise' | 'counter-clockwise',
  ) =>
    ({ do: 'turn', ...(piece === undefined ? {} : { piece }), about, deg, ...(way ? { way } : {}) }) as const;
  switch (orientation) {
    case 'as it lies':
      return [];
    case 'turned 90°':
      return [turn('length', 90, 'counter-clockwise')];
    case 'turned 180°':
      return [turn('length', 180)];
    case 'turned 270°':
      return [turn('length', 90, 'clockwise')];
    case 'rolled left–right':
      return [turn('upright', 180)];
    case 'rolled top–bottom':
      return [turn('across', 180)];
    case 'rolled, turned 90°':
      return [turn('upright', 180), turn('length', 90, 'counter-clockwise')];
    case 'rolled, turned 270°':
      return [turn('upright', 180), turn('length', 90, 'clockwise')];
  }
}
