import { type Billet, sizeOf } from '../billet/billet.ts';
import { type LengthDisplay, bareLength, formatSizes } from '../units/length.ts';

/** The sections of pieces as the shop writes them, each once: unlike parts of a bar are not all called by the first one's. */
export function sectionsOf(pieces: readonly Billet[], lengths: LengthDisplay): string[] {
  const said = pieces.map((piece) => {
    const { widthMm, heightMm } = sizeOf(piece);
    return formatSizes([widthMm, heightMm], lengths);
  });
  return [...new Set(said)];
}

/** The same in one short line: “4 of 25 × 25 mm”, or “22 × 13.5, 7.5 mm” of parts that share a side. */
export function sectionsInShort(pieces: readonly Billet[], lengths: LengthDisplay): string {
  const sections = sectionsOf(pieces, lengths);
  if (sections.length < 2) return pieces.length > 1 ? `${pieces.length} of ${sections[0]}` : sections[0];
  const sides = (['widthMm', 'heightMm'] as const).map((side) => [
    ...new Set(pieces.map((piece) => bareLength(sizeOf(piece)[side], lengths))),
  ]);
  if (Math.min(...sides.map((side) => side.length)) > 1) return `${pieces.length} unlike pieces`;
  return sides.map((side) => side.join(', ')).join(' × ') + (lengths.unit === 'in' ? '"' : ' mm');
}
