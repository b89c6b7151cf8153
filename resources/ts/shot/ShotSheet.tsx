import { useContext } from 'react';
import { useView } from '../state/view';
import { Modal } from '../ui/Modal';
import { ShotContext } from './context';
import { STAGES, summary } from './summary';

/** The whole shot as a table: a row a prop, a column a stage, what happens in words. */
export function ShotSheet() {
  const { handle, readouts, bake } = useContext(ShotContext);
  const open = useView((view) => view.dialog === 'sheet');
  const set = useView((view) => view.set);
  return (
    <Modal title="Shot sheet" open={open} onClose={() => set({ dialog: null })} wide>
      <table className="w-full border-collapse text-left">
        <thead>
          <tr>
            <th className="border-b border-line p-2">Prop</th>
            {STAGES.map((stage) => (
              <th key={stage.id} className="border-b border-line p-2">
                {stage.title}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {handle.shot.document.props.map((prop) => (
            <tr key={prop.id}>
              <th className="border-b border-line p-2 font-semibold">{prop.name}</th>
              {STAGES.map((stage) => (
                <td key={stage.id} className="border-b border-line p-0">
                  <button
                    type="button"
                    className="ease w-full p-2 text-left hover:bg-teal-wash"
                    onClick={() => set({ dialog: null, stage: stage.id, propId: prop.id })}
                  >
                    {summary(stage.id, handle.shot.document, prop, readouts[prop.id], bake)}
                  </button>
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </Modal>
  );
}
