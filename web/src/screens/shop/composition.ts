import type { Material } from '../../../../core/materials/material.ts';

/** What is asked and shown of a composition, in this order. */
export const ELEMENTS = ['C', 'Mn', 'Cr', 'Ni', 'Mo', 'V', 'W', 'Cu', 'Zn'] as const;

export const compositionText = ({ composition }: Pick<Material, 'composition'>): string =>
  ELEMENTS.flatMap((e) => (composition[e] ? [`${e} ${Math.round(100 * composition[e]) / 100}`] : [])).join(
    ', ',
  ) || 'pure';
