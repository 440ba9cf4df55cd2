import { strToU8 } from 'fflate';
import type { SolidMesh } from './solid.ts';

/** A mesh as a binary STL file: 80 bytes of heading, the number of triangles, and 50 bytes each, little-endian, mm. */
export function stlOf({ corners, triangles }: SolidMesh, heading: string): Uint8Array<ArrayBuffer> {
  const count = triangles.length / 3;
  const bytes = new Uint8Array(84 + 50 * count);
  const view = new DataView(bytes.buffer);
  // A heading that begins with “solid” is taken for the other kind of file by some readers.
  bytes.set(strToU8(`form ${heading}`).subarray(0, 80));
  view.setUint32(80, count, true);
  for (let t = 0; t < count; t++) {
    const [a, b, c] = [0, 1, 2].map((k) =>
      corners.subarray(3 * triangles[3 * t + k], 3 * triangles[3 * t + k] + 3),
    );
    const [ux, uy, uz] = [b[0] - a[0], b[1] - a[1], b[2] - a[2]];
    const [vx, vy, vz] = [c[0] - a[0], c[1] - a[1], c[2] - a[2]];
    const normal = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    const long = Math.hypot(...normal) || 1;
    [...normal.map((n) => n / long), ...a, ...b, ...c].forEach((v, i) =>
      view.setFloat32(84 + 50 * t + 4 * i, v, true),
    );
  }
  return bytes;
}
