import { useContext } from 'react';
import { ShotContext } from '../shot/context';
import { Button } from '../ui/controls';
import type { Cue } from '../api/types';
import { Kind } from '../fields/Fields';
import { NumberField } from '../fields/NumberField';
import { below, Findings } from '../stages/Findings';
import { isBaked, isFound } from './found';

/** Name of a cue, and its frame or what it waits for; opened by a click on its flag. */
export function CueEditor({ cue, left, onClose }: { cue: Cue; left: number; onClose: () => void }) {
  const { handle, findings, bake } = useContext(ShotContext);
  const change = (part: Partial<typeof cue>) =>
    handle.edit((doc) => ({
      ...doc,
      cues: doc.cues.map((old) => (old.id === cue.id ? { ...old, ...part } : old)),
    }));
  const found = isFound(cue);
  const index = handle.shot.document.cues.findIndex((each) => each.id === cue.id);
  const missing = findings.some(below(`/cues/${index}`));
  const used = JSON.stringify(handle.shot.document.props).includes(`"cue":"${cue.id}"`);
  return (
    // Escape closes it from any of its fields.
    // eslint-disable-next-line jsx-a11y/no-noninteractive-element-interactions
    <div
      role="dialog"
      aria-label={`Cue ${cue.name}`}
      className="absolute bottom-[108px] z-20 w-72 rounded-md border border-line bg-card p-3 shadow-xl"
      style={{ left }}
      onKeyDown={(event) => event.key === 'Escape' && onClose()}
    >
      <label className="mb-2 flex items-center justify-between gap-2">
        Name
        <input
          autoFocus
          defaultValue={cue.name}
          maxLength={60}
          className="h-7 w-[150px] rounded-md border border-line bg-paper px-2"
          onBlur={(event) => event.target.value.trim() !== '' && change({ name: event.target.value.trim() })}
          onKeyDown={(event) => {
            if (event.key === 'Enter') {
              event.currentTarget.blur();
              onClose();
            }
          }}
        />
      </label>
      <label className="mb-3 flex items-center justify-between gap-2" htmlFor="cue-frame">
        Frame
        {found ? (
          <span id="cue-frame">
            {cue.frame} f,{' '}
            {missing ? 'not found' : isBaked(cue) ? (bake ? 'as baked' : 'not baked yet') : 'found'}
          </span>
        ) : (
          <NumberField
            id="cue-frame"
            label="Frame"
            value={cue.frame}
            min={1}
            max={100000}
            step={1}
            whole
            unit="f"
            onChange={(frame) => change({ frame })}
          />
        )}
      </label>
      {index < 0 ? null : (
        <div className="mb-3">
          <Kind base={['cues', index, 'at']} as="moment" />
          <Findings which={below(`/cues/${index}`)} />
        </div>
      )}
      <div className="flex gap-2">
        <Button onClick={onClose}>Done</Button>
        <Button
          disabled={used}
          title={used ? 'Something hangs on this cue' : undefined}
          onClick={() => {
            onClose();
            handle.edit((doc) => ({ ...doc, cues: doc.cues.filter((old) => old.id !== cue.id) }));
          }}
        >
          Delete
        </Button>
      </div>
    </div>
  );
}
