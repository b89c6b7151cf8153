import { Plus, Trash2 } from 'lucide-react';
import { useContext } from 'react';
import { standard } from '../api/schema';
import { Fields } from '../fields/Fields';
import { ItemList } from '../fields/ItemList';
import { ShotContext } from '../shot/context';
import { newId, write, type Path } from '../state/document';
import { useView } from '../state/view';
import { IconButton } from '../ui/controls';
import { Select } from '../ui/Select';

/** One of the prop's weights: which, what it is mixed from, how it follows. */
export function WeightCard() {
  const { handle, prop, propIndex } = useContext(ShotContext);
  const set = useView((view) => view.set);
  const chosen = useView((view) => view.weightId);
  if (!prop) return null;
  const further = prop.weights.findIndex((weight) => weight.id === chosen);
  const base: Path = further < 0 ? ['props', propIndex, 'weight'] : ['props', propIndex, 'weights', further];
  const open = (weightId: string) => set({ weightId, alone: null });
  const add = () => {
    const name = `Weight ${prop.weights.length + 2}`;
    const id = newId(
      name,
      prop.weights.map((weight) => weight.id),
    );
    const list: Path = ['props', propIndex, 'weights'];
    const made = { ...(standard([...list, prop.weights.length]) as object), id, name };
    handle.edit((doc) => write(doc, list, [...(doc.props[propIndex]?.weights ?? []), made]));
    open(id);
  };
  const remove = () => {
    handle.edit((doc) =>
      write(
        doc,
        ['props', propIndex, 'weights'],
        (doc.props[propIndex]?.weights ?? []).filter((weight) => weight.id !== chosen),
      ),
    );
    open('');
  };
  return (
    <>
      <div className="flex min-h-7 items-center justify-between gap-1">
        <label htmlFor="which-weight" title="A prop lets go by one weight; others can go by further ones.">
          Weight
        </label>
        <span className="flex items-center">
          <Select
            id="which-weight"
            value={further < 0 ? '' : chosen}
            options={[
              ['', 'it lets go by'],
              ...prop.weights.map((weight) => [weight.id, weight.name] as [string, string]),
            ]}
            onChange={open}
          />
          {further < 0 ? null : (
            <IconButton label="Remove this weight" className="!h-7" onClick={remove}>
              <Trash2 size={14} />
            </IconButton>
          )}
          <IconButton label="Add a further weight" className="!h-7" onClick={add}>
            <Plus size={14} />
          </IconButton>
        </span>
      </div>
      {further < 0 ? null : <Fields base={base} names={['name']} />}
      <p className="mb-1 text-[12px] text-ink-2">
        {further < 0
          ? 'How far the change has got at each place: mixed from these, the first one first.'
          : 'For other weights, what holds and what slows a front to go by.'}
      </p>
      <ItemList
        path={[...base, 'stack']}
        noun="Source"
        empty="No source yet: the weight is 0 everywhere."
        drawn
      />
      <Fields base={base} skip={['name', 'id']} />
    </>
  );
}
