export * from './spec.ts';
export * from './recipe.ts';
export * from './looks.ts';
export * from './gallery.ts';
export { lacking } from './allowed.ts';
export { offerOf } from './offer.ts';
export { RECIPES, recipeOf } from './families/index.ts';
export { ANSWERS, type Near, isNear, nearest } from './finding.ts';
export {
  type Face,
  facesShown,
  librarySpecs,
  picturedBy,
  repeatOfFace,
  shownBy,
  shownRecipes,
} from './library.ts';
export { type Known, knownOf, shippedFaces } from './shipped.ts';
