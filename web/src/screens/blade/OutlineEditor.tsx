import { quantitiesOf } from '../../../../core/units/index.ts';
import { Box, Typography } from '@mui/material';
import { type KeyboardEvent, useState } from 'react';
import { Circle, Group, Layer, Line, Stage } from 'react-konva';
import { type Billet, sizeOf } from '../../../../core/billet/billet.ts';
import { type Blade, OUTLINE_SPAN, bladeSchema } from '../../../../core/blade/index.ts';
import { colours } from '../../ui/theme.ts';

interface OutlineEditorProps {
  bar: Billet;
  blade: Blade;
  width: number;
  height: number;
  change(some: Partial<Blade>): void;
}

/** Share of the blade that an arrow key moves a point. */
const NUDGE = 0.01;

/** The outline over the bar's face: drag the blade, drag its points; by keyboard, choose a point and nudge it. */
export function OutlineEditor({ bar, blade, width, height, change }: OutlineEditorProps) {
  const [chosen, setChosen] = useState<number | null>(null);
  const { widthMm } = sizeOf(bar);
  const perMm = width / bar.lengthMm;
  // Screen y runs down, the bar's x runs up.
  const toX = (u: number) => u * blade.lengthMm * perMm;
  const toY = (v: number) => (1 - v) * blade.heightMm * perMm;
  const left = blade.heelMm * perMm;
  const top = (widthMm / 2 - blade.acrossMm - blade.heightMm / 2) * perMm;
  const movePoint = (i: number, u: number, v: number) =>
    change({
      outline: blade.outline.map((p, k) => (k === i ? [clamp(u), clamp(v)] : p)),
    });
  const tang = {
    x: -blade.tangLengthMm * perMm,
    y: (toY(blade.outline[0][1]) + toY(0)) / 2 - (blade.tangHeightMm * perMm) / 2,
  };
  const keys = (key: KeyboardEvent) => {
    const count = blade.outline.length;
    const step: Record<string, [number, number]> = {
      ArrowLeft: [-NUDGE, 0],
      ArrowRight: [NUDGE, 0],
      ArrowUp: [0, NUDGE],
      ArrowDown: [0, -NUDGE],
    };
    if (key.key === 'n') setChosen(((chosen ?? -1) + 1) % count);
    else if (key.key === 'p') setChosen(((chosen ?? count) - 1 + count) % count);
    else if (key.key in step && chosen !== null) {
      const [du, dv] = step[key.key];
      movePoint(chosen, blade.outline[chosen][0] + du, blade.outline[chosen][1] + dv);
    } else if (key.key === 'Delete' && chosen !== null && count > 4) {
      change({ outline: blade.outline.filter((_, i) => i !== chosen) });
      setChosen(null);
    } else return;
    key.preventDefault();
    key.stopPropagation();
  };
  return (
    <Box
      tabIndex={0}
      role="application"
      aria-label="Outline on the bar: N and P choose a point, arrows move it, Delete takes it out"
      onKeyDown={keys}
      sx={{ position: 'absolute', inset: 0 }}
    >
      <Stage width={width} height={height}>
        <Layer>
          <Group
            x={left}
            y={top}
            draggable
            onDragEnd={(e) => {
              if (e.target !== e.currentTarget) return;
              const { x, y } = e.currentTarget.position();
              const heelMm = Math.max(0, x / perMm);
              const acrossMm = widthMm / 2 - blade.heightMm / 2 - y / perMm;
              e.currentTarget.position({ x: left, y: top });
              change({ heelMm, acrossMm: Math.max(across.least, Math.min(across.most, acrossMm)) });
            }}
          >
            <Line
              points={[
                tang.x,
                tang.y,
                0,
                tang.y,
                0,
                tang.y + blade.tangHeightMm * perMm,
                tang.x,
                tang.y + blade.tangHeightMm * perMm,
              ]}
              closed
              stroke={colours.oxide}
              strokeWidth={2}
              fill="rgba(255,253,247,0.35)"
            />
            <Line
              points={blade.outline.flatMap(([u, v]) => [toX(u), toY(v)])}
              closed
              stroke={colours.oxide}
              strokeWidth={2.5}
              fill="rgba(255,253,247,0.22)"
            />
            {blade.outline.map(([u, v], i) => (
              <Circle
                key={i}
                x={toX(u)}
                y={toY(v)}
                radius={i === chosen ? 8 : 5}
                hitStrokeWidth={14}
                fill={i === chosen ? colours.gilding : colours.paper}
                stroke={colours.oxide}
                strokeWidth={1.5}
                draggable
                onMouseDown={() => setChosen(i)}
                onDragEnd={(e) => {
                  e.cancelBubble = true;
                  movePoint(
                    i,
                    e.target.x() / perMm / blade.lengthMm,
                    1 - e.target.y() / perMm / blade.heightMm,
                  );
                }}
              />
            ))}
          </Group>
        </Layer>
      </Stage>
      {chosen !== null && (
        <Typography
          variant="body2"
          aria-live="polite"
          sx={{ position: 'absolute', right: 4, top: -20, color: colours.faded }}
        >
          point {chosen + 1} of {blade.outline.length}
        </Typography>
      )}
    </Box>
  );
}

const across = quantitiesOf(bladeSchema)('acrossMm');
const clamp = (share: number): number => Math.max(OUTLINE_SPAN[0], Math.min(OUTLINE_SPAN[1], share));
