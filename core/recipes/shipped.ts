import { fromByteArray, toByteArray } from 'base64-js';
import { deflateSync, inflateSync } from 'fflate';
import { grey } from '../likeness/grey.ts';
import { type Pattern, patternOf } from '../likeness/pose.ts';
import { recipeOf } from './families/index.ts';
import { type Face, ROUGHLY, librarySpec, shownRecipes } from './library.ts';
import type { Layout } from './recipe.ts';
import { ALL, type Share, type Spec } from './spec.ts';

/** A face that is known, ready to be compared with. */
export interface Known extends Omit<Face, 'picture'> {
  readonly pattern: Pattern;
}

/** A spec of the library by what it does not share with all others. */
interface ShippedFace extends Pick<Face, 'shown' | 'elements'> {
  readonly recipe: string;
  readonly numbers: Spec['numbers'];
  readonly layout: Layout;
}

/** The library as it is shipped: its faces, and the tones of all of them one after the other, deflated, in base64. */
export interface ShippedLibrary {
  readonly faces: readonly ShippedFace[];
  readonly tones: string;
}

/** Tones that are told apart. */
const TONES = 15;
const DOTS = ROUGHLY * ROUGHLY;

export function packed(all: readonly Face[]): ShippedLibrary {
  const bytes = new Uint8Array(all.length * DOTS);
  for (const [i, { picture }] of all.entries())
    bytes.set(
      Uint8Array.from(picture.values, (v) => Math.round(TONES * v)),
      i * DOTS,
    );
  return {
    faces: all.map(({ spec: { recipe, numbers, layout }, shown, elements }) => ({
      ...{ recipe, numbers, layout, shown, elements },
    })),
    tones: fromByteArray(deflateSync(bytes, { level: 9 })),
  };
}

/** Of some recipes alone. */
function unpacked({ faces, tones }: ShippedLibrary, ids: ReadonlySet<string>): Face[] {
  const bytes = inflateSync(toByteArray(tones));
  return faces.flatMap(({ recipe, numbers, layout, shown, elements }, i) => {
    if (!ids.has(recipe)) return [];
    const dots = bytes.subarray(i * DOTS, (i + 1) * DOTS);
    return [
      {
        spec: librarySpec(recipeOf(recipe), numbers, layout),
        shown,
        elements,
        picture: grey(
          ROUGHLY,
          ROUGHLY,
          Float64Array.from(dots, (v) => v / TONES),
        ),
      },
    ];
  });
}

/** What recipes show, worked out once (npm run library): of those that are named, where any are; or part of it. */
export async function shippedFaces(
  { part, of }: Share = ALL,
  among: readonly string[] = [],
): Promise<Face[]> {
  const { default: file } = await import('./library.json', { with: { type: 'json' } });
  const ids = shownRecipes()
    .map((r) => r.id)
    .filter((id, i) => i % of === part && (among.length === 0 || among.includes(id)));
  return unpacked(file as unknown as ShippedLibrary, new Set(ids));
}

export const knownOf = ({ picture, ...face }: Face): Known => ({ ...face, pattern: patternOf(picture) });
