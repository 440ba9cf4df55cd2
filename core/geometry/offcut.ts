/** A convex body by its faces: outward normal of length 1, and how far from the middle of its mass. */
export type Facets = readonly (readonly [x: number, y: number, z: number, distance: number])[];

type V = readonly [x: number, y: number, z: number];

/** Rows of a rotation. */
export type Turn = readonly (readonly [x: number, y: number, z: number])[];

const dot = (a: V, b: V): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const cross = (a: V, b: V): V => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];

/** Of lengths about 1; faces nearer to each other count as one point. */
const SAME = 1e-9;

/** Where three faces meet, as far as that lies in all the others. */
export function corners(facets: Facets): V[] {
  const found: V[] = [];
  const normal = (i: number): V => [facets[i][0], facets[i][1], facets[i][2]];
  for (let i = 0; i < facets.length; i++)
    for (let j = i + 1; j < facets.length; j++)
      for (let k = j + 1; k < facets.length; k++) {
        const [a, b, c] = [normal(i), normal(j), normal(k)];
        const det = dot(a, cross(b, c));
        if (Math.abs(det) < SAME) continue;
        const [bc, ca, ab] = [cross(b, c), cross(c, a), cross(a, b)];
        const at = [0, 1, 2].map(
          (d) => (facets[i][3] * bc[d] + facets[j][3] * ca[d] + facets[k][3] * ab[d]) / det,
        ) as unknown as V;
        if (facets.every(([x, y, z, d]) => dot([x, y, z], at) <= d + SAME)) found.push(at);
      }
  return found;
}

/** Volume, middle of mass, and how far the farthest corner is from there. Exact: a fan of tetrahedra over each face (lengths to the third, lengths). */
export function measured(facets: Facets): { volume: number; middle: V; farthest: number } {
  const all = corners(facets);
  let volume = 0;
  const moment = [0, 0, 0];
  for (const [x, y, z, distance] of facets) {
    const n: V = [x, y, z];
    const u = cross(n, Math.abs(x) < 0.6 ? [1, 0, 0] : [0, 1, 0]);
    const v = cross(n, u);
    const on = all.filter((p) => Math.abs(dot(n, p) - distance) < 2 * SAME);
    if (on.length < 3) continue;
    const middle = [0, 1, 2].map((d) => on.reduce((sum, p) => sum + p[d] / on.length, 0)) as unknown as V;
    const round = (p: V): number => Math.atan2(dot(v, p) - dot(v, middle), dot(u, p) - dot(u, middle));
    const ring = on.sort((p, q) => round(p) - round(q));
    ring.forEach((p, i) => {
      const part = Math.abs(dot(middle, cross(p, ring[(i + 1) % ring.length]))) / 6;
      // A face that the middle lies outside of takes away.
      const signed = distance < 0 ? -part : part;
      volume += signed;
      const next = ring[(i + 1) % ring.length];
      for (let d = 0; d < 3; d++) moment[d] += (signed * (middle[d] + p[d] + next[d])) / 4;
    });
  }
  const middle = moment.map((m) => m / volume) as unknown as V;
  const farthest = all.reduce(
    (most, p) => Math.max(most, Math.hypot(p[0] - middle[0], p[1] - middle[1], p[2] - middle[2])),
    0,
  );
  return { volume, middle, farthest };
}

/** As large as a ball 1 across. */
const VOLUME = Math.PI / 6;
/** An offcut is cut by so many more faces than its box has. */
const CUTS = 3;

/**
 * A piece as it comes off the saw: a box cut by three more faces, its volume that of a ball of diameter 1, about the middle of
 * its mass (handbook, inserts: a box cut by three or four random planes).
 */
export function offcut(random: () => number): Facets {
  const half: V = [1, 0.6 + 0.4 * random(), 0.45 + 0.35 * random()];
  const box: Facets = [0, 1, 2].flatMap((d) =>
    [1, -1].map((sign) => {
      const n = [0, 0, 0];
      n[d] = sign;
      return [n[0], n[1], n[2], half[d]] as const;
    }),
  );
  const cuts = Array.from({ length: CUTS }, () => {
    const up = 2 * random() - 1;
    const turn = 2 * Math.PI * random();
    const flat = Math.sqrt(1 - up * up);
    const n: V = [flat * Math.cos(turn), flat * Math.sin(turn), up];
    const reach = n.reduce((sum, part, d) => sum + Math.abs(part) * half[d], 0);
    return [...n, reach * (0.6 + 0.3 * random())] as const;
  });
  const whole: Facets = [...box, ...cuts];
  const { volume, middle } = measured(whole);
  const scale = Math.cbrt(VOLUME / volume);
  return whole.map(([x, y, z, d]) => [x, y, z, scale * (d - dot([x, y, z], middle))] as const);
}

/** Made larger, and lying as a rotation says that leads from the room to its own frame. */
export const lying = (facets: Facets, turn: Turn, scale: number): Facets =>
  facets.map(([x, y, z, d]) => {
    const at = [0, 1, 2].map((k) => turn[0][k] * x + turn[1][k] * y + turn[2][k] * z);
    return [at[0], at[1], at[2], scale * d] as const;
  });

/** How far a point is out of the middle: 1 on the skin. */
export function facetsGauge(facets: Facets, x: number, y: number, z: number): number {
  let most = 0;
  for (let i = 0; i < facets.length; i++) {
    const f = facets[i];
    const out = (f[0] * x + f[1] * y + f[2] * z) / f[3];
    if (out > most) most = out;
  }
  return most;
}

/** Every way of lying as likely as every other (Shoemake 1992, uniform random quaternions). */
export function anyTurn(random: () => number): Turn {
  const [u, v, w] = [random(), 2 * Math.PI * random(), 2 * Math.PI * random()];
  const [a, b] = [Math.sqrt(1 - u), Math.sqrt(u)];
  const [x, y, z, q] = [a * Math.sin(v), a * Math.cos(v), b * Math.sin(w), b * Math.cos(w)];
  return [
    [1 - 2 * (y * y + z * z), 2 * (x * y - z * q), 2 * (x * z + y * q)],
    [2 * (x * y + z * q), 1 - 2 * (x * x + z * z), 2 * (y * z - x * q)],
    [2 * (x * z - y * q), 2 * (y * z + x * q), 1 - 2 * (x * x + y * y)],
  ];
}
