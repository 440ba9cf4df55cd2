import { Canvas, extend, useFrame, useThree } from '@react-three/fiber';
import { useEffect, useLayoutEffect, useMemo, useRef } from 'react';
import {
  BufferGeometry,
  type CanvasTexture,
  Color,
  Float32BufferAttribute,
  type Group,
  Matrix4,
  Quaternion,
  ShapeUtils,
  Vector2,
  Vector3,
} from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
import type { Material } from '../../../../core/materials/material.ts';
import { type Facet, dot, normalOf, plus, rotated, scaled } from '../../../../core/pose/solid.ts';
import type { Scene } from '../../../../core/pose/scenes.ts';
import { type Box, type Thing, boxOf, windowOf } from '../../../../core/pose/thing.ts';
import { type Faces, type Shown, faceName, useFaces } from './useFaces.ts';

extend({ OrbitControls });

/** How long things take to their places, s. */
const UNDER_WAY_S = 1.4;

interface StageProps {
  readonly scene: Scene;
  /** What lay there before; the same where nothing is played. */
  readonly before: Scene;
  readonly shown: Shown;
  readonly materials: readonly Material[];
  readonly ground: string;
  /** Everything is in its place. */
  onThere(): void;
}

/** The pieces as they lie, in three dimensions; turned by touch or mouse. */
export default function Stage({ ground, ...props }: StageProps) {
  return (
    <Canvas
      frameloop="demand"
      flat
      camera={{ fov: FIELD_DEG, near: 1, far: 20_000, position: [1, 1, 1] }}
      style={{ background: ground, touchAction: 'none' }}
      aria-hidden
    >
      <ambientLight intensity={1.7} />
      <directionalLight position={[-0.4, 1, 0.8]} intensity={1.6} />
      <View scene={props.scene} />
      <Things {...props} />
    </Canvas>
  );
}

/** How near the camera has to come to where it goes, as a share of the way. */
const NEAR = 0.01;
/** From the middle of what is looked at: in front, a little from above and the right. */
const FROM = new Vector3(0.42, 0.4, 0.85).normalize();

const FIELD_DEG = 32;
const UPRIGHT = new Vector3(0, 1, 0);
/** So much room about what is looked at. */
const ROOM = 1.12;

/** How far away, mm, all of a box is seen from a direction, over a view so many times as wide as high. */
function distanceFor({ low, high }: Box, from: Vector3, aspect: number): number {
  const middle = new Vector3(...low).add(new Vector3(...high)).multiplyScalar(0.5);
  const right = new Vector3().crossVectors(UPRIGHT, from).normalize();
  const up = new Vector3().crossVectors(from, right);
  const tall = Math.tan((FIELD_DEG * Math.PI) / 360) / ROOM;
  const corners = [low[0], high[0]].flatMap((x) =>
    [low[1], high[1]].flatMap((y) => [low[2], high[2]].map((z) => new Vector3(x, y, z).sub(middle))),
  );
  return Math.max(
    ...corners.map(
      (p) => p.dot(from) + Math.max(Math.abs(p.dot(up)) / tall, Math.abs(p.dot(right)) / (tall * aspect)),
    ),
  );
}

/** Looks at what lies there; turned by hand it stays as it was turned, and follows what is shown next. */
function View({ scene }: { scene: Scene }) {
  const { camera, gl, invalidate, size } = useThree();
  const controls = useRef<OrbitControls | null>(null);
  const goal = useRef({ middle: new Vector3(), away: 1 });
  const going = useRef(true);
  useLayoutEffect(() => {
    const own = new OrbitControls(camera, gl.domElement);
    controls.current = own;
    own.addEventListener('change', () => invalidate());
    // Whoever takes it in hand is not led away.
    own.addEventListener('start', () => {
      going.current = false;
    });
    return () => own.dispose();
  }, [camera, gl, invalidate]);
  const first = useRef(true);
  useLayoutEffect(() => {
    const own = controls.current;
    if (!own) return;
    const room = boxOf(scene.things);
    const from = first.current ? FROM : camera.position.clone().sub(own.target).normalize();
    const middle = new Vector3(...room.low).add(new Vector3(...room.high)).multiplyScalar(0.5);
    goal.current = { middle, away: distanceFor(room, from, size.width / size.height) };
    going.current = true;
    if (first.current) {
      own.target.copy(middle);
      camera.position.copy(middle).addScaledVector(from, goal.current.away);
      own.update();
      first.current = false;
    }
    invalidate();
  }, [scene, camera, invalidate, size.width, size.height]);
  useFrame((_, seconds) => {
    const own = controls.current;
    if (!own || !going.current) return;
    const { middle, away } = goal.current;
    const offset = camera.position.clone().sub(own.target);
    const left = own.target.distanceTo(middle) / away + Math.abs(offset.length() / away - 1);
    const share = left < NEAR ? 1 : 1 - Math.exp(-4 * Math.min(seconds, 0.05));
    own.target.lerp(middle, share);
    offset.setLength(offset.length() + (away - offset.length()) * share);
    camera.position.copy(own.target).add(offset);
    own.update();
    if (left < NEAR) going.current = false;
    else invalidate();
  });
  return null;
}

function Things({ scene, before, shown, materials, onThere }: Omit<StageProps, 'ground'>) {
  const { things } = scene;
  const faces = useFaces(things, shown);
  const { invalidate } = useThree();
  const progress = useRef(1);
  const calm = useMemo(() => matchMedia('(prefers-reduced-motion: reduce)').matches, []);
  useLayoutEffect(() => {
    progress.current = scene === before || calm ? 1 : 0;
    invalidate();
  }, [scene, before, calm, invalidate]);
  const there = useRef<Scene | null>(null);
  useFrame((_, seconds) => {
    if (progress.current < 1) {
      progress.current = Math.min(1, progress.current + Math.min(seconds, 0.05) / UNDER_WAY_S);
      invalidate();
    } else if (there.current !== scene) {
      there.current = scene;
      onThere();
    }
  });
  const dies = useMemo(() => (scene.dies ? boxOf(things) : null), [scene, things]);
  return (
    <>
      {things.map((thing) => (
        <OneThing
          key={thing.name}
          thing={thing}
          was={before.things.find((t) => t.name === thing.name) ?? thing}
          rolls={scene.rolls}
          progress={progress}
          faces={faces}
          materials={materials}
        />
      ))}
      {dies &&
        ([dies.low[1], dies.high[1]] as const).map((y, i) => {
          const [wide, long] = [dies.high[0] - dies.low[0], dies.high[2] - dies.low[2]];
          const tall = 0.25 * (dies.high[1] - dies.low[1]);
          return (
            <mesh
              key={i}
              position={[
                (dies.low[0] + dies.high[0]) / 2,
                y + (i === 0 ? -1 : 1) * tall * 0.75,
                (dies.low[2] + dies.high[2]) / 2,
              ]}
            >
              <boxGeometry args={[wide * 1.3, tall, long * 0.35]} />
              <meshStandardMaterial color="#55504a" />
            </mesh>
          );
        })}
    </>
  );
}

interface OneThingProps {
  thing: Thing;
  was: Thing;
  rolls: boolean;
  progress: React.RefObject<number>;
  faces: Faces;
  materials: readonly Material[];
}

const quaternionOf = ({ turn: [a, b, c] }: Thing): Quaternion =>
  new Quaternion().setFromRotationMatrix(new Matrix4().set(...a, 0, ...b, 0, ...c, 0, 0, 0, 0, 1));

/** The middle of what is there, own. */
function ownMiddle({ parts }: Thing): [number, number, number] {
  const points = parts.flatMap((s) => s.facets.flatMap((f) => f.points));
  return [0, 1, 2].map((i) => {
    const all = points.map((p) => p[i]);
    return (Math.min(...all) + Math.max(...all)) / 2;
  }) as [number, number, number];
}

const smooth = (t: number): number => t * t * (3 - 2 * t);
const LENGTHWISE = new Vector3(0, 0, 1);

function OneThing({ thing, was, rolls, progress, faces, materials }: OneThingProps) {
  const group = useRef<Group>(null);
  const way = useMemo(() => {
    const middle = ownMiddle(thing);
    const at = (t: Thing) => new Vector3(...plus(rotated(t.turn, middle), t.shift));
    const [from, to] = [at(was), at(thing)];
    const [turnFrom, turnTo] = [quaternionOf(was), quaternionOf(thing)];
    const { low, high } = boxOf([thing]);
    // What is turned or carried is lifted off the bench first.
    const lift = turnFrom.angleTo(turnTo) > 0.01 || from.distanceTo(to) > 1 ? 0.6 * (high[1] - low[1]) : 0;
    return { middle: new Vector3(...middle), from, to, turnFrom, turnTo, lift };
  }, [thing, was]);
  useFrame(() => {
    const own = group.current;
    if (!own) return;
    const t = smooth(progress.current);
    own.quaternion.slerpQuaternions(way.turnFrom, way.turnTo, t);
    if (rolls) {
      const roll = (Math.PI / 2) * Math.sin(Math.PI * t) ** 2;
      own.quaternion.premultiply(new Quaternion().setFromAxisAngle(LENGTHWISE, -roll));
    }
    own.position.lerpVectors(way.from, way.to, t);
    own.position.y += way.lift * Math.sin(Math.PI * t);
    own.position.sub(way.middle.clone().applyQuaternion(own.quaternion));
  });
  return (
    <group ref={group}>
      {thing.parts.map((solid, i) =>
        solid.facets.map((facet, k) => (
          <Face
            key={`${i} ${k}`}
            facet={facet}
            map={faces.get(faceName(thing, facet)) ?? null}
            tone={typeof solid.of === 'string' ? toneOf(materials, solid.of) : '#8d8a85'}
          />
        )),
      )}
    </group>
  );
}

function toneOf(materials: readonly Material[], name: string): string {
  const found = materials.find((m) => m.name === name || m.id === name);
  if (!found) return '#8d8a85';
  const [r, g, b] = (found.tint ?? [255, 255, 255]).map((c) => Math.round(c * found.tone));
  return `rgb(${r}, ${g}, ${b})`;
}

function Face({ facet, map, tone }: { facet: Facet; map: CanvasTexture | null; tone: string }) {
  const { invalidate } = useThree();
  const geometry = useMemo(() => geometryOf(facet), [facet]);
  useEffect(() => () => geometry.dispose(), [geometry]);
  useEffect(() => invalidate(), [map, invalidate]);
  return (
    <mesh geometry={geometry}>
      <meshStandardMaterial
        key={map ? 'painted' : 'plain'}
        map={map}
        color={map ? '#ffffff' : new Color(tone)}
        roughness={0.9}
      />
    </mesh>
  );
}

function geometryOf(facet: Facet): BufferGeometry {
  const { origin, across, up, widthMm, heightMm } = windowOf(facet);
  const flat = facet.points.map((p) => {
    const from = plus(p, origin, -1);
    return new Vector2(dot(from, across), dot(from, up));
  });
  const corners = ShapeUtils.triangulateShape(flat, []).flat();
  const n = normalOf(facet);
  const geometry = new BufferGeometry();
  geometry.setAttribute(
    'position',
    new Float32BufferAttribute(
      corners.flatMap((i) => [...facet.points[i]]),
      3,
    ),
  );
  geometry.setAttribute(
    'normal',
    new Float32BufferAttribute(
      corners.flatMap(() => [...scaled(n, 1)]),
      3,
    ),
  );
  geometry.setAttribute(
    'uv',
    new Float32BufferAttribute(
      corners.flatMap((i) => [flat[i].x / widthMm, flat[i].y / heightMm]),
      2,
    ),
  );
  return geometry;
}
