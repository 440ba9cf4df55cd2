import { writeFileSync } from 'node:fs';
import { WorkedOutFlows } from '../core/flow/flows.ts';
import { facesShown, librarySpecs, shownRecipes } from '../core/recipes/index.ts';
import { packed } from '../core/recipes/shipped.ts';

/** Works out anew what recipes show, which pictures are compared with: where a recipe or its numbers change. */
const FILE = new URL('../core/recipes/library.json', import.meta.url);

const flows = new WorkedOutFlows();
const faces = shownRecipes().flatMap((recipe) => {
  const shown = [...facesShown(librarySpecs(recipe), flows)].flat();
  console.log(`${recipe.name}: ${shown.length} faces`);
  return shown;
});
writeFileSync(FILE, `${JSON.stringify(packed(faces))}\n`);
