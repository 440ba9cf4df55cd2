import { z } from 'zod';
import { count, lengthMm, materialId } from '../units/quantities.ts';

/** Bars of one section and length that lie on the rack. mm */
export const rackBarSchema = z.strictObject({
  material: materialId('Steel'),
  widthMm: lengthMm('Width', 2000, { fine: true }),
  thicknessMm: lengthMm('Thickness', 500, { fine: true }),
  lengthMm: lengthMm('Length'),
  count: count('Bars', 1, 1000),
});

export interface RackBar extends z.infer<typeof rackBarSchema> {
  readonly id: string;
}
