import { Box } from '@mui/material';
import { type V3, dot, normalOf, plus, rotated, scaled } from '../../../../core/pose/solid.ts';
import type { Scene } from '../../../../core/pose/scenes.ts';
import { endOf } from '../../../../core/pose/thing.ts';

/** Where it is looked from: in front, from above and the right. */
const RIGHT: V3 = [0.894, 0, -0.447];
const UP: V3 = [-0.17, 0.924, -0.341];
const TO_EYE: V3 = [0.413, 0.381, 0.827];

/** The same in plain lines, for a browser that has no three dimensions: every face that looks this way, the nearest last. */
export function Drawn({ scene, ink, ground }: { scene: Scene; ink: string; ground: string }) {
  const faces = scene.things
    .flatMap((thing) =>
      thing.parts.flatMap(({ facets }) =>
        facets.flatMap((facet) => {
          const world = facet.points.map((p) => plus(rotated(thing.turn, p), thing.shift));
          const facing = dot(rotated(thing.turn, normalOf(facet)), TO_EYE);
          if (facing <= 1e-6) return [];
          const middle = scaled(
            world.reduce((sum, p) => plus(sum, p), [0, 0, 0] as V3),
            1 / world.length,
          );
          const flat = (p: V3) => [dot(p, RIGHT), -dot(p, UP)] as const;
          const text = endOf(thing, facet) ? `${thing.name} ${endOf(thing, facet)}` : '';
          const tall = Math.max(...world.map((p) => p[1])) - Math.min(...world.map((p) => p[1]));
          return [{ points: world.map(flat), at: flat(middle), depth: dot(middle, TO_EYE), text, tall }];
        }),
      ),
    )
    .sort((a, b) => a.depth - b.depth);
  const all = faces.flatMap((f) => f.points);
  const [xs, ys] = [all.map(([x]) => x), all.map(([, y]) => y)];
  const [left, top] = [Math.min(...xs), Math.min(...ys)];
  const [wide, high] = [Math.max(...xs) - left, Math.max(...ys) - top];
  const edge = 0.04 * Math.max(wide, high);
  return (
    <Box
      component="svg"
      aria-hidden
      viewBox={`${left - edge} ${top - edge} ${wide + 2 * edge} ${high + 2 * edge}`}
      sx={{ width: '100%', height: '100%' }}
    >
      {faces.map(({ points, at, text, tall }, i) => (
        <g key={i}>
          <polygon points={points.join(' ')} fill={ground} stroke={ink} strokeWidth={edge / 14} />
          {text && (
            <text
              x={at[0]}
              y={at[1]}
              fontSize={tall * 0.3}
              textAnchor="middle"
              dominantBaseline="middle"
              fill={ink}
            >
              {text}
            </text>
          )}
        </g>
      ))}
    </Box>
  );
}
