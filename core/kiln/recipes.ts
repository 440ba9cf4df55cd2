import type { Material } from '../materials/material.ts';
import type { KilnSegment } from './program.ts';

/** What the kiln is used for, in the order of the work. */
export const TREATMENTS = {
  'divorced-eutectoid anneal': 'Anneal: divorced eutectoid',
  'sub-critical anneal': 'Anneal: sub-critical',
  normalise: 'Normalise',
  harden: 'Harden',
  temper: 'Temper',
} as const;

export type Treatment = keyof typeof TREATMENTS;

/** A program proposed for a steel, and where it comes from. */
export interface Recipe {
  readonly treatment: Treatment;
  readonly name: string;
  readonly why: string;
  readonly source: string;
  readonly segments: readonly KilnSegment[];
}

const PRACTICE = 'common practice, no source';

const middle = ([low, high]: readonly [number, number]): number => Math.round((low + high) / 2);

const toAir = 'take out, cool in still air to black';

/**
 * What a steel may want of the kiln, in the order of the work. All of it is a starting point: the data sheet of whoever made
 * the steel takes precedence.
 */
export function recipesFor(material: Material): Recipe[] {
  const { C = 0 } = material.composition;
  const eutectoid = C >= 0.6 && C <= 1.1;
  return [
    ...(eutectoid
      ? [
          {
            treatment: 'divorced-eutectoid anneal' as const,
            name: 'Divorced-eutectoid anneal',
            why: 'Soft for sawing and drilling: half an hour a little above A₁, then slowly down.',
            source:
              'value from memory of J. D. Verhoeven and E. D. Gibson, Metall. Mater. Trans. A 29 (1998), and Verhoeven, Steel Metallurgy for the Non-Metallurgist (2007)',
            segments: [
              { rateKPerH: null, targetC: 740, holdMin: 30 },
              { rateKPerH: 370, targetC: 650, holdMin: 0, then: 'take out, cool in air' },
            ],
          },
        ]
      : []),
    {
      treatment: 'sub-critical anneal',
      name: 'Sub-critical anneal',
      why: 'Softer and free of strain, without a change of structure.',
      source: PRACTICE,
      segments: [{ rateKPerH: null, targetC: 675, holdMin: 90, then: 'off; leave it in' }],
    },
    {
      treatment: 'normalise',
      name: 'Normalise, three falling cycles',
      why: 'Fine, even grain after forging.',
      source: PRACTICE,
      segments: [870, 815, 760].map((targetC) => ({ rateKPerH: null, targetC, holdMin: 10, then: toAir })),
    },
    ...(material.hardening
      ? [
          {
            treatment: 'harden' as const,
            name: 'Harden',
            why: `Austenitise, then quench in ${material.hardening.quench}.`,
            source: material.hardening.source,
            segments: [
              { rateKPerH: null, targetC: 650, holdMin: 5 },
              {
                rateKPerH: null,
                targetC: middle(material.hardening.austenitiseC),
                holdMin: 10,
                then: `quench in ${material.hardening.quench}`,
              },
            ],
          },
          {
            treatment: 'temper' as const,
            name: 'Temper',
            why: `For about ${material.hardening.hrc.join('–')} HRC.`,
            source: material.hardening.source,
            segments: Array.from({ length: material.hardening.temperTimes }, () => [
              {
                rateKPerH: null,
                targetC: middle(material.hardening!.temperC),
                holdMin: 60 * material.hardening!.temperHours,
                then: 'take out, cool to hand-warm',
              },
            ]).flat(),
          },
        ]
      : []),
  ];
}
