import { type Outline, turnAt } from './outline.ts';

/** Wire bodies as they stand in a can: a spring, a chain, a rod bent round. Each has a volume in closed form and a gauge, 1 on its surface and growing outward. mm */
export type Body =
  | {
      readonly kind: 'spring';
      readonly wireMm: number;
      /** Mean diameter of the coil, rise of a turn, length along its axis z, from 0. */
      readonly coilMm: number;
      readonly pitchMm: number;
      readonly lengthMm: number;
      /** So many alike threaded into one another, each beginning as much further round; 1 where nothing is said. */
      readonly strands?: number;
    }
  | {
      readonly kind: 'chain';
      readonly wireMm: number;
      /** Inside of a link: along the chain, which is from link to link, and across. */
      readonly pitchMm: number;
      readonly insideMm: number;
      readonly lengthMm: number;
    }
  /** Inside an outline, touching it all round, its middle at height 0. */
  | { readonly kind: 'bent rod'; readonly wireMm: number; readonly outline: Outline };

/** Share of a turn's rise, to be rid of the rounding of whole numbers of turns. */
const WHOLE = 1e-9;

const linksOf = (chain: Extract<Body, { kind: 'chain' }>): number =>
  Math.max(0, Math.floor((chain.lengthMm - 2 * chain.wireMm) / chain.pitchMm + WHOLE));

/** Length around an outline, mm. */
export const lengthAround = (outline: Outline): number =>
  outline.reduce((sum, [x, y], i) => {
    const [x1, y1] = outline[(i + 1) % outline.length];
    return sum + Math.hypot(x1 - x, y1 - y);
  }, 0);

/** What an outline loses of its length for each mm that a line inside it keeps away, twice: Σ tan(θ/2) of convex corners + Σ θ/2 of hollow ones. */
const insetTurning = (outline: Outline): number =>
  outline.reduce((sum, _, i) => {
    const turn = turnAt(outline, i);
    return sum + (turn > 0 ? Math.tan(turn / 2) : turn / 2);
  }, 0);

/** Length of the wire along its middle (handbook, inserts; the spring's is the helix, the link's a stadium, the rod's a line inside an outline). mm */
export function wireLength(body: Body): number {
  switch (body.kind) {
    case 'spring':
      return (
        strandsOf(body) * (body.lengthMm / body.pitchMm) * Math.hypot(Math.PI * body.coilMm, body.pitchMm)
      );
    case 'chain':
      return linksOf(body) * (2 * (body.pitchMm - body.insideMm) + Math.PI * (body.insideMm + body.wireMm));
    case 'bent rod':
      return Math.max(0, lengthAround(body.outline) - insetTurning(body.outline) * body.wireMm);
  }
}

/** Wires in one body, alike. */
export const strandsOf = (body: Body): number => (body.kind === 'spring' ? (body.strands ?? 1) : 1);

/** mm³, exact. */
export const bodyVolume = (body: Body): number => (Math.PI / 4) * body.wireMm ** 2 * wireLength(body);

/** How far a point is out of the wire's middle, as a share of its radius. */
export function bodyGauge(body: Body, x: number, y: number, z: number): number {
  switch (body.kind) {
    case 'spring':
      return springGauge(body, x, y, z);
    case 'chain':
      return chainGauge(body, x, y, z);
    case 'bent rod': {
      const r = body.wireMm / 2;
      return Math.hypot(signedDistance(body.outline, x, y) + r, z) / r;
    }
  }
}

/** Newton steps from the turn that is nearest along the axis. */
const STEPS = 2;

function springGauge(spring: Extract<Body, { kind: 'spring' }>, x: number, y: number, z: number): number {
  const strands = strandsOf(spring);
  const [around, rho] = [Math.atan2(y, x), Math.hypot(x, y)];
  let least = Infinity;
  for (let k = 0; k < strands; k++)
    least = Math.min(least, strandGauge(spring, around - (2 * Math.PI * k) / strands, rho, z));
  return least;
}

/** Of the wire that begins on the right, a point at an angle and a distance from the axis. */
function strandGauge(
  spring: Extract<Body, { kind: 'spring' }>,
  around: number,
  rho: number,
  z: number,
): number {
  const [R, a, c] = [spring.coilMm / 2, spring.wireMm / 2, spring.pitchMm / (2 * Math.PI)];
  // The nearest turn, and by how much further round than the point its nearest place lies.
  const turn = Math.round((z - c * around) / spring.pitchMm);
  const h = z - c * (around + 2 * Math.PI * turn);
  let delta = (c * h) / (rho * R + c * c);
  for (let i = 0; i < STEPS; i++) {
    const [sin, cos] = [Math.sin(delta), Math.cos(delta)];
    delta -= (rho * R * sin - c * (h - c * delta)) / (rho * R * cos + c * c);
  }
  const along = c * (around + 2 * Math.PI * turn + delta);
  const gauge = Math.hypot(rho * Math.cos(delta) - R, rho * Math.sin(delta), h - c * delta) / a;
  const beyond = Math.max(-along, along - spring.lengthMm);
  return beyond > 0 ? Math.max(gauge, 1 + beyond / a) : gauge;
}

function chainGauge(chain: Extract<Body, { kind: 'chain' }>, x: number, y: number, z: number): number {
  const { wireMm, pitchMm, insideMm } = chain;
  const links = linksOf(chain);
  const [a, R] = [wireMm / 2, (insideMm + wireMm) / 2];
  const straight = Math.max(0, (pitchMm - insideMm) / 2);
  const first = wireMm + pitchMm / 2;
  const near = (z - first) / pitchMm;
  let best = Infinity;
  for (const k of [Math.floor(near), Math.ceil(near)]) {
    if (k < 0 || k >= links) continue;
    // Every other link lies across the ones beside it.
    const [u, v] = k % 2 === 0 ? [x, y] : [y, x];
    const over = Math.max(0, Math.abs(z - first - k * pitchMm) - straight);
    best = Math.min(best, Math.hypot(Math.hypot(u, over) - R, v) / a);
  }
  return best;
}

/** The sides of outlines in a row: where each begins, what it runs by, and one over its length squared. */
const sidesOf = new WeakMap<Outline, Float64Array>();

function sides(outline: Outline): Float64Array {
  const known = sidesOf.get(outline);
  if (known) return known;
  const flat = Float64Array.from(
    outline.flatMap(([x, y], i) => {
      const [x1, y1] = outline[(i + 1) % outline.length];
      const [dx, dy] = [x1 - x, y1 - y];
      return [x, y, dx, dy, 1 / (dx * dx + dy * dy || 1)];
    }),
  );
  sidesOf.set(outline, flat);
  return flat;
}

/** Of a point to an outline, negative inside (even-odd rule). mm */
export function signedDistance(outline: Outline, x: number, y: number): number {
  const flat = sides(outline);
  let least = Infinity;
  let inside = false;
  for (let i = 0; i < flat.length; i += 5) {
    const [px, py, dx, dy] = [x - flat[i], y - flat[i + 1], flat[i + 2], flat[i + 3]];
    const t = Math.min(1, Math.max(0, (px * dx + py * dy) * flat[i + 4]));
    const [ox, oy] = [px - t * dx, py - t * dy];
    least = Math.min(least, ox * ox + oy * oy);
    if (py < 0 !== py - dy < 0 && px < (py / dy) * dx) inside = !inside;
  }
  return inside ? -Math.sqrt(least) : Math.sqrt(least);
}

/** The least rise of a turn at which turns, and those of springs threaded into it, clear each other: p·cos γ = d, γ the rise of the wire (handbook, inserts). mm */
export function leastPitch(wireMm: number, coilMm: number, strands = 1): number {
  const around = Math.PI * coilMm;
  const all = strands * wireMm;
  // (p·a)² = (n·d)²·(a² + p²), a once around, n wires side by side in a turn.
  return around > all ? (all * around) / Math.sqrt(around * around - all * all) : Infinity;
}
