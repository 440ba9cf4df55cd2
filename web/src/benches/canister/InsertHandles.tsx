import ContentCopyIcon from '@mui/icons-material/ContentCopy';
import { Box, Button, Stack } from '@mui/material';
import { type KeyboardEvent, useState } from 'react';
import { Circle, Group, Layer, Rect, Stage } from 'react-konva';
import { quantitiesOf } from '../../../../core/units/index.ts';
import { type Can, roomOf } from '../../../../core/canister/can.ts';
import {
  type Insert,
  type Place,
  halfSizes,
  insertSchema,
  isBall,
  isBent,
  isRound,
} from '../../../../core/canister/inserts.ts';
import { allPlaced, insideBent, layOut } from '../../../../core/canister/layout.ts';
import {
  type Alignment,
  type PlacedInsert,
  aligned,
  copied,
  freed,
  snapped,
} from '../../../../core/canister/placing.ts';
import { QuantityField } from '../../ui/fields/QuantityField.tsx';
import { colours } from '../../ui/theme.ts';
import { setParameters } from '../../document/planStore.ts';

interface InsertHandlesProps {
  stepId: string;
  can: Can;
  /** Where the section is taken, from the near cap. mm */
  sectionMm: number;
  /** px to the mm. */
  scale: number;
  width: number;
  height: number;
}

/** One insert: of which kind, and which of that kind. */
interface Handle {
  readonly kind: number;
  readonly at: number;
}

/** mm that an arrow key moves by, and with Shift. */
const NUDGE_MM = 0.5;
const FINE_MM = 0.1;

/** Over the can's section: every insert can be dragged (it snaps), chosen with others, aligned, copied and nudged. */
export function InsertHandles({ stepId, can, sectionMm, scale, width, height }: InsertHandlesProps) {
  const [chosen, setChosen] = useState<readonly Handle[]>([]);
  const room = roomOf(can);
  const handles = can.inserts.flatMap((insert, kind) =>
    layOut(can.inserts, room)[kind].map((place, at) => ({
      kind,
      at,
      insert,
      place,
      reach: reachAt(insert, place, sectionMm),
    })),
  );
  const lying = (kind: number) => layOut(can.inserts, room)[kind];
  // Rods that are bent round the wall have no place of their own.
  const shown = handles.filter((h) => h.reach > 0 && !isBent(h.insert));
  const isChosen = (h: Handle) => chosen.some((c) => c.kind === h.kind && c.at === h.at);
  const change = (inserts: Insert[], what: string) =>
    setParameters(stepId, { ...can, inserts }, `inserts ${what}`);
  const replace = (kind: number, insert: Insert, what: string) =>
    change(
      can.inserts.map((o, k) => (k === kind ? insert : o)),
      what,
    );
  const moveTo = ({ kind, at }: Handle, [x, y]: readonly [number, number], snap: boolean) => {
    const insert = freed(can.inserts[kind], lying(kind));
    const others = allPlaced(can.inserts, room).filter(
      (p) => !(p.insert === can.inserts[kind] && p.x === insert.places[at].x && p.y === insert.places[at].y),
    );
    const [sx, sy] = snap ? snapped([x, y], insert, others, insideBent(can.inserts, room)) : [x, y];
    const places = insert.places.map((p, i) => (i === at ? { ...p, x: sx, y: sy } : p));
    replace(kind, { ...insert, places }, `move ${kind}`);
  };
  /** Chosen ones of one kind act together. */
  const kind = chosen[0]?.kind ?? -1;
  const mine = chosen.filter((c) => c.kind === kind).map((c) => c.at);
  const act = (to: (insert: PlacedInsert) => Insert, what: string) =>
    replace(kind, to(freed(can.inserts[kind], lying(kind))), what);
  const align = (how: Alignment) =>
    act((insert) => ({ ...insert, places: aligned(insert.places, mine, how) }), how);
  const place = (some: Partial<Place>) =>
    act(
      (insert) => ({
        ...insert,
        places: insert.places.map((p, i) => (i === mine[0] ? { ...p, ...some } : p)),
      }),
      'place',
    );
  const remove = () => {
    const insert = freed(can.inserts[kind], lying(kind));
    const places = insert.places.filter((_, i) => !mine.includes(i));
    setChosen([]);
    if (places.length === 0)
      change(
        can.inserts.filter((_, k) => k !== kind),
        'take out',
      );
    else replace(kind, { ...insert, places, count: places.length }, 'take out');
  };
  const keys = (key: KeyboardEvent) => {
    // What is typed into a field is for the field.
    if (key.target instanceof HTMLInputElement) return;
    const step = key.shiftKey ? FINE_MM : NUDGE_MM;
    const ways: Record<string, [number, number]> = {
      ArrowLeft: [-step, 0],
      ArrowRight: [step, 0],
      ArrowUp: [0, step],
      ArrowDown: [0, -step],
    };
    const next = (by: number) => {
      if (shown.length === 0) return;
      const now = shown.findIndex(isChosen);
      const { kind: k, at } = shown[(now + by + shown.length) % shown.length];
      setChosen([{ kind: k, at }]);
    };
    if (key.key === 'n') next(1);
    else if (key.key === 'p') next(-1);
    else if (key.key in ways && mine.length > 0) {
      const [dx, dy] = ways[key.key];
      const nudge = (p: Place, i: number): Place =>
        mine.includes(i) ? { ...p, x: p.x + dx, y: p.y + dy } : p;
      act((insert) => ({ ...insert, places: insert.places.map(nudge) }), 'nudge');
    } else if (key.key === 'c' && mine.length > 0) act((insert) => copied(insert, mine, room), 'copy');
    else if (key.key === 'Delete' && mine.length > 0) remove();
    else return;
    key.preventDefault();
    key.stopPropagation();
  };
  const toX = (x: number) => width / 2 + x * scale;
  const toY = (y: number) => height / 2 - y * scale;
  return (
    <Box
      tabIndex={0}
      role="application"
      aria-label="Inserts: N and P choose one, arrows nudge it, C copies it, Delete takes it out"
      onKeyDown={keys}
      sx={{ position: 'absolute', inset: 0 }}
    >
      <Stage width={width} height={height} onClick={(e) => e.target === e.target.getStage() && setChosen([])}>
        <Layer>
          {shown.map((h) => {
            const [a, b] = halfSizes(h.insert);
            const on = isChosen(h);
            const look = {
              stroke: on ? colours.gilding : 'rgba(143,45,34,0.55)',
              strokeWidth: on ? 3 : 1,
              fill: 'rgba(0,0,0,0.001)',
            };
            return (
              <Group
                key={`${h.kind} ${h.at}`}
                x={toX(h.place.x)}
                y={toY(h.place.y)}
                draggable
                onMouseDown={(e) => {
                  const self = { kind: h.kind, at: h.at };
                  if (e.evt.shiftKey)
                    setChosen(
                      on ? chosen.filter((c) => !(c.kind === h.kind && c.at === h.at)) : [...chosen, self],
                    );
                  else if (!on) setChosen([self]);
                }}
                onTouchStart={() => setChosen([{ kind: h.kind, at: h.at }])}
                onDragEnd={(e) => {
                  const { x, y } = e.target.position();
                  e.target.position({ x: toX(h.place.x), y: toY(h.place.y) });
                  moveTo(h, [(x - width / 2) / scale, (height / 2 - y) / scale], !e.evt.altKey);
                }}
              >
                {isRound(h.insert) ? (
                  <Circle radius={h.reach * scale} {...look} />
                ) : (
                  <Rect
                    x={-a * scale}
                    y={-b * scale}
                    width={2 * a * scale}
                    height={2 * b * scale}
                    {...look}
                  />
                )}
              </Group>
            );
          })}
        </Layer>
      </Stage>
      {mine.length > 0 && (
        <Stack
          direction="row"
          useFlexGap
          spacing={0.5}
          sx={{
            position: 'absolute',
            top: 4,
            left: 4,
            flexWrap: 'wrap',
            background: colours.paper,
            border: `1px solid ${colours.line}`,
            borderRadius: 1,
          }}
        >
          <Button
            size="small"
            startIcon={<ContentCopyIcon />}
            onClick={() => act((i) => copied(i, mine, room), 'copy')}
          >
            Copy
          </Button>
          {mine.length > 1 &&
            (['in a row', 'in a column', 'spread across', 'spread up'] as const).map((how) => (
              <Button key={how} size="small" onClick={() => align(how)}>
                {how[0].toUpperCase() + how.slice(1)}
              </Button>
            ))}
          <Button size="small" onClick={remove}>
            Take out
          </Button>
          {mine.length === 1 && (
            <PlaceFields insert={can.inserts[kind]} place={lying(kind)[mine[0]]} put={place} />
          )}
        </Stack>
      )}
    </Box>
  );
}

/** How large an insert is cut where the section is taken; 0 where it is not. */
function reachAt(insert: Insert, place: Place, sectionMm: number): number {
  const [a] = halfSizes(insert);
  if (!isBall(insert)) return a;
  return Math.sqrt(Math.max(0, a * a - (place.z - sectionMm) ** 2));
}

const of = quantitiesOf(insertSchema);

/** Where the middle of the chosen one lies, in numbers: from the can's axis, and of balls from the near cap. */
function PlaceFields({
  insert,
  place,
  put,
}: {
  insert: Insert;
  place: Place | undefined;
  put(some: Partial<Place>): void;
}) {
  if (!place) return null;
  return (
    <>
      <QuantityField of={of('places.x')} width={120} value={place.x} onChange={(x) => put({ x })} />
      <QuantityField of={of('places.y')} width={120} value={place.y} onChange={(y) => put({ y })} />
      {isBall(insert) && (
        <QuantityField of={of('places.z')} width={120} value={place.z} onChange={(z) => put({ z })} />
      )}
    </>
  );
}
