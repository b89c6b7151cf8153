import { keepPreviousData, useQueries } from '@tanstack/react-query';
import { useContext } from 'react';
import { getJson } from '../api/client';
import { chosen } from '../api/schema';
import type { ShotDocument } from '../api/types';
import { ShotContext } from './context';

type Joint = ShotDocument['joints'][number];

/** Where a fastening holds at the first frame, and at how many places in all. */
export interface FastenedPlaces {
  joint: Joint;
  count: number;
  places: [number, number, number][];
}

/** Of those of some joints that fasten something. */
export function useFastened(joints: Joint[]): FastenedPlaces[] {
  const { shot, saving } = useContext(ShotContext).handle;
  const fasten = joints.filter((joint) => joint.on && chosen(joint, 'joint').has('fastens'));
  return useQueries({
    queries: fasten.map((joint) => ({
      queryKey: ['fastened', shot.id, shot.head.id, joint.id],
      queryFn: ({ signal }: { signal: AbortSignal }) =>
        getJson<Omit<FastenedPlaces, 'joint'>>(`shots/${shot.id}/joints/${joint.id}/places`, signal),
      placeholderData: keepPreviousData,
      // The server knows only what is saved.
      enabled: saving === 'saved',
    })),
    // The same as long as nothing of it changes.
    combine: (answers) =>
      fasten.flatMap((joint, k) => {
        const data = answers[k]?.data;
        return data ? [{ joint, ...data }] : [];
      }),
  });
}
