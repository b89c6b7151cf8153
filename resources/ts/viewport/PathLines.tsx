import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useThree } from '@react-three/fiber';
import { useContext, useEffect, useMemo } from 'react';
import * as THREE from 'three';
import { getJson } from '../api/client';
import { chosen } from '../api/schema';
import { ShotContext } from '../shot/context';
import { useView } from '../state/view';

type Three = [number, number, number];
type Paths = Record<string, { length: number; places: Three[] } | undefined>;

const NONE: Three[] = [];

/** The line that the open prop goes along, and in Motion those of its pieces and of the open force. */
export function PathLines() {
  const { handle, prop } = useContext(ShotContext);
  const { shot } = handle;
  const stage = useView((view) => view.stage);
  const forceId = useView((view) => view.force);
  const own = (stage === 'prop' || stage === 'motion') && prop?.path.on === true;
  const query = useQuery({
    queryKey: ['paths', shot.id, shot.head.id],
    queryFn: ({ signal }) => getJson<Paths>(`shots/${shot.id}/paths`, signal),
    enabled: own,
    placeholderData: keepPreviousData,
  });
  const force = stage === 'motion' ? shot.document.forces.find((each) => each.id === forceId) : undefined;
  const lines = [
    ...(force ? linesOf(force, 'force') : []),
    ...(stage === 'motion' && prop ? linesOf(prop.motion, 'mover') : []),
  ];
  return (
    <>
      {own ? <Line places={query.data?.[prop.id]?.places ?? NONE} /> : null}
      {lines.map((places, k) => (
        <Line key={k} places={places.map(({ x, y, z }) => [x, y, z])} />
      ))}
    </>
  );
}

/** Places of the lines that a kind has in the shot. */
function linesOf(owner: object, as: string): { x: number; y: number; z: number }[][] {
  const kind = chosen(owner, as);
  return Object.keys(kind.fields)
    .filter((name) => kind.fields[name]?.['x-places'])
    .map((name) => (kind.settings[name] ?? []) as { x: number; y: number; z: number }[]);
}

function Line({ places }: { places: Three[] }) {
  const invalidate = useThree((state) => state.invalidate);
  const line = useMemo(() => {
    const colour = getComputedStyle(document.documentElement).getPropertyValue('--teal').trim();
    const made = new THREE.Line(
      new THREE.BufferGeometry().setFromPoints(places.map((place) => new THREE.Vector3(...place))),
      new THREE.LineBasicMaterial({ color: colour, transparent: true, opacity: 0.85, depthTest: false }),
    );
    made.renderOrder = 9;
    return made;
  }, [places]);
  useEffect(() => {
    invalidate();
    return () => {
      line.geometry.dispose();
      line.material.dispose();
      invalidate();
    };
  }, [line, invalidate]);
  return <primitive object={line} />;
}
