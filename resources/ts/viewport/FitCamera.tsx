import { useFrame, useThree } from '@react-three/fiber';
import { useCallback, useContext, useEffect, useLayoutEffect, useRef, type RefObject } from 'react';
import * as THREE from 'three';
import type { PropDocument, ShotDocument } from '../api/types';
import { ShotContext } from '../shot/context';
import { showsBake } from '../shot/summary';
import { useView } from '../state/view';
import type { FrameStore } from '../tracks/FrameStore';
import { bakedPlaces } from './deform';
import { around, boundsOf, distanceFor, moments, scattered, type Bounds, type Sample } from './framing';
import { NUMBERS } from './numbers';
import { usePlacing } from './placing';
import type { Shown } from './Pieces';
import { bakedPoses } from './poses';

/** From where the camera looks. Straight from above it would not know which way is up. */
const WAYS = {
  corner: [0.62, 0.32, 1],
  front: [0, 0, 1],
  side: [1, 0, 0],
  top: [0, 1, 1e-3],
} as const;
export type Way = keyof typeof WAYS;

/** Shows the whole shot, from one way. */
export function look(way: Way): void {
  window.dispatchEvent(new CustomEvent<Way>('yard:fit', { detail: way }));
}

interface Controls extends THREE.EventDispatcher<{ start: object; change: object; end: object }> {
  target: THREE.Vector3;
}

/** What a prop takes up: as it stands, or at moments of its motion, the first one first. */
function samplesOf(
  { id, mesh, poses, radii, places }: Shown,
  motion: FrameStore | null,
  length: number,
): Sample[] {
  if (!motion) return [places ? scattered(places()) : { poses: poses(), radii }];
  const samples: Sample[] = [];
  for (const frame of moments(length)) {
    if (places) {
      const then = new Float32Array(3 * mesh.vertexCount);
      if (bakedPlaces(then, motion, id, frame)) samples.push(scattered(then));
    } else {
      // What bends and is still drawn as it stands has none.
      const then = new Float32Array(NUMBERS * mesh.count);
      if (bakedPoses(then, motion, id, frame)) samples.push({ poses: then, radii });
    }
  }
  return samples;
}

/**
 * The box to look at: nearly all pieces at all moments, every prop where it begins, and those that go by keys wherever they
 * go. What is thrown and flies on may leave the picture.
 */
function boxOf(
  shown: RefObject<Map<string, Shown>>,
  motion: FrameStore | null,
  document: ShotDocument,
): Bounds | null {
  const each = [...shown.current.values()].map((entry) => ({
    samples: samplesOf(entry, motion, document.frames),
    keyed: isKeyed(document.props.find((prop) => prop.id === entry.id)),
  }));
  return around([
    boundsOf(
      each.flatMap(({ samples }) => samples),
      Math.max(0, ...each.map(({ samples }) => samples.length)),
    ),
    ...each.map(({ samples, keyed }) => boundsOf(keyed ? samples : samples.slice(0, 1))),
  ]);
}

function isKeyed(prop: PropDocument | undefined): boolean {
  return prop !== undefined && Object.values(prop.position).some((value) => typeof value === 'object');
}

/** How many props are there and have been put where they stand: their numbers are nought to begin with. */
function placedOf(shown: RefObject<Map<string, Shown>>): number {
  return [...shown.current.values()].filter(({ poses, places }) =>
    (places ?? poses)()
      .subarray(0, NUMBERS)
      .some((value) => value !== 0),
  ).length;
}

/** How much the view has to hold: things alone where one works at them, what they fall on too, where they go. */
const [ALONE, STANDING, MOVING] = [0, 1, 2];

/** Frames the shot when it opens, more of it once there is more to see, and again when asked to. */
export function FitCamera({
  shown,
  count,
  ready,
  shotId,
}: {
  shown: RefObject<Map<string, Shown>>;
  /** How many props the picture will show. */
  count: number;
  ready: boolean;
  shotId: string;
}) {
  const { frames, handle } = useContext(ShotContext);
  const stage = useView((view) => view.stage);
  const camera = useThree((state) => state.camera);
  const controls = useThree((state) => state.controls) as Controls | null;
  const invalidate = useThree((state) => state.invalidate);
  const { document } = handle.shot;
  const placing = usePlacing();
  const length = document.frames;
  const motion =
    showsBake(stage) && frames !== null && frames.have > 0 && frames.have >= length ? frames : null;
  const holds = motion ? MOVING : stage === 'prop' || stage === 'break' ? ALONE : STANDING;
  const done = useRef({ shot: '', holds: ALONE });
  const touched = useRef(false);
  const waiting = useRef(false);
  /** How many of a shot that opens are there so far. */
  const coming = useRef({ shot: '', placed: 0 });
  const fit = useCallback(
    (from: Way = 'corner') => {
      const way = new THREE.Vector3(...WAYS[from]).normalize().applyQuaternion(placing.back);
      const bounds = boxOf(shown, motion, document);
      if (!bounds || !controls) return false;
      if (holds !== ALONE) {
        bounds.low[1] = Math.min(bounds.low[1], 0);
        bounds.high[1] = Math.max(bounds.high[1], 0);
      }
      const box = new THREE.Box3(new THREE.Vector3(...bounds.low), new THREE.Vector3(...bounds.high));
      const middle = box.getCenter(new THREE.Vector3());
      const size = Math.max(box.getSize(new THREE.Vector3()).length(), 0.02);
      const { fov, aspect } = camera as THREE.PerspectiveCamera;
      const away = Math.max(0.02, distanceFor(bounds, way.toArray(), placing.up.toArray(), fov, aspect));
      camera.position.copy(middle).addScaledVector(way, away);
      camera.near = size / 200;
      camera.far = size * 200;
      (camera as THREE.PerspectiveCamera).updateProjectionMatrix();
      controls.target.copy(middle);
      invalidate();
      return true;
    },
    [camera, controls, document, holds, invalidate, motion, placing, shown],
  );
  useEffect(() => {
    if (!controls) return;
    // Who only clicks has not turned the view.
    let held = false;
    const notes = {
      start: () => {
        held = true;
      },
      change: () => {
        if (held) touched.current = true;
      },
      end: () => {
        held = false;
      },
    };
    const kinds = ['start', 'change', 'end'] as const;
    kinds.forEach((kind) => controls.addEventListener(kind, notes[kind]));
    return () => kinds.forEach((kind) => controls.removeEventListener(kind, notes[kind]));
  }, [controls]);
  useFrame(() => {
    // Again when there is more to hold, unless somebody has turned the camera by then.
    const opened = done.current.shot === shotId;
    const known = opened && (touched.current || holds <= done.current.holds);
    if (!ready || !controls || known || waiting.current || useView.getState().through) return;
    waiting.current = true;
    // Where they stand is written in this same frame; what has just been made is there in the next.
    requestAnimationFrame(() => {
      waiting.current = false;
      if (!opened && coming.current.shot !== shotId) {
        coming.current = { shot: shotId, placed: 0 };
        touched.current = false;
      }
      const placed = placedOf(shown);
      const whole = placed >= count;
      // Until all have come, those that have are looked at.
      const fits = whole || (!opened && placed > coming.current.placed);
      const seen = touched.current || (fits && fit());
      coming.current.placed = placed;
      if (whole && seen) done.current = { shot: shotId, holds };
      // What is not there yet is drawn when it comes, and looked at then; it may never come.
      else if (placed < shown.current.size) invalidate();
    });
  });
  // Who asks may be what has just changed what there is to hold: it listens all the time, and knows the latest.
  const latest = useRef(fit);
  useLayoutEffect(() => {
    latest.current = fit;
  }, [fit]);
  useEffect(() => {
    const asked = (event: Event) => {
      const way = (event as CustomEvent<Way | null>).detail ?? 'corner';
      useView.getState().set({ through: false });
      // By then the view is no longer that of the shot's camera.
      requestAnimationFrame(() => {
        latest.current(way);
      });
    };
    window.addEventListener('yard:fit', asked);
    return () => {
      window.removeEventListener('yard:fit', asked);
    };
  }, []);
  return null;
}
