import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useThree } from '@react-three/fiber';
import { useContext, useEffect, useMemo } from 'react';
import * as THREE from 'three';
import { getJson } from '../api/client';
import { ShotContext } from '../shot/context';
import { clock } from '../state/frame';
import { useView } from '../state/view';

interface Outline {
  layer: number;
  shape: keyof typeof SHAPES;
  inShot: boolean;
  /** Position, rotation and half size at each frame; one if it never changes. */
  frames: (number[] | null)[];
}

const SEGMENTS = 64;

function circle(turn: (x: number, y: number) => [number, number, number]): THREE.Vector3[] {
  const points: THREE.Vector3[] = [];
  for (let k = 0; k < SEGMENTS; k++)
    for (const end of [k, k + 1]) {
      const angle = (2 * Math.PI * end) / SEGMENTS;
      points.push(new THREE.Vector3(...turn(Math.cos(angle), Math.sin(angle))));
    }
  return points;
}

function corners(pairs: [number[], number[]][]): THREE.Vector3[] {
  return pairs.flatMap(([a, b]) => [new THREE.Vector3(...a), new THREE.Vector3(...b)]);
}

/** Lines of what reaches from -1 to 1. */
const SHAPES = {
  ball: () => [
    ...circle((x, y) => [x, y, 0]),
    ...circle((x, y) => [x, 0, y]),
    ...circle((x, y) => [0, x, y]),
  ],
  box: () =>
    corners(
      [-1, 1].flatMap((u) =>
        [-1, 1].flatMap((v): [number[], number[]][] => [
          [
            [-1, u, v],
            [1, u, v],
          ],
          [
            [u, -1, v],
            [u, 1, v],
          ],
          [
            [u, v, -1],
            [u, v, 1],
          ],
        ]),
      ),
    ),
  cylinder: () => [
    ...circle((x, y) => [x, -1, y]),
    ...circle((x, y) => [x, 1, y]),
    ...corners([
      [
        [1, -1, 0],
        [1, 1, 0],
      ],
      [
        [-1, -1, 0],
        [-1, 1, 0],
      ],
      [
        [0, -1, 1],
        [0, 1, 1],
      ],
      [
        [0, -1, -1],
        [0, 1, -1],
      ],
    ]),
  ],
  line: () =>
    corners([
      [
        [0, -1, 0],
        [0, 1, 0],
      ],
    ]),
  circle: () => circle((x, y) => [x, 0, y]),
  plane: () =>
    corners([
      [
        [-1, 0, -1],
        [1, 0, -1],
      ],
      [
        [1, 0, -1],
        [1, 0, 1],
      ],
      [
        [1, 0, 1],
        [-1, 0, 1],
      ],
      [
        [-1, 0, 1],
        [-1, 0, -1],
      ],
    ]),
};

/** Where the sources of the weight that is drawn are, at the frame that is shown. */
export function Outlines() {
  const { handle, prop, tracks } = useContext(ShotContext);
  const stage = useView((view) => view.stage);
  const weightId = useView((view) => view.weightId);
  const weighing = useView((view) => (view.stage === 'motion' ? view.weighing : null));
  const alone = useView((view) => view.alone);
  const of = weighing ?? (weightId || 'release');
  const { shot } = handle;
  const wanted = prop !== undefined && (stage === 'timing' || weighing !== null);
  const query = useQuery({
    queryKey: ['outlines', shot.id, prop?.id, of, shot.head.id],
    queryFn: ({ signal }) =>
      getJson<Outline[]>(`shots/${shot.id}/props/${prop?.id ?? ''}/outlines?of=${of}`, signal),
    enabled: wanted,
    placeholderData: keepPreviousData,
    retry: false,
  });
  if (!wanted) return null;
  return (query.data ?? [])
    .filter((outline) => alone === null || weighing !== null || outline.layer === alone)
    .map((outline, k) => (
      <Drawn key={`${outline.layer} ${outline.shape} ${k}`} outline={outline} poses={tracks[prop.id] ?? []} />
    ));
}

function Drawn({ outline, poses }: { outline: Outline; poses: number[][] }) {
  const invalidate = useThree((state) => state.invalidate);
  const line = useMemo(() => {
    const geometry = new THREE.BufferGeometry().setFromPoints(SHAPES[outline.shape]());
    const colour = getComputedStyle(document.documentElement).getPropertyValue('--teal').trim();
    const material = new THREE.LineBasicMaterial({
      color: colour,
      transparent: true,
      opacity: 0.75,
      depthTest: false,
    });
    const made = new THREE.LineSegments(geometry, material);
    made.matrixAutoUpdate = false;
    made.renderOrder = 9;
    return made;
  }, [outline.shape]);
  useEffect(
    () =>
      clock.follow((frame) => {
        const at = <T,>(list: T[]) => list[Math.min(list.length - 1, Math.max(0, Math.round(frame) - 1))];
        const numbers = at(outline.frames);
        line.visible = Boolean(numbers);
        if (numbers) {
          const own = matrix(numbers);
          const pose = outline.inShot ? undefined : at(poses);
          line.matrix.copy(pose ? matrix(pose).multiply(own) : own);
          line.matrixWorldNeedsUpdate = true;
        }
        invalidate();
      }),
    [line, outline, poses, invalidate],
  );
  useEffect(
    () => () => {
      line.geometry.dispose();
      line.material.dispose();
      invalidate();
    },
    [line, invalidate],
  );
  return <primitive object={line} />;
}

/** Of position, rotation and size. */
function matrix([x = 0, y = 0, z = 0, qx = 0, qy = 0, qz = 0, qw = 1, sx = 1, sy = 1, sz = 1]: number[]) {
  return new THREE.Matrix4().compose(
    new THREE.Vector3(x, y, z),
    new THREE.Quaternion(qx, qy, qz, qw),
    new THREE.Vector3(sx, sy, sz),
  );
}
