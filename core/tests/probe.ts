import type { Billet } from '../billet/billet.ts';
import type { Field, Points } from '../billet/fields/field.ts';
import { type Outline, outlineArea } from '../geometry/outline.ts';

/** A field that keeps where it was last asked, mm: of a bar that was reshaped since, where its steel comes from. */
export class Probe implements Field {
  readonly variesAlongZ = false;
  x = new Float64Array(0);
  y = new Float64Array(0);
  sample({ x, y, count }: Points): void {
    this.x = x.slice(0, count);
    this.y = y.slice(0, count);
  }
  through(): Field {
    return this;
  }
}

/** A welded bar of a section and a field. */
export const probeBar = (outline: Outline, field: Field): Billet => ({
  outline,
  lengthMm: 200,
  field,
  volumes: { '1084': outlineArea(outline) * 200 },
  loose: false,
  bandMm: 1,
  piece: null,
  jacket: null,
});
