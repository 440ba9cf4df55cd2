import { BLOCK, type Points, type Trace, makePoints, makeTrace } from '../billet/fields/field.ts';
import type { Billet } from '../billet/billet.ts';
import { type Plane, holds } from '../billet/face.ts';
import { contains, isRectangle } from '../geometry/outline.ts';

/** Asks a billet for codes in its plane, a block at a time: fill `us` and `vs` (0…1 from the lower left), ask, read `codes`. */
export class Asker {
  readonly us = new Float64Array(BLOCK);
  readonly vs = new Float64Array(BLOCK);
  readonly codes = new Uint8Array(BLOCK);
  /** Where the points lie in their stacks, of what was asked with `traced`. */
  readonly trace: Trace = makeTrace();
  private readonly points: Points = makePoints();
  private readonly wholeSection: boolean;
  private readonly needsZ: boolean;
  private readonly billet: Billet;
  private readonly plane: Plane;

  constructor(billet: Billet, plane: Plane) {
    this.billet = billet;
    this.plane = plane;
    this.wholeSection =
      !plane.surface && !billet.blank && isRectangle(billet.outline) && insideAtCorners(billet, plane);
    this.needsZ = billet.field.variesAlongZ || !this.wholeSection;
  }

  ask(count: number, traced = false): void {
    const { codes, points, trace } = this;
    points.count = count;
    points.trace = traced ? trace : undefined;
    if (traced) trace.stack.fill(null, 0, count);
    this.place();
    const bare = this.plane.surface ? this.lift(this.plane.surface) : null;
    const outside = this.wholeSection ? null : this.outside();
    this.billet.field.sample(points, codes);
    if (!outside) return;
    for (let i = 0; i < count; i++) {
      if (!outside[i] && !bare?.[i]) continue;
      codes[i] = 0;
      trace.stack[i] = null;
    }
  }

  /** Moves the points from the window to the surface over it; marks those where there is none. */
  private lift(surface: NonNullable<Plane['surface']>): Uint8Array {
    const { across: a, up: b } = this.plane;
    const out = [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
    const { x, y, z, count } = this.points;
    const bare = new Uint8Array(count);
    for (let i = 0; i < count; i++) {
      const above = surface(this.us[i], this.vs[i]);
      if (above === null) bare[i] = 1;
      else {
        x[i] += out[0] * above;
        y[i] += out[1] * above;
        z[i] += out[2] * above;
      }
    }
    return bare;
  }

  /** From the plane to the billet's own coordinates. */
  private place(): void {
    const { us, vs, needsZ } = this;
    const { origin: o, across: a, up, widthMm, heightMm } = this.plane;
    const [ax, ay, az] = [a[0] * widthMm, a[1] * widthMm, a[2] * widthMm];
    const [bx, by, bz] = [up[0] * heightMm, up[1] * heightMm, up[2] * heightMm];
    const [ox, oy, oz] = o;
    const { x, y, z, count } = this.points;
    // Faces that stand along the bar's own axes, the commonest.
    if (!needsZ && ay === 0 && bx === 0) {
      for (let i = 0; i < count; i++) {
        x[i] = ox + ax * us[i];
        y[i] = oy + by * vs[i];
      }
      return;
    }
    for (let i = 0; i < count; i++) {
      const u = us[i];
      const v = vs[i];
      x[i] = ox + ax * u + bx * v;
      y[i] = oy + ay * u + by * v;
      if (needsZ) z[i] = oz + az * u + bz * v;
    }
  }

  private outside(): Uint8Array {
    const { x, y, z, count } = this.points;
    const { outline, lengthMm, blank } = this.billet;
    const mask = new Uint8Array(count);
    for (let i = 0; i < count; i++)
      mask[i] = z[i] < 0 || z[i] > lengthMm || !contains(outline, x[i], y[i]) ? 1 : 0;
    if (blank) for (let i = 0; i < count; i++) if (!blank.forged.holds(x[i], y[i], z[i])) mask[i] = 1;
    return mask;
  }
}

function insideAtCorners(
  billet: Billet,
  { origin: o, across: a, up, widthMm: w, heightMm: h }: Plane,
): boolean {
  const shrink = 1e-9;
  return [0 + shrink, 1 - shrink].every((u) =>
    [0 + shrink, 1 - shrink].every((v) =>
      holds(
        billet,
        o[0] + a[0] * u * w + up[0] * v * h,
        o[1] + a[1] * u * w + up[1] * v * h,
        o[2] + a[2] * u * w + up[2] * v * h,
      ),
    ),
  );
}
