import { z } from 'zod';
import { type Recipe, TREATMENTS, recipesFor } from '../../kiln/recipes.ts';
import { type KilnProgram, kilnProblems, programSchema } from '../../kiln/program.ts';
import { kilnProblemSaid } from '../../kiln/said.ts';
import { type Material, materialById } from '../../materials/material.ts';
import type { Shop } from '../../shop/shop.ts';
import { formatTemperature } from '../../units/temperature.ts';
import { choice, materialId } from '../../units/quantities.ts';
import type { Billet } from '../../billet/billet.ts';
import { addVolumes } from '../../materials/volumes.ts';
import { CAUTIONS, error, needsMaterials, needsWelded, note, warning } from '../contract/common.ts';
import { type Finding, defineMove } from '../contract/move.ts';

/** What the kiln does, for which steel, leg by leg; when it begins by the clock, where that is set. °C, K/h, min */
const parameters = z.strictObject({
  treatment: choice('Treatment', TREATMENTS),
  material: materialId('For which steel'),
  segments: programSchema.shape.segments,
  /** By the clock, as in the program: it is entered on the kiln's page. */
  startMin: z.int().min(0).max(1439).optional(),
});

export type TreatParameters = z.infer<typeof parameters>;

const EIGHT_MIN = 8 * 60;

/** A step's program as the kiln takes it. */
export const programOf = (id: string, p: TreatParameters, shop: Shop): KilnProgram => ({
  id,
  name: `${TREATMENTS[p.treatment]}, ${materialById(shop.materials, p.material)?.name ?? p.material}`,
  material: p.material,
  segments: p.segments,
  startMin: p.startMin ?? EIGHT_MIN,
});

/** The legs that are proposed for a treatment of a steel; null where none is known for it. */
export function legsFor(
  treatment: TreatParameters['treatment'],
  material: Material | undefined,
): Recipe['segments'] | null {
  return (material && recipesFor(material).find((r) => r.treatment === treatment)?.segments) ?? null;
}

/** The steel that the work is for: of those that harden the one with the most carbon, of which there is a little at least. */
function steelOf(before: readonly Billet[], { materials }: Shop): string {
  const volumes = addVolumes(...before.map((b) => b.volumes));
  const there = Object.keys(volumes)
    .filter((id) => volumes[id] > 0)
    .flatMap((id) => materialById(materials, id) ?? []);
  const carbon = (m: Material) => m.composition.C ?? 0;
  const best = (all: readonly Material[]) => [...all].sort((a, b) => carbon(b) - carbon(a))[0]?.id;
  return best(there.filter((m) => m.hardening)) ?? best(there) ?? '1084';
}

/** What melts, or is harmed, before the kiln is as hot as that. */
function tooHotFor(before: readonly Billet[], p: TreatParameters, shop: Shop): Finding[] {
  const hottest = Math.max(...p.segments.map((s) => s.targetC));
  const volumes = addVolumes(...before.map((b) => b.volumes));
  const weakest = Object.keys(volumes)
    .filter((id) => volumes[id] > 0)
    .flatMap((id) => materialById(shop.materials, id) ?? [])
    .sort((a, b) => a.limitC - b.limitC)[0];
  if (!weakest || hottest <= weakest.limitC) return [];
  const at = (c: number) => formatTemperature(c, shop.temperatures);
  return [
    error(
      'too hot for what is in it',
      `${at(hottest)} is more than ${weakest.name} in it stands (${at(weakest.limitC)} at most).`,
      {
        parameter: 'segments',
        remedy: {
          label: `At most ${at(weakest.limitC)}`,
          set: {
            segments: p.segments.map((s) => ({ ...s, targetC: Math.min(s.targetC, weakest.limitC) })),
          },
        },
      },
    ),
  ];
}

export const treat = defineMove({
  kind: 'treat',
  title: 'In the kiln',
  hint: 'anneal before sawing, normalise, harden, temper: by a program for the steel',
  group: 'Between the heats',
  begins: false,
  onBlank: true,
  parameters,
  begin(before, shop): TreatParameters {
    const material = steelOf(before, shop);
    const recipes = recipesFor(materialById(shop.materials, material)!);
    // A blade that is forged is normalised first; a bar is made soft for the saw.
    const wanted = before.some((b) => b.blank) ? 'normalise' : recipes[0].treatment;
    const { treatment, segments } = recipes.find((r) => r.treatment === wanted)!;
    return { treatment, material, segments: [...segments] };
  },
  check(before, p, shop) {
    const missing = [...needsWelded(before), ...needsMaterials([p.material], shop, 'material')];
    if (missing.length > 0) return missing.slice(0, 1);
    const hot = tooHotFor(before, p, shop);
    if (hot.length > 0) return hot;
    const material = materialById(shop.materials, p.material)!;
    const program = programOf('step', p, shop);
    const known = recipesFor(material).find((r) => r.treatment === p.treatment);
    const recipe = known && isAs(p.segments, known.segments) ? known : undefined;
    return [
      ...kilnProblems(program, shop.kiln).map((problem): Finding => {
        const { code, text, label } = kilnProblemSaid(problem, program, shop);
        const segments = p.segments.map((s, i) => (i === problem.segment ? { ...s, ...problem.set } : s));
        return warning(code, text, { parameter: 'segments', remedy: { label, set: { segments } } });
      }),
      recipe
        ? note(
            'where from',
            `${recipe.why} ${begun(recipe.source)}. The data sheet of whoever made the steel takes precedence.`,
          )
        : note(
            'own program',
            known
              ? 'Its legs are your own, not those that are proposed for it: the data sheet of the steel says.'
              : `No ${TREATMENTS[p.treatment].toLowerCase()} is known for ${material.name} here: its data sheet says.`,
          ),
      ...(p.treatment === 'harden' ? [CAUTIONS.quench(), CAUTIONS.edge()] : []),
      CAUTIONS.kiln(),
    ];
  },
  apply: (before) => ({ after: before, losses: [], added: {} }),
  kiln: (p) => p.segments,
  does: (_before, p, shop) => [
    {
      do: 'kiln',
      what: TREATMENTS[p.treatment],
      steel: materialById(shop.materials, p.material)?.name ?? p.material,
      legs: p.segments,
    },
  ],
});

/** K, and share of a rate: as far as a controller's round numbers in °F are from the proposed ones. */
const ROUND = { targetC: 3, rate: 0.02 } as const;

/** Whether legs are those that were proposed, but for round numbers. */
const isAs = (own: Recipe['segments'], proposed: Recipe['segments']): boolean =>
  own.length === proposed.length &&
  own.every((s, i) => {
    const { targetC, holdMin, rateKPerH, then } = proposed[i];
    const rate =
      s.rateKPerH === null || rateKPerH === null
        ? s.rateKPerH === rateKPerH
        : Math.abs(s.rateKPerH / rateKPerH - 1) < ROUND.rate;
    return rate && Math.abs(s.targetC - targetC) <= ROUND.targetC && s.holdMin === holdMin && s.then === then;
  });

const begun = (source: string): string => `Source: ${source}`;
