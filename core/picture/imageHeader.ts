import { imageSize } from 'image-size';

/** What a picture file says of itself before anything is decoded. */
export interface ImageHeader {
  readonly type: 'png' | 'jpeg';
  readonly widthPx: number;
  readonly heightPx: number;
}

export type HeaderRead = { ok: true; header: ImageHeader } | { ok: false; message: string };

/** Bytes of a picture file, and dots in it, at most: looked at before it is decoded. */
export const MOST_IMAGE_BYTES = 12_000_000;
const MOST_IMAGE_PX = 16_000_000;

const no = (message: string): HeaderRead => ({ ok: false, message });

const TAKEN: Readonly<Record<string, ImageHeader['type']>> = { png: 'png', jpg: 'jpeg' };

/** Type and size of a PNG or JPEG, or why it is not taken. */
export function imageHeader(bytes: Uint8Array): HeaderRead {
  if (bytes.length > MOST_IMAGE_BYTES) return no('This picture is too large: at most 12 MB.');
  const said = sizeSaid(bytes);
  const type = TAKEN[said?.type ?? ''];
  if (!said || !type)
    return no('This is no PNG or JPEG picture and no SVG drawing, or it is cut short: save it again.');
  // Browsers decode the part that is there and say nothing; a whole one ends with an empty IEND chunk.
  if (type === 'png' && String.fromCharCode(...bytes.subarray(-8, -4)) !== 'IEND')
    return no('This picture is cut short: save it again.');
  if (said.width < 8 || said.height < 8)
    return no('This picture is too small to trace: at least 8 dots each way.');
  if (said.width * said.height > MOST_IMAGE_PX)
    return no(
      `This picture has ${said.width} × ${said.height} dots; at most ${MOST_IMAGE_PX / 1e6} million are taken. Make it smaller first.`,
    );
  return { ok: true, header: { type, widthPx: said.width, heightPx: said.height } };
}

function sizeSaid(bytes: Uint8Array): ReturnType<typeof imageSize> | null {
  try {
    return imageSize(bytes);
  } catch {
    // The library throws what it does not know and what is too short for it.
    return null;
  }
}
