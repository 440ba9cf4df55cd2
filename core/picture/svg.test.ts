import { describe, expect, it } from 'vitest';
import { common, crossings, regionArea } from '../geometry/regions.ts';
import { drawingFromSvg } from './svg.ts';

const svg = (inside: string, more = ''): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100"${more}>${inside}</svg>`;
const read = (text: string) => {
  const answer = drawingFromSvg(text);
  if (!answer.ok) throw new Error(answer.message);
  return answer.drawing;
};

/** Area of a tone in units of a drawing 100 wide. */
const areas = (text: string): number[] => read(text).tones.map((t) => regionArea(t.region) * 1e4);

const refusal = (text: string): string => {
  const answer = drawingFromSvg(text);
  return answer.ok ? 'taken' : answer.message;
};

/** A ground of white, so that 100 units are one width. */
const GROUND = '<rect width="100" height="100" fill="white"/>';

describe('an SVG drawing as outlines', () => {
  it('has the areas that plain geometry gives its shapes', () => {
    expect(areas(svg(`${GROUND}<circle cx="50" cy="50" r="20"/>`))[0]).toBeCloseTo(Math.PI * 400, -0.5);
    expect(areas(svg(`${GROUND}<ellipse cx="50" cy="50" rx="20" ry="10"/>`))[0]).toBeCloseTo(
      Math.PI * 200,
      -0.5,
    );
    expect(areas(svg(`${GROUND}<polygon points="10,10 50,10 10,40"/>`))[0]).toBeCloseTo(600, 1);
    expect(areas(svg(`${GROUND}<rect x="10" y="10" width="30" height="20" rx="5"/>`))[0]).toBeCloseTo(
      600 - (4 - Math.PI) * 25,
      0,
    );
    // A cubic with handles straight above its ends encloses 3/5 of their box (Green's theorem).
    expect(areas(svg(`${GROUND}<path d="M10 90 C10 60 50 60 50 90Z"/>`))[0]).toBeCloseTo(0.6 * 40 * 30, -0.5);
  });

  it('follows transforms of groups, and copies', () => {
    const one = '<path id="a" d="M0 0h10v10h-10z"/>';
    expect(
      areas(svg(`${GROUND}<g transform="translate(20 20) rotate(30) scale(2 3)">${one}</g>`))[0],
    ).toBeCloseTo(600, 1);
    expect(areas(svg(`${GROUND}${one}<use href="#a" x="40"/><use href="#a" y="40"/>`))[0]).toBeCloseTo(
      300,
      1,
    );
  });

  it('keeps holes by either fill rule', () => {
    const rings = 'M10 10h60v60h-60z M20 20h20v20h-20z';
    expect(areas(svg(`${GROUND}<path d="${rings}"/>`))[0]).toBeCloseTo(3600, 1);
    expect(areas(svg(`${GROUND}<path d="${rings}" fill-rule="evenodd"/>`))[0]).toBeCloseTo(3200, 1);
    expect(areas(svg(`${GROUND}<path d="M10 10h60v60h-60z M20 20v20h20v-20z"/>`))[0]).toBeCloseTo(3200, 1);
  });

  it('turns drawn lines into the region they cover', () => {
    const line = (more: string) =>
      areas(svg(`${GROUND}<path d="M20 50h40" fill="none" stroke="black" stroke-width="6" ${more}/>`))[0];
    expect(line('')).toBeCloseTo(240, 1);
    expect(line('stroke-linecap="square"')).toBeCloseTo(276, 1);
    expect(line('stroke-linecap="round"')).toBeCloseTo(240 + Math.PI * 9, 0);
    expect(line('transform="scale(1 2) translate(0 -20)"')).toBeCloseTo(480, 1);
  });

  it('cuts what lies under something else away, so that tones never overlap', () => {
    const { tones } = read(
      svg(
        `${GROUND}<rect x="10" y="10" width="60" height="60"/><rect x="30" y="30" width="60" height="60" fill="#888"/>`,
      ),
    );
    expect(tones.map((t) => Math.round(regionArea(t.region) * 1e4))).toEqual([2000, 3600, 4400]);
    for (const [i, a] of tones.entries())
      for (const b of tones.slice(i + 1)) expect(regionArea(common(a.region, b.region))).toBeLessThan(1e-9);
  });

  it('takes classes of style sheets and inline styles over attributes', () => {
    const text = svg(
      `<style>.d{fill:#000;stroke:none}</style>${GROUND}<rect class="d" fill="white" width="10" height="10"/><rect style="fill:#000" fill="white" x="20" width="10" height="10"/><rect style="display:none" x="50" width="10" height="10"/>`,
    );
    expect(areas(text)[0]).toBeCloseTo(200, 1);
  });

  it('mends outlines that cross themselves and says where', () => {
    const drawing = read(svg(`${GROUND}<path d="M20 20 L80 80 L80 20 L20 80Z"/>`));
    expect(drawing.mended).toHaveLength(1);
    expect(drawing.mended[0][0]).toBeCloseTo(0, 6);
    expect(crossings(drawing.tones[0].region)).toEqual([]);
    expect(regionArea(drawing.tones[0].region) * 1e4).toBeCloseTo(1800, 1);
  });

  it('gathers more colours than powders by how light they are', () => {
    const many = Array.from(
      { length: 9 },
      (_, i) => `<rect x="${10 * i}" width="8" height="8" fill="rgb(${i * 28},${i * 28},${i * 28})"/>`,
    );
    expect(read(svg(many.join(''))).tones.length).toBeLessThanOrEqual(4);
  });

  it('says what it left out', () => {
    const { notes } = read(svg(`${GROUND}<text>a</text><rect width="5" height="5" fill="url(#g)"/>`));
    expect(notes.join(' ')).toMatch(/Text is left out.*Gradients/);
  });
});

describe('a hostile drawing is refused, with the reason', () => {
  it.each<[string, string, RegExp]>([
    ['a script', svg('<script>alert(1)</script>'), /script/],
    ['a foreign page', svg('<foreignObject><iframe/></foreignObject>'), /foreign page/],
    ['something from elsewhere', svg('<image href="http://example.org/a.png"/>'), /elsewhere/],
    [
      'a copy of another file',
      svg('<use xlink:href="file:///etc/passwd#a" xmlns:xlink="http://www.w3.org/1999/xlink"/>'),
      /elsewhere/,
    ],
    [
      'entities',
      '<!DOCTYPE svg [<!ENTITY a "b">]><svg xmlns="http://www.w3.org/2000/svg"><text>&a;</text></svg>',
      /entities/,
    ],
    ...(['fill="black"', 'fill="none" stroke="black"'] as const).map((style): [string, string, RegExp] => [
      `19,000 corners that cross, ${style}`,
      svg(
        `<polygon ${style} points="${Array.from({ length: 19_000 }, (_, i) => `${(50 + 50 * Math.cos(2.4 * i)).toFixed(3)},${(50 + 50 * Math.sin(2.4 * i)).toFixed(3)}`).join(' ')}"/>`,
      ),
      /crosses itself in more than 5000 places/,
    ]),
    ['an entity that is not declared', svg('<text>&laugh;</text>'), /not a whole SVG/],
    ['copies without end', svg('<g id="a"><use href="#a"/></g>'), /without end/],
    [
      'copies of copies by the million',
      svg(
        `<defs><path id="a0" d="M0 0h1v1z"/>${Array.from({ length: 7 }, (_, i) => `<g id="a${i + 1}">${`<use href="#a${i}"/>`.repeat(10)}</g>`).join('')}</defs><use href="#a7"/>`,
      ),
      /copies|shapes/,
    ],
    ['a billion nodes', svg('<g/>'.repeat(30_000)), /elements/],
    ['groups without bottom', svg('<g>'.repeat(3000)), /deep/],
    ['more text than a drawing has', svg(' '.repeat(4_100_000)), /too large/],
    ['half a file', svg(`${GROUND}<path d="M0 0h10`).slice(0, 90), /not a whole SVG/],
    ['another kind of XML', '<html><body/></html>', /not an SVG/],
    ['no XML at all', 'GIF89a', /not a whole SVG/],
    ['nothing to fill', svg('<line x2="5"/>'), /no filled shape|no shape/],
    ['a path of nonsense', svg('<path d="M nan 12 L zz"/>'), /no filled shape/],
    ['too many corners', svg(`<path d="M0 0${'l1 0l0 1'.repeat(150_000)}"/>`), /corners/],
  ])('%s', (_name, text, reason) => {
    expect(refusal(text)).toMatch(reason);
  });
});
