export * from './spec.ts';
export * from './recipe.ts';
export * from './looks.ts';
export * from './gallery.ts';
export { lacking } from './allowed.ts';
export { offerOf } from './offer.ts';
export { RECIPES, recipeOf } from './families/index.ts';
export {
  type Known,
  type Near,
  isNear,
  library,
  librarySize,
  nearest,
  picturedBy,
  repeatOfFace,
  shownBy,
} from './finding.ts';
