import { useContext, type ReactNode } from 'react';
import { propOf } from '../api/files';
import { useView } from '../state/view';
import { DropArea } from '../ui/DropArea';
import { ShotContext } from './context';

/** Files that are dropped on the picture become props of the shot. */
export function DroppedFiles({ children }: { children: ReactNode }) {
  const { handle } = useContext(ShotContext);
  const { set, notify } = useView.getState();
  const bring = async (files: File[]) => {
    const taken = handle.shot.document.props.map((prop) => prop.id);
    for (const file of files) {
      try {
        const prop = await propOf(file, taken);
        taken.push(prop.id);
        handle.edit((doc) => ({ ...doc, props: [...doc.props, prop] }));
        await handle.settled();
        set({ propId: prop.id, stage: 'prop' });
      } catch (error) {
        notify({
          kind: 'error',
          title: `${file.name} was not brought in`,
          detail: error instanceof Error ? error.message : String(error),
        });
      }
    }
  };
  return (
    <DropArea
      says="Let go: it becomes a prop of this shot"
      className="h-full min-h-0 min-w-0"
      onFiles={bring}
    >
      {children}
    </DropArea>
  );
}
