import Papa from 'papaparse';
import { materialById } from '../../../../core/materials/material.ts';
import { type Evaluation, cutList } from '../../../../core/plan/index.ts';
import { massKg } from '../../../../core/materials/volumes.ts';
import { boughtVolume } from '../../../../core/moves/index.ts';
import { formatFine, formatLength, formatMass } from '../../../../core/units/index.ts';

/** The cut list as CSV: sizes as the shop writes them, and exactly in mm for whoever reckons on. */
export function cutListCsv(evaluation: Evaluation): string {
  const { shop } = evaluation;
  const rows = {
    fields: [
      'steel',
      'what',
      'width',
      'thickness',
      'length',
      'pieces',
      'weight',
      'width mm',
      'thickness mm',
      'length mm',
      'for',
    ],
    data: cutList(evaluation).map((r) => [
      materialById(shop.materials, r.material)?.name ?? r.material,
      r.what,
      formatFine(r.widthMm, shop.lengths),
      formatFine(r.thicknessMm, shop.lengths),
      formatLength(r.lengthMm, shop.lengths),
      r.count,
      formatMass(massKg({ [r.material]: boughtVolume(r) * r.count }, shop.materials), shop.masses),
      r.widthMm,
      r.thicknessMm,
      r.lengthMm,
      r.lanes.join(', '),
    ]),
  };
  // A name that begins as a formula does is none.
  return Papa.unparse(rows, { escapeFormulae: true });
}
