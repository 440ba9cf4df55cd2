import { Box } from '@mui/material';
import { useLayoutEffect, useRef } from 'react';
import { type DiePair, FLAT_PAIR, facesOf, riseOf } from '../../../../core/flow/dies.ts';
import { type FlowDone, type FlowPass, type FlowSpec, outlineAfter } from '../../../../core/flow/run.ts';
import { boundingBox } from '../../../../core/geometry/outline.ts';
import type { Plan } from '../../../../core/plan/index.ts';
import { colours } from '../../ui/theme.ts';
import { SteelView } from '../steel/SteelView.tsx';
import { type Shading, paintShading } from './shading.ts';

/** How thick a die is drawn at its thinnest, of the widest section. */
const DIE_SHARE = 0.07;
/** mm. A node so near a die touches it. */
const TOUCHES = 1e-3;
/** mm. Dies that would meet are drawn so far apart. */
const APART = 1.2;
const PLACES = 96;

interface BetweenProps {
  plan: Plan;
  stepId: string;
  spec: FlowSpec;
  /** 0 before the first. */
  pass: number;
  stage: FlowDone | null;
  /** The pass itself, whose dies are drawn. */
  dies: FlowPass | null;
  shading: Shading | null;
  /** px. */
  width: number;
  height: number;
  /** Width and height that the section has at most in any pass, mm: all are drawn at one scale. */
  most: { widthMm: number; heightMm: number };
}

/** The section as it lies between its dies, with where they touch it. */
export function Between({
  plan,
  stepId,
  spec,
  pass,
  stage,
  dies,
  shading,
  width,
  height,
  most,
}: BetweenProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const thick = DIE_SHARE * most.widthMm;
  const perMm = Math.max(0.05, Math.min(width / (1.2 * most.widthMm), height / (most.heightMm + 2 * thick)));
  const outline = stage ? outlineAfter(spec, stage) : spec.outline;
  const box = boundingBox(outline);
  const [w, h] = [box.maxX - box.minX, box.maxY - box.minY];
  // A pass that only turns the bar back has no dies.
  const pair = stage && dies && stage.report.steps > 0 ? (dies.dies ?? FLAT_PAIR) : null;
  useLayoutEffect(() => {
    if (canvas.current && stage && shading) {
      const scale = window.devicePixelRatio || 1;
      [canvas.current.width, canvas.current.height] = [width * scale, height * scale];
      paintShading(canvas.current, spec, stage, shading, perMm * scale);
      canvas.current.dataset.painted = 'sharp';
    }
  }, [spec, stage, shading, perMm, width, height]);
  return (
    <Box sx={{ position: 'relative', width, height }}>
      <Box
        sx={{
          position: 'absolute',
          left: width / 2 + box.minX * perMm,
          top: height / 2 - box.maxY * perMm,
          visibility: shading ? 'hidden' : 'visible',
        }}
      >
        <SteelView
          plan={plan}
          stepId={stepId}
          when="before"
          face="middle"
          view="etched"
          width={Math.max(1, Math.round(w * perMm))}
          height={Math.max(1, Math.round(h * perMm))}
          urgency={0}
          passes={pass}
          label={pass === 0 ? 'The section before the first pass' : `The section after pass ${pass}`}
        />
      </Box>
      {shading && (
        <canvas ref={canvas} aria-hidden style={{ position: 'absolute', inset: 0, width, height }} />
      )}
      <svg
        width={width}
        height={height}
        viewBox={`${-width / 2 / perMm} ${-height / 2 / perMm} ${width / perMm} ${height / perMm}`}
        style={{ position: 'absolute', inset: 0 }}
        aria-hidden
      >
        {pair && stage && (
          <>
            <Dies
              pair={pair}
              heightMm={stage.report.heightMm}
              up={Math.max(box.maxY, stage.report.heightMm / 2) + thick}
              down={Math.min(box.minY, -stage.report.heightMm / 2) - thick}
              halfMm={0.6 * most.widthMm}
              thickMm={thick}
            />
            <path
              d={contactOf(outline, pair, stage.report.heightMm)}
              fill="none"
              stroke={colours.gilding}
              strokeWidth={3.5 / perMm}
              strokeLinecap="round"
            />
          </>
        )}
      </svg>
    </Box>
  );
}

interface DiesProps {
  pair: DiePair;
  heightMm: number;
  /** How far up and down their backs are drawn. */
  up: number;
  down: number;
  halfMm: number;
  thickMm: number;
}

/** Both dies and the side stops, seen along the bar; y downward. */
function Dies({ pair, heightMm, up, down, halfMm, thickMm }: DiesProps) {
  const xs = Array.from({ length: PLACES + 1 }, (_, i) => halfMm * ((2 * i) / PLACES - 1));
  const surfaces = xs.map((x) => {
    let above = heightMm / 2 + riseOf(pair.upper, x);
    let below = -heightMm / 2 - riseOf(pair.lower, x);
    if (above - below < APART) {
      if (pair.upper.kind === 'V' && pair.lower.kind === 'V') [above, below] = [APART / 2, -APART / 2];
      else if (pair.lower.kind === 'V') below = above - APART;
      else above = below + APART;
    }
    return [Math.min(above, up), Math.max(below, down)] as const;
  });
  const path = (k: 0 | 1) => {
    const back = -[up, down][k];
    return `M${-halfMm},${back} ${xs.map((x, i) => `L${x},${-surfaces[i][k]}`).join(' ')} L${halfMm},${back} Z`;
  };
  return (
    <>
      {([0, 1] as const).map((k) => (
        <path key={k} d={path(k)} fill="#6d6a64" />
      ))}
      {pair.stopsMm !== null &&
        [-1, 1].map((side) => (
          <rect
            key={side}
            x={side > 0 ? pair.stopsMm! / 2 : -pair.stopsMm! / 2 - thickMm / 2}
            y={-0.35 * heightMm}
            width={thickMm / 2}
            height={0.7 * heightMm}
            fill="#6d6a64"
          />
        ))}
    </>
  );
}

/** Where the outline lies on a die, as a path; y downward. */
function contactOf(outline: readonly (readonly [number, number])[], pair: DiePair, heightMm: number): string {
  const faces = facesOf(pair);
  const touches = outline.map(([x, y]) =>
    faces.some((face) => Math.abs(face.clear(x, y, heightMm).gap) < TOUCHES),
  );
  return outline
    .map(([x, y], i) => {
      const next = (i + 1) % outline.length;
      return touches[i] && touches[next] ? `M${x},${-y} L${outline[next][0]},${-outline[next][1]}` : '';
    })
    .join(' ');
}
