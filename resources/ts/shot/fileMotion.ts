import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useContext } from 'react';
import { getJson } from '../api/client';
import { chosen } from '../api/schema';
import { text } from '../api/text';
import type { PropDocument } from '../api/types';
import { ShotContext } from './context';

/** What moves in a prop's file. */
export interface FileMoves {
  /** Names of the animations in it. */
  clips: string[];
  /** How long the chosen one moves something. */
  frames: number;
  /** Place, turn and size of the whole, where it moves as one. */
  keys: Pick<PropDocument, 'position' | 'rotation' | 'scale'> | null;
  /** Why there are no keys. */
  why: string;
}

/** What moves in the file of the chosen prop; undefined: it has none, or it is not known yet. */
export function useFileMotion(): FileMoves | undefined {
  const { handle, prop } = useContext(ShotContext);
  const source = chosen(prop?.source, 'kind');
  const has = source.has('moves') && text(source.settings['asset']) !== '';
  const { data } = useQuery({
    // All that it goes by: reading a large file takes its time.
    queryKey: [
      'file motion',
      handle.shot.id,
      prop?.id,
      prop?.source,
      prop?.played.clip,
      prop?.prepare.size,
      handle.shot.document.fps,
    ],
    staleTime: Infinity,
    queryFn: ({ signal }) => getJson<FileMoves>(`shots/${handle.shot.id}/props/${prop?.id}/motion`, signal),
    placeholderData: keepPreviousData,
    // The server knows only what is saved.
    enabled: has && handle.saving === 'saved',
  });
  return has ? data : undefined;
}
