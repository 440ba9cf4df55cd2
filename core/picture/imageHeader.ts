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
const TRUNCATED = 'This picture is cut short: save it again.';
const PNG_SIGNATURE = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a];

/** Type and size of a PNG (W3C PNG, 11.2.1) or JPEG (ITU-T T.81, B.2.2), or why it is not taken. */
export function imageHeader(bytes: Uint8Array): HeaderRead {
  if (bytes.length > MOST_IMAGE_BYTES) return no('This picture is too large: at most 12 MB.');
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const read = PNG_SIGNATURE.every((byte, i) => bytes[i] === byte)
    ? pngHeader(bytes, view)
    : bytes[0] === 0xff && bytes[1] === 0xd8
      ? jpegHeader(bytes, view)
      : no('This is neither a PNG nor a JPEG picture, nor an SVG drawing.');
  if (!read.ok) return read;
  const { widthPx, heightPx } = read.header;
  if (widthPx < 8 || heightPx < 8) return no('This picture is too small to trace: at least 8 dots each way.');
  if (widthPx * heightPx > MOST_IMAGE_PX)
    return no(
      `This picture has ${widthPx} × ${heightPx} dots; at most ${MOST_IMAGE_PX / 1e6} million are taken. Make it smaller first.`,
    );
  return read;
}

function pngHeader(bytes: Uint8Array, view: DataView): HeaderRead {
  if (bytes.length < 33 || String.fromCharCode(...bytes.subarray(12, 16)) !== 'IHDR') return no(TRUNCATED);
  // A whole file ends with an empty IEND chunk.
  const end = String.fromCharCode(...bytes.subarray(-8, -4));
  if (end !== 'IEND') return no(TRUNCATED);
  return { ok: true, header: { type: 'png', widthPx: view.getUint32(16), heightPx: view.getUint32(20) } };
}

function jpegHeader(bytes: Uint8Array, view: DataView): HeaderRead {
  let at = 2;
  while (at + 9 < bytes.length) {
    if (bytes[at] !== 0xff) return no(TRUNCATED);
    const marker = bytes[at + 1];
    if (marker === 0xff) {
      at++;
      continue;
    }
    const isFrame = marker >= 0xc0 && marker <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(marker);
    if (isFrame)
      return {
        ok: true,
        header: { type: 'jpeg', widthPx: view.getUint16(at + 7), heightPx: view.getUint16(at + 5) },
      };
    at += 2 + view.getUint16(at + 2);
  }
  return no(TRUNCATED);
}
