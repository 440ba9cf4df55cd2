import type { Action } from './action.ts';

/** Where a part was in the bar (it still lies so, its top up), or what a face was, as the instruction has it. */
export function whereFrom(
  done: readonly Action[],
  part: string,
  face: string,
): { readonly part?: string; readonly face?: string } | null {
  for (const action of done) {
    if (action.do === 'saw along') {
      const sides = action.way === 'upright' ? ['left', 'right'] : ['lower', 'upper'];
      const side = sides[action.parts.indexOf(part)];
      if (side) return { part: side };
    }
    if (action.do === 'lay down' && action.what === 'block') {
      const { up, topTowards } = action;
      const other = up === 'A' ? 'B' : 'A';
      const was: Readonly<Record<string, string>> = {
        top: `end ${up}`,
        bottom: `end ${other}`,
        [`end ${topTowards}`]: 'the top',
        [`end ${topTowards === 'A' ? 'B' : 'A'}`]: 'the bottom',
      };
      return was[face] ? { face: was[face] } : null;
    }
  }
  return null;
}
