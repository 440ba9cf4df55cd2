import { type Billet, sizeOf } from '../billet/billet.ts';
import { type LengthDisplay, formatSizes } from '../units/length.ts';

/** The sections of pieces as the shop writes them, each once: unlike parts of a bar are not all called by the first one's. */
export function sectionsOf(pieces: readonly Billet[], lengths: LengthDisplay): string[] {
  const said = pieces.map((piece) => {
    const { widthMm, heightMm } = sizeOf(piece);
    return formatSizes([widthMm, heightMm], lengths);
  });
  return [...new Set(said)];
}
