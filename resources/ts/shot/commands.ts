import { useContext } from 'react';
import { getJson } from '../api/client';
import type { Cue, ListedBake, Stage } from '../api/types';
import { between } from '../cues/span';
import { usePieceEdits } from '../stages/pieces';
import { chosen, standard } from '../api/schema';
import { newId, read, write } from '../state/document';
import { go } from '../state/route';
import { clock, seek } from '../state/frame';
import { applyTheme, theme } from '../state/theme';
import { useBrush } from '../state/brush';
import { useView } from '../state/view';
import { look } from '../viewport/FitCamera';
import { TAKE_PICTURE } from '../viewport/PictureTaker';
import { ShotContext } from './context';
import { STAGES } from './summary';

export interface Command {
  title: string;
  keys?: string;
  /** How the key is recognised: what it is called, letters small, with "ctrl+" and "shift+" in front. */
  match?: string[];
  run: () => void;
  group: string;
}

/** With the one that was shown last before the one that is shown. */
async function compare(shot: string, shown: string | undefined): Promise<void> {
  const { beside, set, notify, stage } = useView.getState();
  if (beside.length > 0 && stage === 'bake') {
    set({ beside: [] });
    return;
  }
  try {
    const { bakes } = await getJson<{ bakes: ListedBake[] }>(`shots/${shot}/bakes`);
    const other = bakes.find(({ id, status, aside }) => status === 'done' && !aside && id !== shown);
    if (other && shown) set({ stage: 'bake', sheet: false, beside: [other.id] });
    else notify({ kind: 'info', title: 'There is no second bake of this shot yet' });
  } catch (error) {
    notify({
      kind: 'error',
      title: 'The bakes of this shot cannot be listed',
      detail: error instanceof Error ? error.message : '',
    });
  }
}

/** Everything one can do without a mouse: the palette, the keyboard and the shortcuts page all read this list. */
export function useCommands(): Command[] {
  const { handle, startBake, cancelBake, bake, propIndex } = useContext(ShotContext);
  const { shot } = handle;
  const { set } = useView.getState();
  const last = shot.document.frames;
  const to = (frame: number) => seek(Math.min(last, Math.max(1, Math.round(frame))));
  const cues = [...shot.document.cues].sort((a, b) => a.frame - b.frame);
  const here = () => Math.round(clock.now);
  const stage = (id: Stage) => () => set({ stage: id, sheet: false });
  const props = shot.document.props;
  const { canJoin, join } = usePieceEdits();
  const seed = (step: number) =>
    handle.edit((doc) => {
      const pattern = chosen(doc.props[propIndex]?.break, 'pattern');
      // A pattern without chance of its own may have rough faces.
      const path = ['props', propIndex, 'break', 'seed' in pattern.fields ? pattern.kind : 'finish', 'seed'];
      return write(doc, path, Math.max(0, Number(read(doc, path) ?? 0) + step));
    });

  return [
    {
      group: 'Play',
      title: 'Play or pause',
      keys: 'Space',
      match: [' '],
      run: () => set({ playing: !useView.getState().playing }),
    },
    { group: 'Play', title: 'One frame on', keys: '→', match: ['ArrowRight'], run: () => to(here() + 1) },
    { group: 'Play', title: 'One frame back', keys: '←', match: ['ArrowLeft'], run: () => to(here() - 1) },
    {
      group: 'Play',
      title: 'Ten frames on',
      keys: 'Shift →',
      match: ['shift+ArrowRight'],
      run: () => to(here() + 10),
    },
    {
      group: 'Play',
      title: 'Ten frames back',
      keys: 'Shift ←',
      match: ['shift+ArrowLeft'],
      run: () => to(here() - 10),
    },
    { group: 'Play', title: 'To the first frame', keys: 'Home', match: ['Home'], run: () => to(1) },
    { group: 'Play', title: 'To the last frame', keys: 'End', match: ['End'], run: () => to(last) },
    {
      group: 'Play',
      title: 'To the next cue',
      keys: '.',
      match: ['.'],
      run: () => to(cues.find((cue) => cue.frame > here())?.frame ?? last),
    },
    {
      group: 'Play',
      title: 'To the cue before',
      keys: ',',
      match: [','],
      run: () => to(cues.findLast((cue) => cue.frame < here())?.frame ?? 1),
    },
    {
      group: 'Play',
      title: 'Loop on or off',
      keys: 'L',
      match: ['l'],
      run: () => set({ loop: !useView.getState().loop }),
    },
    {
      group: 'Play',
      title: 'Loop from this frame on',
      run: () =>
        set({ loop: true, span: between(here(), Math.max(here() + 1, useView.getState().span?.to ?? last)) }),
    },
    {
      group: 'Play',
      title: 'Loop up to this frame',
      run: () =>
        set({ loop: true, span: between(Math.min(here() - 1, useView.getState().span?.from ?? 1), here()) }),
    },
    { group: 'Play', title: 'Loop all frames', run: () => set({ loop: true, span: null }) },
    {
      group: 'Play',
      title: 'Put a cue at this frame',
      keys: 'C',
      match: ['c'],
      run: () => {
        const frame = here();
        const id = newId(
          'cue',
          shot.document.cues.map((cue) => cue.id),
        );
        handle.edit((doc) => ({
          ...doc,
          cues: [
            ...doc.cues,
            { ...(standard(['cues', 0]) as Cue), id, name: `Cue ${doc.cues.length + 1}`, frame },
          ],
        }));
      },
    },
    ...STAGES.map((entry, k) => ({
      group: 'Stages',
      title: `Open ${entry.title}`,
      keys: `${k + 1}`,
      match: [`${k + 1}`],
      run: stage(entry.id),
    })),
    {
      group: 'Stages',
      title: 'Next prop',
      keys: 'N',
      match: ['n'],
      run: () => set({ propId: props[(propIndex + 1) % Math.max(1, props.length)]?.id ?? '' }),
    },
    {
      group: 'Stages',
      title: 'Shot sheet',
      keys: 'S',
      match: ['s'],
      run: () => set({ sheet: !useView.getState().sheet }),
    },
    {
      group: 'Break',
      title: 'Next seed',
      keys: ']',
      match: [']'],
      run: () => seed(1),
    },
    {
      group: 'Break',
      title: 'Seed before',
      keys: '[',
      match: ['['],
      run: () => seed(-1),
    },
    {
      group: 'Break',
      title: 'Hide selected pieces',
      keys: 'H',
      match: ['h'],
      run: () => {
        const view = useView.getState();
        set({ hidden: [...view.hidden, ...view.pieces], pieces: [] });
      },
    },
    {
      group: 'Break',
      title: 'Show all pieces',
      keys: 'G',
      match: ['g'],
      run: () => set({ hidden: [] }),
    },
    { group: 'Break', title: 'Join selected pieces', keys: 'J', match: ['j'], run: () => canJoin && join() },
    {
      group: 'Break',
      title: 'Select nothing, stop picking and painting',
      keys: 'Esc',
      match: ['Escape'],
      run: () => {
        set({ pieces: [], picking: null });
        useBrush.getState().set({ painting: null });
      },
    },
    { group: 'Work', title: 'Bake', keys: 'B', match: ['b'], run: startBake },
    ...(bake && (bake.status === 'running' || bake.status === 'queued')
      ? [{ group: 'Work', title: 'Cancel the bake', run: cancelBake }]
      : []),
    {
      group: 'Work',
      title: 'Compare with another bake, or stop',
      keys: 'X',
      match: ['x'],
      run: () => void compare(shot.id, bake?.id),
    },
    { group: 'Work', title: 'Undo', keys: 'Ctrl Z', match: ['ctrl+z'], run: handle.undo },
    {
      group: 'Work',
      title: 'Redo',
      keys: 'Ctrl Shift Z',
      match: ['ctrl+shift+z', 'ctrl+y'],
      run: handle.redo,
    },
    {
      group: 'Look',
      title: 'Show everything',
      keys: 'F',
      match: ['f'],
      run: () => look('corner'),
    },
    {
      group: 'Look',
      title: 'From the front',
      keys: 'Shift F',
      match: ['shift+f'],
      run: () => look('front'),
    },
    {
      group: 'Look',
      title: 'From the side',
      keys: 'Shift D',
      match: ['shift+d'],
      run: () => look('side'),
    },
    {
      group: 'Look',
      title: 'From above',
      keys: 'Shift T',
      match: ['shift+t'],
      run: () => look('top'),
    },
    {
      group: 'Look',
      title: 'Through the camera of the shot',
      keys: 'Shift C',
      match: ['shift+c'],
      run: () => set({ through: shot.document.camera.on && !useView.getState().through }),
    },
    {
      group: 'Look',
      title: 'Show the shot like this in the yard',
      keys: 'Y',
      match: ['y'],
      run: () => window.dispatchEvent(new Event(TAKE_PICTURE)),
    },
    {
      group: 'Look',
      title: 'Readout on or off',
      keys: 'R',
      match: ['r'],
      run: () => set({ readout: !useView.getState().readout }),
    },
    {
      group: 'Look',
      title: 'Light or dark colours',
      run: () => applyTheme(theme() === 'dark' ? 'light' : 'dark'),
    },
    {
      group: 'Look',
      title: 'Find or do',
      keys: 'Ctrl K',
      match: ['ctrl+k'],
      run: () => set({ dialog: 'palette' }),
    },
    {
      group: 'Look',
      title: 'Shortcuts',
      keys: '?',
      match: ['?'],
      run: () => set({ dialog: 'shortcuts' }),
    },
    { group: 'Look', title: 'Back to the yard', run: () => go('/') },
  ];
}
