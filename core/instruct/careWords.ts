/** Care that moves no steel, in the smith's words; a second language is a second table. */
export const CARE = {
  'faces bright': 'Grind every faying face bright and flat.',
  'faces sanded': 'Sand the faces that will meet: etch residue hinders the weld.',
  'a bar that is there':
    'Measure the bar that is there. Mark the end that was photographed with the letter it was read as, the other with the other; end B stays in front.',
  'handle on': 'Clamp it together and weld a handle on.',
  'tacked with a handle': 'Tack the ends and along the sides; a good handle on it.',
  'fused with a handle':
    'Clamp it and fuse the seams at the ends and along the sides without filler; a good handle on it.',
  'wired with a handle':
    'Bind it with soft wire at both ends and the middle; a good handle on it. The wire comes off after the first light pass.',
  'glued with a handle':
    'Glue it a layer at a time under a clamp, then weld the ends and the handle on: the glue burns off in the fire.',
  'held by its jacket':
    'The jacket holds it: weld the sheet shut round it but for the pinhole; a good handle on it.',
  'held by its sheets':
    'The sheets above and below hold it: weld them to it along the edges; a good handle on it.',
  fluxed: 'At a dull red strew flux over every seam; hot enough when it runs like water and just fumes.',
  dunked: 'Before the fire dunk it in light oil and let it drip: the soot keeps air from the seams.',
  sealed: 'No flux: what is shut lets no air in.',
  'weld judged':
    'It has taken when edge and middle show one colour, no seam shows dark, and it sounds and feels like one piece.',
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
  'marks come to lie':
    'The marks show whether the steel goes where it is meant to: where one lies too far along, the next heat goes to the other side of it.',
  'etch sanded off':
    'Look, write down what is seen, then sand the faces that will be welded: etch residue hinders the weld.',
  'nothing ground': 'Nothing is ground.',
  'stands square': 'Nothing is ground: the pattern stands square to the faces.',
  'as drawn': 'Turn and lay the pieces as they are drawn here.',
} as const;

export type Care = keyof typeof CARE;
