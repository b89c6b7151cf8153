import { Check, X } from 'lucide-react';
import { Checkbox } from 'radix-ui';
import { useContext } from 'react';
import { ShotContext } from '../shot/context';
import { IconButton } from '../ui/controls';
import type { ControlProps } from './control';

/** Some of the other props: a box to tick for each. What is named but no longer there can be taken out. */
export function PropsField({ id, path, field, value, onChange }: ControlProps) {
  const { handle } = useContext(ShotContext);
  const chosen = (value ?? []) as string[];
  const own = path[0] === 'props' ? handle.shot.document.props[Number(path[1])]?.id : undefined;
  const others = handle.shot.document.props.filter((prop) => prop.id !== own);
  const gone = chosen.filter((each) => !others.some((prop) => prop.id === each));
  return (
    <fieldset className="py-1" data-field={path.join('/')} aria-describedby={`${id}-help`}>
      <legend title={field.description}>{field.title}</legend>
      {others.length === 0 ? (
        <p className="text-ink-2">There is no other prop in the shot yet. Add one in Prop.</p>
      ) : null}
      {others.map((prop) => (
        <label key={prop.id} className="flex min-h-7 items-center gap-2">
          <Checkbox.Root
            className="ease grid size-4.5 place-items-center rounded-sm border border-line bg-paper data-[state=checked]:border-teal data-[state=checked]:bg-teal data-[state=checked]:text-paper"
            checked={chosen.includes(prop.id)}
            onCheckedChange={(on) =>
              onChange(on === true ? [...chosen, prop.id] : chosen.filter((each) => each !== prop.id))
            }
          >
            <Checkbox.Indicator>
              <Check size={13} />
            </Checkbox.Indicator>
          </Checkbox.Root>
          {prop.name}
        </label>
      ))}
      {gone.map((each) => (
        <p key={each} className="flex items-center justify-between text-error">
          “{each}” is no longer in the shot.
          <IconButton
            label={`Take out ${each}`}
            className="!h-7"
            onClick={() => onChange(chosen.filter((other) => other !== each))}
          >
            <X size={14} />
          </IconButton>
        </p>
      ))}
      <p id={`${id}-help`} className="sr-only">
        {field.description}
      </p>
    </fieldset>
  );
}
