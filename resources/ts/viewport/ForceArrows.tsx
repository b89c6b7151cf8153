import { useThree } from '@react-three/fiber';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useContext, useEffect, useMemo, useState } from 'react';
import * as THREE from 'three';
import { getJson } from '../api/client';
import { ShotContext } from '../shot/context';
import { useFrame } from '../state/frame';
import { useView } from '../state/view';

/** In place of the open force: all of them. No force has such an id. */
export const ALL = '_all';

interface Here {
  way: [number, number, number];
  each: { name: string; way: [number, number, number]; air: boolean }[];
}

interface Field {
  apart: number;
  most: number;
  air: boolean;
  places: number[];
  ways: number[];
}

/** Of the distance between two arrows, how long the longest is. */
const LONGEST = 0.9;
/** Of an arrow, how long and how wide its head is. */
const HEAD = 0.3;
/** Arrows shorter than this share of the longest are left out. */
const FAINT = 0.02;
/** The pointer must rest so long before one asks what acts there, ms. */
const REST = 120;

/** The force that is drawn: where one looks, at the frame one looks at. */
function useDrawnForce() {
  const { handle, prop } = useContext(ShotContext);
  const { shot } = handle;
  const id = useView((view) => (view.stage === 'motion' ? view.force : null));
  const frame = useFrame();
  const open = shot.document.forces.find((each) => each.id === id && each.on);
  const force = id === ALL ? { id: ALL, name: `All that acts on ${prop?.name ?? 'it'}` } : open;
  const of = id === ALL ? `&prop=${prop?.id ?? ''}` : '';
  const query = useQuery({
    queryKey: ['field', shot.id, force?.id, of, frame, shot.head.id],
    queryFn: ({ signal }) =>
      getJson<Field>(`shots/${shot.id}/forces/${force?.id ?? ''}/field?frame=${frame}${of}`, signal),
    enabled: force !== undefined,
    placeholderData: keepPreviousData,
    retry: false,
  });
  return force ? { force, of, frame, field: query.data } : null;
}

export function ForceArrows() {
  const drawn = useDrawnForce();
  const field = drawn?.field;
  const invalidate = useThree((state) => state.invalidate);
  const lines = useMemo(() => {
    if (!field || field.most === 0) return null;
    const geometry = new THREE.BufferGeometry().setFromPoints(arrows(field));
    const colour = getComputedStyle(document.documentElement).getPropertyValue('--rust').trim();
    return new THREE.LineSegments(
      geometry,
      new THREE.LineBasicMaterial({ color: colour, transparent: true, opacity: 0.7 }),
    );
  }, [field]);
  useEffect(() => {
    invalidate();
    return () => {
      lines?.geometry.dispose();
      lines?.material.dispose();
      invalidate();
    };
  }, [lines, invalidate]);
  return lines ? <primitive object={lines} /> : null;
}

/** A line with two barbs a place, as long as the root of how hard it acts there: else one would see only the hardest. */
function arrows({ apart, most, places, ways }: Field): THREE.Vector3[] {
  const points: THREE.Vector3[] = [];
  const up = new THREE.Vector3(0, 1, 0);
  const side = new THREE.Vector3(1, 0, 0);
  for (let k = 0; k < places.length; k += 3) {
    const at = new THREE.Vector3().fromArray(places, k);
    const way = new THREE.Vector3().fromArray(ways, k);
    const share = way.length() / most;
    if (share < FAINT) continue;
    way.normalize();
    const half = way.clone().multiplyScalar(0.5 * LONGEST * apart * Math.sqrt(share));
    const [tail, tip] = [at.clone().sub(half), at.clone().add(half)];
    const across = way
      .clone()
      .cross(Math.abs(way.y) > 0.9 ? side : up)
      .normalize()
      .multiplyScalar(HEAD * half.length());
    const neck = tip.clone().addScaledVector(half, -2 * HEAD);
    points.push(tail, tip, tip, neck.clone().add(across), tip, neck.clone().sub(across));
  }
  return points;
}

const amount = (value: number) => (value >= 100 ? value.toFixed(0) : value.toPrecision(3));

/** How hard the force acts where its arrow is longest, and under the pointer. */
export function ForceLegend() {
  const drawn = useDrawnForce();
  const { handle } = useContext(ShotContext);
  const { shot } = handle;
  const hovered = useView((view) => view.hovered);
  const [asked, setAsked] = useState<[number, number, number] | null>(null);
  useEffect(() => {
    const timer = window.setTimeout(() => setAsked(hovered?.at ?? null), REST);
    return () => window.clearTimeout(timer);
  }, [hovered]);
  const id = drawn?.force.id;
  const here = useQuery({
    queryKey: ['probe', shot.id, id, drawn?.of, drawn?.frame, shot.head.id, asked],
    queryFn: ({ signal }) =>
      getJson<Here>(
        `shots/${shot.id}/forces/${id ?? ''}/probe?frame=${drawn?.frame ?? 1}&x=${asked?.[0] ?? 0}&y=${asked?.[1] ?? 0}&z=${asked?.[2] ?? 0}${drawn?.of ?? ''}`,
        signal,
      ),
    enabled: id !== undefined && asked !== null,
    retry: false,
  });
  if (!drawn?.field) return null;
  const { force, field } = drawn;
  const unit = field.air ? 'm/s' : 'm/s²';
  return (
    <div
      className="pointer-events-none absolute right-3 bottom-3 w-52 rounded-md bg-card/90 p-2 text-[12px]"
      data-testid="force-legend"
    >
      <p className="text-rust">
        {force.name} at frame {drawn.frame}
      </p>
      <p>
        {field.most > 0
          ? `longest arrow ${amount(field.most)} ${unit}`
          : 'It pushes nothing here and now; drag only slows.'}
      </p>
      {hovered && here.data ? (
        <p className="font-semibold tabular-nums" data-testid="force-here">
          {amount(Math.hypot(...here.data.way))} {unit} here
        </p>
      ) : null}
      {hovered && here.data && force.id === ALL ? (
        <ul className="text-ink-2 tabular-nums" data-testid="force-each">
          {here.data.each.map((one, k) => (
            <li key={k} className="flex justify-between gap-2">
              <span className="truncate">{one.name}</span>
              <span>
                {amount(Math.hypot(...one.way))} {one.air ? 'm/s of air' : 'm/s²'}
              </span>
            </li>
          ))}
        </ul>
      ) : null}
    </div>
  );
}
