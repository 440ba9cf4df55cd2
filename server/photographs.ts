import sharp from 'sharp';
import { Photograph, Project } from './database.ts';
import { ApiError } from './errors.ts';

/** Bytes, as a camera writes them; pixels that are decoded; sides of what is kept. */
export const MOST_BYTES = 30 * 1024 * 1024;
const MOST_PIXELS = 120e6;
const LARGE_PX = 2400;
const SMALL_PX = 360;
/** Of one piece. */
const MOST_PHOTOGRAPHS = 600;
/** Longer than any photograph takes. */
const MOST_SECONDS = 30;

const FORMATS = new Set(['jpeg', 'png', 'webp', 'gif', 'tiff', 'heif', 'avif']);

/** One after the other: each takes as much memory as its pixels. */
let turn: Promise<unknown> = Promise.resolve();
function inTurn<T>(work: () => Promise<T>): Promise<T> {
  const mine = turn.then(work);
  turn = mine.catch(() => undefined);
  return mine;
}

interface Developed {
  readonly large: Buffer;
  readonly small: Buffer;
}

const noPhotograph = (): ApiError =>
  new ApiError('wrong type', 'This is no photograph that can be read: send a JPEG, PNG or WebP.');

/**
 * A photograph as it is kept: its size is looked at before its pixels are decoded; it is turned upright, at most 2,400 px, and
 * written anew as JPEG, so that nothing else that lay in the file (where it was taken, what was hidden behind it) is kept.
 *
 * @throws ApiError 'wrong type' for what is no picture, 'too large' for one of too many pixels.
 */
async function developed(file: Buffer): Promise<Developed> {
  const input = { limitInputPixels: MOST_PIXELS, failOn: 'error', pages: 1 } as const;
  const { format, width, height } = await sharp(file, { ...input, limitInputPixels: false })
    .metadata()
    .catch(() => {
      throw noPhotograph();
    });
  if (!FORMATS.has(format) || !width || !height) throw noPhotograph();
  if (width * height > MOST_PIXELS)
    throw new ApiError(
      'too large',
      `This photograph has ${Math.round((width * height) / 1e6)} million pixels; at most ${MOST_PIXELS / 1e6} million are taken.`,
    );
  const to = (px: number, quality: number) =>
    sharp(file, input)
      .autoOrient()
      .resize(px, px, { fit: 'inside', withoutEnlargement: true })
      .flatten({ background: '#ffffff' })
      .toColourspace('srgb')
      .jpeg({ quality, mozjpeg: false })
      .timeout({ seconds: MOST_SECONDS })
      .toBuffer();
  try {
    return { large: await to(LARGE_PX, 84), small: await to(SMALL_PX, 78) };
  } catch {
    throw noPhotograph();
  }
}

/** A photograph in its two sizes, as it is kept. @throws as `developed` */
export const photographOf = (file: Buffer): Promise<Developed> => inTurn(() => developed(file));

/** Keeps a photograph of a piece under its id; sent again it is the same one. */
export async function keepPhotograph(
  projectId: string,
  id: string,
  file: Buffer,
  takenAt: Date,
): Promise<void> {
  const project = await Project.findByPk(projectId, { attributes: ['removedAt'] });
  if (!project || project.removedAt)
    throw new ApiError('not found', 'There is no such piece on the shelf; it may have been removed.');
  if ((await Photograph.count({ where: { projectId, id } })) > 0) return;
  if ((await Photograph.count({ where: { projectId } })) >= MOST_PHOTOGRAPHS)
    throw new ApiError('too much', `A piece may have at most ${MOST_PHOTOGRAPHS} photographs.`);
  const pictures = await photographOf(file);
  await Photograph.upsert({ projectId, id, ...pictures, takenAt });
}

export async function photograph(projectId: string, id: string, size: keyof Developed): Promise<Buffer> {
  const row = await Photograph.findOne({ where: { projectId, id }, attributes: [size] });
  if (!row) throw new ApiError('not found', 'There is no such photograph; it may not have been sent yet.');
  return row[size];
}
