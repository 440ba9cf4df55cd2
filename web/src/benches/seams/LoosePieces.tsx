import type { Outline } from '../../../../core/geometry/outline.ts';
import type { LoosePiece } from '../../../../core/loose/pieces.ts';
import { SHUT_MM } from '../../../../core/loose/seams.ts';
import type { SeamPressed } from '../../../../core/loose/stored.ts';
import { colours } from '../../ui/theme.ts';

/** How thick a die is drawn, of the widest state. */
const DIE_SHARE = 0.05;
const STEEL = '#dcd6c8';
const SHEET = '#c3bba9';
const DIE = '#6d6a64';

/** What of a state is drawn. */
export type Drawn = Readonly<
  Pick<SeamPressed, 'widthMm' | 'heightMm'> & {
    outlines: readonly Outline[];
    seams: readonly Pick<SeamPressed['seams'][number], 'places' | 'gapsMm'>[];
  }
>;

interface LoosePiecesProps {
  state: Drawn;
  /** All of them, which are drawn at one scale. */
  states: readonly Drawn[];
  /** Whether it lies between the dies. */
  pressed: boolean;
  pieces: readonly LoosePiece[];
  /** How many times as wide gaps are drawn. */
  times: number;
  /** The seam that is pointed at. */
  pointed: number | null;
  /** px. */
  width: number;
  height: number;
}

const pathOf = (outline: readonly (readonly [number, number])[]): string =>
  `M${outline.map(([x, y]) => `${x},${-y}`).join('L')}Z`;

/** The pieces between the dies; where seams stand open, a band so many times as wide. */
export function LoosePieces({
  state,
  states,
  pressed,
  pieces,
  times,
  pointed,
  width,
  height,
}: LoosePiecesProps) {
  const wide = Math.max(...states.map((s) => s.widthMm));
  const high = Math.max(...states.map((s) => s.heightMm));
  const die = DIE_SHARE * Math.max(wide, high);
  const perMm = Math.min(width / (1.08 * wide), height / (high + 2 * die));
  const halfMm = 0.54 * wide;
  return (
    <svg
      width={width}
      height={height}
      role="img"
      viewBox={`${-width / 2 / perMm} ${-height / 2 / perMm} ${width / perMm} ${height / perMm}`}
      aria-label={pressed ? 'The pieces between the dies' : 'The pieces before the first press'}
    >
      {pressed && (
        <>
          <rect x={-halfMm} y={-state.heightMm / 2 - die} width={2 * halfMm} height={die} fill={DIE} />
          <rect x={-halfMm} y={state.heightMm / 2} width={2 * halfMm} height={die} fill={DIE} />
        </>
      )}
      <Steel state={state} pieces={pieces} line={1 / perMm} />
      {state.seams.map((seam, i) => (
        <SeamBand key={i} seam={seam} times={times} line={1.6 / perMm} pointed={pointed === i} />
      ))}
      {state.outlines.map((outline, k) => {
        const [x, y] = [0, 1].map((c) => outline.reduce((sum, p) => sum + p[c], 0) / outline.length);
        const thin = Math.min(...spans(outline)) * perMm < 20;
        return thin ? null : (
          <text
            key={k}
            x={x}
            y={-y}
            fontSize={17 / perMm}
            textAnchor="middle"
            dominantBaseline="central"
            fill={colours.ink}
          >
            {pieces[k].name}
          </text>
        );
      })}
    </svg>
  );
}

const spans = (outline: readonly (readonly [number, number])[]): [number, number] => {
  const span = (c: 0 | 1) => Math.max(...outline.map((p) => p[c])) - Math.min(...outline.map((p) => p[c]));
  return [span(0), span(1)];
};

export function Steel({
  state,
  pieces,
  line,
}: {
  state: Pick<Drawn, 'outlines'>;
  pieces: readonly LoosePiece[];
  line: number;
}) {
  return (
    <>
      {state.outlines.map((outline, k) => (
        <path
          key={k}
          d={pathOf(outline)}
          fill={pieces[k].bought ? SHEET : STEEL}
          stroke={colours.ink}
          strokeWidth={line}
        />
      ))}
    </>
  );
}

interface SeamBandProps {
  seam: Drawn['seams'][number];
  times: number;
  line: number;
  pointed: boolean;
}

/** A seam: dark where it is shut, and where it stands open a red band so many times as wide as the gap. */
function SeamBand({ seam, times, line, pointed }: SeamBandProps) {
  const { places, gapsMm } = seam;
  const [[x0, y0], [x1, y1]] = [places[0], places[places.length - 1]];
  const length = Math.hypot(x1 - x0, y1 - y0) || 1;
  const [nx, ny] = [(y1 - y0) / length, -(x1 - x0) / length];
  const edge = (side: 1 | -1) =>
    places.map(([x, y], i) => {
      const gap = gapsMm[i] ?? 0;
      const off = gap / 2 + (side * times * (gap > SHUT_MM ? gap : 0)) / 2;
      return [x + nx * off, y + ny * off] as const;
    });
  const band = [...edge(1), ...edge(-1).reverse()];
  return (
    <>
      {pointed && (
        <line
          x1={x0}
          y1={-y0}
          x2={x1}
          y2={-y1}
          stroke={colours.gilding}
          strokeWidth={6 * line}
          strokeLinecap="round"
          strokeOpacity={0.6}
        />
      )}
      <path d={pathOf(band)} fill={colours.alarm} fillOpacity={0.85} />
      {places.slice(1).map(([x, y], i) => {
        const [px, py] = places[i];
        const shut = (gapsMm[i] ?? 1) <= SHUT_MM && (gapsMm[i + 1] ?? 1) <= SHUT_MM;
        return shut ? (
          <line
            key={i}
            x1={px}
            y1={-py}
            x2={x}
            y2={-y}
            stroke={colours.verdigris}
            strokeWidth={1.5 * line}
            strokeLinecap="round"
          />
        ) : null;
      })}
    </>
  );
}
