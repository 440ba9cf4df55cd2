/** How what lies in a copy stands to what is here. */
export const STANDINGS = ['new', 'newer', 'different', 'same', 'older'] as const;
export type Standing = (typeof STANDINGS)[number];

/**
 * How a piece in a copy stands to the one here, by the digests of their revisions, oldest first (none here: an empty list).
 * 'newer': the copy goes on from what is here; 'older': what is here goes on from the copy; 'different': each went on alone.
 */
export function standingOf(theirs: readonly string[], ours: readonly string[]): Standing {
  if (ours.length === 0) return 'new';
  const [newest, newestHere] = [theirs.at(-1)!, ours.at(-1)!];
  if (newest === newestHere) return 'same';
  const [goneOnHere, goneOnThere] = [ours.includes(newest), theirs.includes(newestHere)];
  // Something taken back stands in both histories: the longer of them went on.
  if (goneOnHere && goneOnThere) return theirs.length > ours.length ? 'newer' : 'older';
  return goneOnHere ? 'older' : goneOnThere ? 'newer' : 'different';
}

/** A piece in a copy, as it is shown before anything is taken in. */
export interface PieceInCopy {
  readonly id: string;
  readonly name: string;
  readonly standing: Standing;
  /** When it was saved last, there and here (null: it is not here). */
  readonly savedAt: string;
  readonly savedHereAt: string | null;
  readonly revisions: number;
  readonly removed: boolean;
  readonly removedHere: boolean;
}

/** A part of the shop in a copy: a set-up by its name, a material by its id, the rack as a whole. */
export interface PartInCopy {
  readonly id: string;
  readonly name: string;
  readonly standing: 'new' | 'same' | 'different';
}

/** What a copy holds, beside what is here. */
export interface CopyContents {
  readonly madeAt: string;
  readonly pieces: readonly PieceInCopy[];
  readonly setups: readonly PartInCopy[];
  readonly materials: readonly PartInCopy[];
  readonly rack: PartInCopy | null;
  /** Parts of the shop that this Retablo cannot read, and why. */
  readonly unreadable: readonly string[];
}

/** What of a copy is wanted, by ids. */
export interface CopyChoice {
  readonly pieces: readonly string[];
  readonly setups: readonly string[];
  readonly materials: readonly string[];
  readonly rack: boolean;
}

const BROUGHT: readonly Standing[] = ['new', 'newer', 'different'];

/** What is taken in unless the maker says otherwise: all pieces that say something new, and of the shop what is not here at all. */
export function usualChoice({ pieces, setups, materials, rack }: CopyContents): CopyChoice {
  const fresh = (parts: readonly PartInCopy[]) => parts.filter((p) => p.standing === 'new').map((p) => p.id);
  return {
    pieces: pieces.filter((p) => BROUGHT.includes(p.standing)).map((p) => p.id),
    setups: fresh(setups),
    materials: fresh(materials),
    rack: rack?.standing === 'new',
  };
}

/** What came of taking a copy in. */
export interface TakenIn {
  /** Pieces put on the shelf. */
  readonly added: number;
  /** Pieces that went on by the copy's later revisions. */
  readonly wentOn: number;
  /** Pieces put beside those that went another way. */
  readonly beside: number;
  /** Set-ups, materials and the rack. */
  readonly parts: number;
}

/** A copy that lies in the folder of copies. */
export interface CopyOnDisk {
  readonly name: string;
  readonly madeAt: string;
  readonly bytes: number;
  /** Why it was made. */
  readonly why: 'daily' | 'before an update' | 'before a restore';
}
