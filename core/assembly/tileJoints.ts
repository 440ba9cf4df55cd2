import { type Billet, sizeOf } from '../billet/billet.ts';
import { BLOCK, makePoints } from '../billet/fields/field.ts';

/** Where two tiles of a row meet, counted from the new end A: the share (0…1) of the joint at which the materials differ. */
export interface TileJoint {
  /** Number of the tile before it, from 1. */
  readonly after: number;
  readonly topMismatch: number;
  readonly bottomMismatch: number;
}

/** Points asked across a joint. */
const JOINT_POINTS = 480;
/** mm. How far off the joint, and how far under the face, the two sides are asked. */
const OFF_JOINT_MM = 1e-4;

/**
 * How the pictures meet at the joints of a row of tiles, on its top and on its bottom. `jointsMm`: where each joint crosses the
 * middle of the thickness, mm from end A; `angleRad`: of the saw to the bar's axis, so that the joint leans as the saw did.
 */
export function tileJoints(row: Billet, jointsMm: readonly number[], angleRad: number): TileJoint[] {
  const { heightMm } = sizeOf(row);
  const over = (heightMm / 2) * (Math.cos(angleRad) / Math.sin(angleRad));
  return jointsMm.map((mm, i) => ({
    after: i + 1,
    topMismatch: mismatch(row, heightMm / 2 - OFF_JOINT_MM, mm - over),
    bottomMismatch: mismatch(row, -heightMm / 2 + OFF_JOINT_MM, mm + over),
  }));
}

function mismatch(row: Billet, y: number, z: number): number {
  const [before, after] = [z - OFF_JOINT_MM * 2, z + OFF_JOINT_MM * 2].map((at) => across(row, y, at));
  let differ = 0;
  for (let i = 0; i < JOINT_POINTS; i++) if (before[i] !== after[i]) differ++;
  return differ / JOINT_POINTS;
}

function across(row: Billet, y: number, z: number): Uint8Array {
  const { widthMm } = sizeOf(row);
  const points = makePoints();
  const codes = new Uint8Array(BLOCK);
  for (let i = 0; i < JOINT_POINTS; i++) {
    points.x[i] = ((i + 0.5) / JOINT_POINTS - 0.5) * widthMm;
    points.y[i] = y;
    points.z[i] = Math.max(0, Math.min(row.lengthMm, z));
  }
  points.count = JOINT_POINTS;
  row.field.sample(points, codes);
  return codes;
}
