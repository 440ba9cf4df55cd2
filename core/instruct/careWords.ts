/** Care that moves no steel, in the smith's words; a second language is a second table. */
export const CARE = {
  'faces bright': 'Grind every faying face bright and flat.',
  'faces sanded': 'Sand the faces that will meet: etch residue hinders the weld.',
  'a bar that is there':
    'Measure the bar that is there. Mark the end that was photographed with the letter it was read as, the other with the other; end B stays in front.',
  'tacked with a handle': 'Tack the ends and along the sides, and weld on a handle.',
  'edges shut': 'Weld all edges shut.',
  'weld set':
    'Set the weld with a light pass along every seam, then harder. Seams both ways: press, quarter turn, press.',
  'butts squeezed': 'Butt joints must be squeezed from the ends or by a jacket.',
  'butts held': 'Hold the butt joints with a jacket or clamps: only pressure from the ends welds them.',
  'kept square': 'Keep it square: a rhombus grows worse with every pass.',
  'squared up': 'Square up until the corners are filled.',
  'held by the handle': 'Hold it there by the handle.',
  'bevel gauge': 'Work end to end in even bites; check with a bevel gauge at both ends.',
  'cooled ahead':
    'Cool with water where it runs ahead. Square the bar again before it is laid beside others.',
  'top marked': 'Mark which way is up on end B before it goes in.',
  'let cool': 'Let it cool slowly.',
  'bottoms round': 'Round the bottoms; sharp ones fold shut.',
  'high parts down': 'The high parts go down; never close the grooves from the side.',
  'Vs clean': 'Saw and grind the V’s clean, a round bottom to each; bright metal only, for these faces weld.',
  'fresh ends etched': 'Etch the fresh ends: they tell what the middle is like, the old ends do not.',
  'ends measured':
    'Grind both ends, etch lightly, and measure the pattern against the faces with a protractor.',
  'middle looked at': 'Cut the bar in half and look at the middle when the ends disagree.',
  'nothing ground': 'Nothing is ground.',
  'stands square': 'Nothing is ground: the pattern stands square to the faces.',
  'as drawn': 'Turn and lay the pieces as they are drawn here.',
} as const;

export type Care = keyof typeof CARE;
