import { type Outline, outlineArea, outlineSize, scaleOutline } from '../geometry/outline.ts';
import type { Forged } from '../geometry/maps/forged.ts';
import { type Volumes, addVolumes, scaleVolumes } from '../materials/volumes.ts';
import type { LaidPieces } from '../loose/pieces.ts';
import type { CannedParts } from './fields/canned.ts';
import { type AxisMap, type Field } from './fields/field.ts';

/** A bar, stack or piece: x across, y up, z along from end A (0) to end B (length), centred on its axis. Lengths mm. */
export interface Billet {
  readonly outline: Outline;
  readonly lengthMm: number;
  readonly field: Field;
  /** Volume of each material, mm³. Their sum is outline area × length. */
  readonly volumes: Volumes;
  /** Whether seams are still only laid together, not welded. */
  readonly loose: boolean;
  /** The pieces that lie together, where it is loose and they can be seen in one section. */
  readonly laid?: LaidPieces | undefined;
  /** Thinnest layer as it now is, to first order, mm. */
  readonly bandMm: number;
  /** Which piece of which cut this is, and where it stood along the parent bar (end A, end B), mm. */
  readonly piece: Piece | null;
  /** Laid of tiles: joints run across it, and its picture lies on its broad sides. */
  readonly tiled?: boolean;
  /** Sheet that still wraps it and may be peeled: how thick it now is on the sides and on top and bottom, mm. */
  readonly jacket: Jacket | null;
  readonly can?: CanState | undefined;
  /** Weld beads that stand on it and go so deep, until they are ground off. */
  readonly beads?: Beads | undefined;
  /** Forged to the shape of a blade, out of which bar: then outline and length are the box it lies in. */
  readonly blank?: Blank | undefined;
  /** Ends that an etch showed distorted, as shares of the length. */
  readonly distorted?: { readonly endA: number; readonly endB: number } | undefined;
}

/** How deep weld beads go into the long faces and into each end, mm. */
export type Beads = Readonly<Partial<Record<'top' | 'bottom' | 'left' | 'right' | 'endA' | 'endB', number>>>;

/** What is left of beads when so much comes off there; nothing once all are off. */
export function beadsLeft(beads: Beads | undefined, off: Beads): Beads | undefined {
  if (!beads) return undefined;
  const left = Object.entries(beads).flatMap(([where, mm]) => {
    const rest = mm - (off[where as keyof Beads] ?? 0);
    return rest > 1e-9 ? [[where, rest]] : [];
  });
  return left.length > 0 ? (Object.fromEntries(left) as Beads) : undefined;
}

/** What a bar was forged to, and the flat bar before: that is the finished bar that a plan asks for. */
export interface Blank {
  readonly forged: Forged;
  /** Where the heel lies from end A, mm. */
  readonly heelMm: number;
  /** A block left square, its ramps included, from end A. mm */
  readonly bolster: { readonly fromMm: number; readonly toMm: number } | null;
  readonly was: { readonly lengthMm: number; readonly widthMm: number; readonly heightMm: number };
}

/** A can that this still is: its emptiness, its caps, and what is inside while that is loose. */
export interface CanState {
  /** Between the powder's grains; outline area × length is the sum of the volumes and this. mm³ */
  readonly poresMm3: number;
  readonly capAMm: number;
  readonly capBMm: number;
  readonly loose: {
    readonly parts: CannedParts;
    /** Solid steel of what stands in it. */
    readonly insertMm3: number;
    readonly wallMm: number;
    /** The room's outline where it is not square or flat. */
    readonly inside: Outline | undefined;
    /** Cans that stand in it with their powder still loose, and which of its inserts they are. */
    readonly cans?: readonly { readonly spot: number; readonly can: Billet }[];
  } | null;
}

export interface Piece {
  /** The lane it comes from and that lane's mark, once another lane takes it. */
  readonly lane?: string;
  readonly mark?: string;
  readonly number: number;
  /** What is written on it instead of the number, where that is another. */
  readonly label?: string;
  /** Whether it lies aside, out of the work. */
  readonly aside?: boolean;
  /** Its place among the pieces as they were planned, where one of them was scrapped. */
  readonly place?: number;
  readonly fromMm: number;
  readonly toMm: number;
}

/** The piece that was planned to lie in a place, from 1; nothing where it is gone. */
export const atPlace = (pieces: readonly Billet[], place: number): Billet | undefined =>
  pieces.find((bar, i) => placeAmong(bar, i) === place);

/** Which place a piece has, by its index among those that are there. */
export const placeAmong = ({ piece }: Billet, index: number): number => piece?.place ?? index + 1;

/** What is written on a piece, after the mark of its lane where it comes from another. */
export const pieceName = ({ piece }: Billet): string =>
  piece ? `${piece.mark ?? ''}${piece.label ?? piece.number}` : '1';

/** The same where nothing may be written on it: then its place, by its index among those that are there. */
export const writtenOn = (bar: Billet, index: number): string =>
  bar.piece ? pieceName(bar) : String(index + 1);

export interface Jacket {
  readonly material: string;
  /** Coated so that it does not weld on, whatever it is made of. */
  readonly released?: boolean;
  readonly sideMm: number;
  readonly topMm: number;
}

/** Steel that left the bar, and why. */
export type LossCause =
  | 'scale'
  | 'grinding'
  | 'kerf'
  | 'crop'
  | 'offcut'
  | 'set aside'
  | 'scrapped'
  /** Less came than was reckoned; less than nothing: more. */
  | 'unaccounted';

export interface Loss {
  readonly cause: LossCause;
  readonly volumes: Volumes;
}

export const volumeOf = (billet: Billet): number =>
  billet.blank?.forged.volumeMm3 ?? outlineArea(billet.outline) * billet.lengthMm;

export const sizeOf = (billet: Billet): { widthMm: number; heightMm: number } => outlineSize(billet.outline);

/** What a plan's finished bar is measured by: the bar itself, or the one that a blank was forged of. mm */
export const finishedSizes = (bar: Billet): { lengthMm: number; widthMm: number; heightMm: number } =>
  bar.blank?.was ?? { lengthMm: bar.lengthMm, ...sizeOf(bar) };

/** What is left of a billet, and what was taken off it. */
export interface Removal {
  billet: Billet;
  lost: Volumes;
}

/** How much of each end is distorted, mm. */
export const distortedMm = ({ distorted, lengthMm }: Billet): { aMm: number; bMm: number } => ({
  aMm: (distorted?.endA ?? 0) * lengthMm,
  bMm: (distorted?.endB ?? 0) * lengthMm,
});

/** The same picture on a bar of other sizes, by factors across, up and along: what it is made of grows in proportion. */
export function scaled(billet: Billet, sx: number, sy: number, sz: number): Billet {
  const map: AxisMap = { kx: 1 / sx, ky: 1 / sy, kz: 1 / sz, tx: 0, ty: 0, tz: 0 };
  const grown = sx * sy * sz;
  return {
    ...billet,
    outline: scaleOutline(billet.outline, sx, sy),
    lengthMm: billet.lengthMm * sz,
    field: billet.field.through(map),
    volumes: grown === 1 ? billet.volumes : scaleVolumes(billet.volumes, grown),
    bandMm: billet.bandMm * Math.sqrt(sx * sy),
    can: billet.can && {
      ...billet.can,
      poresMm3: billet.can.poresMm3 * grown,
      capAMm: billet.can.capAMm * sz,
      capBMm: billet.can.capBMm * sz,
    },
    jacket: billet.jacket && {
      ...billet.jacket,
      sideMm: billet.jacket.sideMm * sx,
      topMm: billet.jacket.topMm * sy,
    },
  };
}

/** The same steel with its section stretched by sx, sy and its length to suit: volume is kept. */
export function stretched(billet: Billet, sx: number, sy: number): Billet {
  const made = scaled(billet, sx, sy, 1 / (sx * sy));
  return {
    ...made,
    volumes: billet.volumes,
    can: made.can && { ...made.can, poresMm3: billet.can!.poresMm3 },
  };
}

/**
 * Does something to every billet of a set, once for those that are alike (pieces of a bar that is the same all along),
 * and adds up what was lost.
 */
export function eachAlike(
  billets: readonly Billet[],
  act: (billet: Billet) => Removal,
): { after: Billet[]; lost: Volumes } {
  const done: { before: Billet; result: Removal }[] = [];
  const losses: Volumes[] = [];
  const after = billets.map((billet) => {
    const known = done.find(({ before }) => alike(before, billet))?.result;
    const result = known ?? act(billet);
    if (!known) done.push({ before: billet, result });
    losses.push(result.lost);
    return { ...result.billet, piece: billet.piece };
  });
  return { after, lost: addVolumes(...losses) };
}

const alike = (a: Billet, b: Billet): boolean =>
  a.field === b.field && a.outline === b.outline && a.lengthMm === b.lengthMm && a.volumes === b.volumes;
