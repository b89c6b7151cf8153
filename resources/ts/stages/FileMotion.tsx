import { useContext, useState } from 'react';
import { chosen, kindSchema, kindsOf, traitOf } from '../api/schema';
import { text } from '../api/text';
import { Fields } from '../fields/Fields';
import { ShotContext } from '../shot/context';
import { useFileMotion, type FileMoves } from '../shot/fileMotion';
import { merge, write, type Path } from '../state/document';
import { useView } from '../state/view';
import { Button, Heading } from '../ui/controls';

/** What may ride on a file in pieces. */
export function inPieces(movers: string): string {
  return kindsOf(movers)
    .filter((kind) => traitOf(movers, kind, 'plays', {}) && traitOf(movers, kind, 'piecewise', {}))
    .map((kind) => text(kindSchema(movers, kind).title).toLowerCase())
    .join(' or ');
}

function moves({ frames, keys, why }: FileMoves): string {
  if (frames === 0) return why || 'Nothing of its mesh moves in this animation.';
  return `It moves in its file, for ${frames} frames. ${keys ? 'All of it moves as one.' : 'It bends, or parts of it move by themselves.'}`;
}

/** What moves in the prop's file: taken as keys of the whole, or played as it is. */
export function FileMotion() {
  const { handle, prop, propIndex } = useContext(ShotContext);
  const source = chosen(prop?.source, 'kind');
  const mover = chosen(prop?.motion, 'mover');
  const stage = useView((view) => view.stage);
  const [taken, setTaken] = useState('');
  const asset = text(source.settings['asset']);
  const data = useFileMotion();
  if (!prop || !data) return null;
  const several = data.clips.length > 1 || prop.played.clip !== '';
  if (data.frames === 0 && !several) return null;
  const at: Path = ['props', propIndex];
  const plays = prop.played.on && mover.has('plays');
  const last = prop.played.starts + Math.ceil((data.frames * 100) / prop.played.speed);
  return (
    <>
      <Heading>Its motion in the file</Heading>
      <p className="text-ink-2" data-testid="file-motion">
        {moves(data)}
        {plays && stage === 'prop' ? ' Here it stands as at rest; the bake shows it move.' : ''}
        {plays && mover.has('led')
          ? ` Moved as ${inPieces(mover.registry)} it can come apart on its way.`
          : ''}
        {plays && prop.played.after === 'stays' && last > handle.shot.document.frames
          ? ` It is played until frame ${last}; the shot ends at ${handle.shot.document.frames}.`
          : ''}
      </p>
      {several ? <Fields base={[...at, 'played']} names={['clip']} /> : null}
      {prop.played.on ? <Fields base={[...at, 'played']} skip={['clip']} /> : null}
      <div className="mt-2 flex flex-wrap gap-2">
        {prop.played.on || data.frames === 0 ? null : (
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
