import { useContext, useState } from 'react';
import { chosen, fieldAt, standard } from '../api/schema';
import type { ShotDocument } from '../api/types';
import { ShotContext } from '../shot/context';
import { merge, read, write, type Path } from '../state/document';
import { Select } from '../ui/Select';
import { ChoiceControl } from './ChoiceControl';
import { applies, Field } from './Field';

/** The fields of an object, in the schema's order; rare ones behind "More". Objects with fields of their own are laid out by whoever shows them. */
export function Fields({ base, names, skip = [] }: { base: Path; names?: string[]; skip?: string[] }) {
  const { handle } = useContext(ShotContext);
  const [more, setMore] = useState(false);
  const list = (names ?? Object.keys(fieldAt(base).properties ?? {})).filter((name) => !skip.includes(name));
  const usable = list.filter((name) => {
    const path = [...base, name];
    const field = fieldAt(path);
    const plain = (field.type !== 'object' && !field['x-noun']) || field['x-vector'] || field['x-picture'];
    return plain && !field['x-choice'] && applies(field, path, handle.shot.document);
  });
  const rare = usable.filter((name) => fieldAt([...base, name])['x-more']);
  return (
    <>
      {usable
        .filter((name) => !rare.includes(name))
        .map((name) => (
          <Field key={name} path={[...base, name]} />
        ))}
      {rare.length > 0 ? (
        <>
          <button
            type="button"
            aria-expanded={more}
            className="block py-1 text-teal underline-offset-2 hover:underline"
            onClick={() => setMore(!more)}
          >
            {more ? 'Less' : 'More'}
          </button>
          {more ? rare.map((name) => <Field key={name} path={[...base, name]} />) : null}
        </>
      ) : null}
    </>
  );
}

/** Which kind an object is of, then the settings of that kind; those of other kinds are kept. */
export function Kind({ base, as }: { base: Path; as: string }) {
  const { handle } = useContext(ShotContext);
  const kind = chosen(read(handle.shot.document, base) as object | undefined, as);
  return (
    <>
      <KindChoice base={base} as={as} />
      <Presets base={[...base, kind.kind]} />
      <Fields base={[...base, kind.kind]} />
    </>
  );
}

/** What it is like: several settings at once. Changed by hand afterwards it is like nothing but itself. */
export function Presets({ base }: { base: Path }) {
  const { handle } = useContext(ShotContext);
  const presets = fieldAt(base)['x-presets'];
  if (!presets) return null;
  const settings = read(handle.shot.document, base) as Record<string, unknown> | undefined;
  const like = presets.find(({ values }) =>
    Object.entries(values).every(([name, value]) => settings?.[name] === value),
  );
  const id = `${base.join('-')}-like`;
  return (
    <div
      className="flex min-h-7 items-center justify-between gap-2 py-[3px]"
      data-field={`${base.join('/')}/like`}
    >
      <label htmlFor={id} title={like?.source ?? 'Sets several of the settings below at once.'}>
        Like
      </label>
      <Select
        id={id}
        value={like?.name ?? ''}
        options={[
          ...(like ? [] : [['', 'its own'] as [string, string]]),
          ...presets.map(({ name }) => [name, name] as [string, string]),
        ]}
        onChange={(name) => {
          const values = presets.find((preset) => preset.name === name)?.values;
          if (values) handle.edit((doc) => merge(doc, base, values));
        }}
      />
    </div>
  );
}

export function KindChoice({
  base,
  as,
  then = (doc) => doc,
}: {
  base: Path;
  as: string;
  /** What else changes with the kind. */
  then?: (doc: ShotDocument, kind: string) => ShotDocument;
}) {
  const { handle } = useContext(ShotContext);
  const path = [...base, as];
  const field = fieldAt(path);
  const id = path.join('-');
  return (
    <div className="py-[3px]" data-field={path.join('/')}>
      <div className="flex min-h-7 items-center justify-between gap-2">
        <label htmlFor={id} title={field.description}>
          {field.title}
        </label>
        <ChoiceControl
          id={id}
          path={path}
          field={field}
          value={read(handle.shot.document, path)}
          onChange={(next) =>
            handle.edit((doc) => {
              const changed = write(doc, path, next);
              const settings = [...base, String(next)];
              const whole =
                read(doc, settings) === undefined ? write(changed, settings, standard(settings)) : changed;
              return then(whole, String(next));
            })
          }
        />
      </div>
    </div>
  );
}
