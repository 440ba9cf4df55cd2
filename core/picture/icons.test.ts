import { readFileSync, readdirSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { expect, it } from 'vitest';
import sharp from 'sharp';
import { regionArea } from '../geometry/regions.ts';
import { drawingFromSvg } from './svg.ts';

/** The drawings of an icon package, against the areas that librsvg paints: a few in the quick run, all 2,100 by `npm run icons`. */
const FOLDER = dirname(createRequire(import.meta.url).resolve('@mui/icons-material/package.json'));
const EVERY = process.env.RETABLO_ICONS === 'all' ? 1 : 40;
const PX = 240;
/** Of the painted area, and px²: a pixel of the box's width is that much. */
const OFF = 0.03;
const OFF_PX = 10;

const filled = readdirSync(FOLDER).filter(
  (f) => f.endsWith('.js') && !/(Outlined|Rounded|Sharp|TwoTone)\.js$/.test(f) && f !== 'index.js',
);

/** What an icon draws, as SVG; null of those that are painted in part or moved. */
function drawnBy(file: string): string | null {
  const source = readFileSync(join(FOLDER, file), 'utf8');
  if (/opacity|transform/i.test(source)) return null;
  const shapes = [...source.matchAll(/\.jsx\)\("(path|circle|ellipse|rect|polygon)", \{([^}]*)\}/g)];
  const written = shapes.map(([, name, all]) => {
    const attributes = [...all.matchAll(/"?([\w-]+)"?: "([^"]*)"/g)].map(
      ([, key, value]) => `${key.replace(/Rule$/, '-rule')}="${value}"`,
    );
    return `<${name} ${attributes.join(' ')}/>`;
  });
  const frame = `xmlns="http://www.w3.org/2000/svg" viewBox="0 0 24 24" width="${PX}" height="${PX}"`;
  return written.length > 0 ? `<svg ${frame}>${written.join('')}</svg>` : null;
}

/** Area painted, and how wide the painted box is. px */
async function painted(svg: string): Promise<{ area: number; wide: number }> {
  const { data } = await sharp(Buffer.from(svg)).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  let [area, left, right] = [0, PX, -1];
  for (let i = 0; i < PX * PX; i++) {
    const alpha = data[4 * i + 3];
    area += alpha / 255;
    if (alpha <= 100) continue;
    left = Math.min(left, i % PX);
    right = Math.max(right, i % PX);
  }
  return { area, wide: right - left + 1 };
}

it('outlines of drawings are as large as another program paints them', async () => {
  const wrong: string[] = [];
  let compared = 0;
  for (const file of filled.filter((_, i) => i % EVERY === 0)) {
    const svg = drawnBy(file);
    if (!svg) continue;
    const read = drawingFromSvg(svg);
    if (!read.ok) {
      wrong.push(`${file} is refused`);
      continue;
    }
    const { area, wide } = await painted(svg);
    const mine = wide * wide * read.drawing.tones.reduce((sum, tone) => sum + regionArea(tone.region), 0);
    compared++;
    if (Math.abs(mine - area) > OFF * area + OFF_PX) wrong.push(`${file}: ${(mine / area).toFixed(3)}`);
  }
  expect(wrong).toEqual([]);
  expect(compared).toBeGreaterThan(1900 / EVERY);
}, 300_000);
