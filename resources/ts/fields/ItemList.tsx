import { ChevronDown, ChevronRight, Eye, Plus, Trash2 } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { useContext, type ReactNode } from 'react';
import { chosen, fieldAt, kindSchema, kindsOf, standard } from '../api/schema';
import { ShotContext } from '../shot/context';
import { inWords } from '../shot/summary';
import { newId, read, write, type Path } from '../state/document';
import { useView } from '../state/view';
import { Button, IconButton } from '../ui/controls';
import { Kind, Fields } from './Fields';

/** The lists among the settings of an object, each under its title. */
export function Lists({ base }: { base: Path }) {
  const set = useView((view) => view.set);
  return Object.keys(fieldAt(base).properties ?? {}).map((name) => {
    const field = fieldAt([...base, name]);
    // What it does is drawn in the picture while the pointer or the keyboard is at it.
    const weigh = field['x-weight'] ? name : null;
    return field['x-noun'] ? (
      <div
        key={name}
        role="presentation"
        className="mt-2"
        onPointerEnter={() => set({ weighing: weigh })}
        onPointerLeave={() => set({ weighing: null })}
        onFocus={() => set({ weighing: weigh })}
        onBlur={() => set({ weighing: null })}
      >
        <p title={field.description}>{field.title}</p>
        <ItemList path={[...base, name]} noun={field['x-noun']} empty={field['x-empty'] ?? ''} />
      </div>
    ) : null;
  });
}

interface Item {
  id?: string;
  name?: string;
}

/** A list of things that can be added and taken away: forces, floors, the sources of a weight. */
export function ItemList({
  path,
  noun,
  empty,
  drawn,
  made = (item) => item,
}: {
  path: Path;
  noun: string;
  empty: string;
  /** Whether the picture shows what they do together, and each can be seen alone. */
  drawn?: boolean;
  /** What a new one is like, where the standard will not do. */
  made?: (item: object) => object;
}) {
  const { handle } = useContext(ShotContext);
  const items = (read(handle.shot.document, path) ?? []) as Item[];
  const schema = fieldAt([...path, 0]);
  const kinds = schema['x-kinds'];
  const named = schema.properties?.['name'] !== undefined;
  const change = (make: (old: Item[]) => Item[]) =>
    handle.edit((doc) => write(doc, path, make((read(doc, path) ?? []) as Item[])));
  const add = (kind: string | null) =>
    change((old) => {
      const plain = Object.entries(standard([...path, old.length]) as object);
      const chosen = kinds && kind ? { [kinds.as]: kind, [kind]: standard([...path, old.length, kind]) } : {};
      const fresh = made({
        ...Object.fromEntries(plain.filter(([field]) => field !== kinds?.default)),
        ...chosen,
      }) as Item;
      const title = kind && kinds ? (schema.properties?.[kinds.as]?.['x-labels']?.[kind] ?? kind) : noun;
      const id = newId(
        title,
        old.map((item) => item.id ?? ''),
      );
      // What has just been added is what one wants to see.
      if (schema['x-drawn']) useView.getState().set({ force: id });
      return [...old, named ? { ...fresh, id, name: title } : fresh];
    });
  return (
    <div data-list={path.join('/')}>
      {items.length === 0 ? <p className="text-ink-2">{empty}</p> : null}
      {items.map((item, k) => (
        <Section
          key={item.id ?? k}
          title={named ? (item.name ?? noun) : `${noun} ${k + 1}`}
          tool={drawn ? <Alone title={named ? (item.name ?? noun) : `${noun} ${k + 1}`} index={k} /> : null}
          drawn={
            schema['x-drawn'] && item.id && kinds
              ? { id: item.id, words: inWords(chosen(item, kinds.as), handle.shot.document) }
              : null
          }
          onRemove={() => {
            // Numbers behind it change.
            if (drawn) useView.getState().set({ alone: null });
            change((old) => old.filter((_, other) => other !== k));
          }}
        >
          {kinds ? <Kind base={[...path, k]} as={kinds.as} /> : null}
          <Fields base={[...path, k]} skip={['name']} />
        </Section>
      ))}
      <div className="mt-1">
        {kinds ? (
          <AddMenu noun={noun} registry={kinds.registry} onAdd={add} />
        ) : (
          <Button onClick={() => add(null)}>
            <Plus size={14} /> Add a {noun.toLowerCase()}
          </Button>
        )}
      </div>
    </div>
  );
}

/** The kinds of a thing, each with a line of what it does. */
function AddMenu({
  noun,
  registry,
  onAdd,
}: {
  noun: string;
  registry: string;
  onAdd: (kind: string) => void;
}) {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger asChild>
        <Button>
          <Plus size={14} /> Add a {noun.toLowerCase()}
        </Button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          side="right"
          align="start"
          sideOffset={8}
          collisionPadding={8}
          className="z-50 max-h-[var(--radix-dropdown-menu-content-available-height)] w-[300px] overflow-y-auto rounded-md border border-line bg-card p-1 shadow-xl"
        >
          {kindsOf(registry).map((kind) => (
            <DropdownMenu.Item
              key={kind}
              data-kind={kind}
              className="cursor-default rounded-sm px-2 py-1 outline-none select-none data-[highlighted]:bg-teal-wash"
              onSelect={() => onAdd(kind)}
            >
              {kindSchema(registry, kind).title}
              <span className="block text-[12px] leading-snug text-ink-2">
                {kindSchema(registry, kind).description}
              </span>
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/** Draws one of several alone. */
function Alone({ title, index }: { title: string; index: number }) {
  const alone = useView((view) => view.alone === index);
  const set = useView((view) => view.set);
  return (
    <IconButton
      label={alone ? 'Show all of them mixed' : `Show ${title} alone`}
      aria-pressed={alone}
      className={`!h-7 ${alone ? 'text-teal' : ''}`}
      onClick={() => set({ alone: alone ? null : index })}
    >
      <Eye size={14} />
    </IconButton>
  );
}

function Section({
  title,
  tool,
  drawn,
  onRemove,
  children,
}: {
  title: string;
  tool?: ReactNode;
  /** What the picture shows while it is open; closed it is told in words. */
  drawn: { id: string; words: string } | null;
  onRemove: () => void;
  children: ReactNode;
}) {
  const shown = useView((view) => drawn !== null && view.force === drawn.id);
  const set = useView((view) => view.set);
  return (
    <fieldset className={`mb-2 border-l-2 pl-2 ${shown ? 'border-rust' : 'border-line'}`}>
      <legend className="sr-only">{title}</legend>
      <div className="flex items-center justify-between">
        {drawn ? (
          <button
            type="button"
            aria-expanded={shown}
            title={shown ? 'Close; the picture shows it no more' : 'Open, and draw it in the picture'}
            className="ease mr-auto flex min-w-0 items-center gap-1 rounded-md py-1 text-left hover:text-teal"
            onClick={() => set({ force: shown ? null : drawn.id })}
          >
            {shown ? <ChevronDown size={14} /> : <ChevronRight size={14} />}
            <span className="min-w-0">
              {title}
              {shown ? null : <span className="block truncate text-[12px] text-ink-2">{drawn.words}</span>}
            </span>
          </button>
        ) : (
          <span className="mr-auto text-ink-2">{title}</span>
        )}
        {tool}
        <IconButton label={`Remove ${title}`} className="!h-7" onClick={onRemove}>
          <Trash2 size={14} />
        </IconButton>
      </div>
      {drawn && !shown ? null : children}
    </fieldset>
  );
}
