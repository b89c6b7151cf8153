import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useContext, useState } from 'react';
import { getJson } from '../api/client';
import { chosen, kindSchema, kindsOf, traitOf } from '../api/schema';
import { text } from '../api/text';
import type { PropDocument } from '../api/types';
import { Fields } from '../fields/Fields';
import { ShotContext } from '../shot/context';
import { merge, write, type Path } from '../state/document';
import { useView } from '../state/view';
import { Button, Heading } from '../ui/controls';

interface Moves {
  frames: number;
  keys: Pick<PropDocument, 'position' | 'rotation' | 'scale'> | null;
  why: string;
}

/** What may ride on a file in pieces. */
export function inPieces(movers: string): string {
  return kindsOf(movers)
    .filter((kind) => traitOf(movers, kind, 'plays', {}) && traitOf(movers, kind, 'piecewise', {}))
    .map((kind) => text(kindSchema(movers, kind).title).toLowerCase())
    .join(' or ');
}

/** What moves in the prop's file: taken as keys of the whole, or played as it is. */
export function FileMotion() {
  const { handle, prop, propIndex } = useContext(ShotContext);
  const source = chosen(prop?.source, 'kind');
  const mover = chosen(prop?.motion, 'mover');
  const stage = useView((view) => view.stage);
  const [taken, setTaken] = useState('');
  const asset = text(source.settings['asset']);
  const { data } = useQuery({
    // All that it goes by: reading a large file takes its time.
    queryKey: [
      'file motion',
      handle.shot.id,
      prop?.id,
      prop?.source,
      prop?.prepare.size,
      handle.shot.document.fps,
    ],
    staleTime: Infinity,
    queryFn: ({ signal }) => getJson<Moves>(`shots/${handle.shot.id}/props/${prop?.id}/motion`, signal),
    placeholderData: keepPreviousData,
    // The server knows only what is saved.
    enabled: source.has('moves') && asset !== '' && handle.saving === 'saved',
  });
  if (!prop || !source.has('moves') || asset === '' || !data || data.frames === 0) return null;
  const at: Path = ['props', propIndex];
  const plays = prop.played.on && mover.has('plays');
  const last = prop.played.starts + Math.ceil((data.frames * 100) / prop.played.speed);
  return (
    <>
      <Heading>Its motion in the file</Heading>
      <p className="text-ink-2" data-testid="file-motion">
        It moves in its file, for {data.frames} frames.{' '}
        {data.keys ? 'All of it moves as one.' : 'It bends, or parts of it move by themselves.'}
        {plays && stage === 'prop' ? ' Here it stands as at rest; the bake shows it move.' : ''}
        {plays && mover.has('led')
          ? ` Moved as ${inPieces(mover.registry)} it can come apart on its way.`
          : ''}
        {plays && prop.played.after === 'stays' && last > handle.shot.document.frames
          ? ` It is played until frame ${last}; the shot ends at ${handle.shot.document.frames}.`
          : ''}
      </p>
      {prop.played.on ? <Fields base={[...at, 'played']} /> : null}
      <div className="mt-2 flex flex-wrap gap-2">
        {prop.played.on ? null : (
          <Button
            title="It goes and bends as in its file, and pushes what is in its way"
            data-testid="file-motion-play"
            onClick={() =>
              handle.edit((doc) => {
                const on = write(doc, [...at, 'played', 'on'], true);
                if (mover.has('plays')) return on;
                const moved = merge(on, [...at, 'motion'], { mover: 'played' });
                // It never lets go, so it needs no pieces.
                const whole = merge(moved, [...at, 'break'], { pattern: 'whole' });
                return merge(whole, [...at, 'release'], { trigger: 'never' });
              })
            }
          >
            Play it
          </Button>
        )}
        {data.keys && !prop.played.on ? (
          <Button
            title="Place, turn and size get the keys of the file: it may break on its way"
            data-testid="file-motion-keys"
            onClick={() => {
              handle.edit((doc) => write(doc, at, { ...doc.props[propIndex], ...data.keys }));
              setTaken(asset);
            }}
          >
            Take it as keys
          </Button>
        ) : null}
      </div>
      {taken === asset && asset !== '' ? (
        <p role="status" className="mt-2 text-ink-2">
          Place, turn and size have the keys of the file.
        </p>
      ) : null}
    </>
  );
}
