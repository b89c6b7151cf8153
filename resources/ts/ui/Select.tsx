import { Check, ChevronDown } from 'lucide-react';
import { Select as Radix } from 'radix-ui';

/** Radix keeps the empty value for itself. */
const NOTHING = '\u0000';
const inside = (value: string) => (value === '' ? NOTHING : value);
const outside = (value: string) => (value === NOTHING ? '' : value);

export function Select({
  id,
  value,
  options,
  label,
  narrow,
  onChange,
}: {
  id: string;
  value: string;
  options: [string, string][];
  label?: string;
  narrow?: boolean;
  onChange: (value: string) => void;
}) {
  return (
    <Radix.Root value={inside(value)} onValueChange={(next) => onChange(outside(next))}>
      <Radix.Trigger
        id={id}
        aria-label={label}
        data-value={value}
        className={`ease inline-flex h-7 max-w-[170px] ${narrow ? '' : 'min-w-[118px]'} items-center justify-between gap-1 rounded-md border border-line bg-paper px-2 text-left hover:bg-well data-[placeholder]:text-ink-2`}
      >
        <span className="truncate">
          <Radix.Value />
        </span>
        <Radix.Icon>
          <ChevronDown size={14} className="text-ink-2" />
        </Radix.Icon>
      </Radix.Trigger>
      <Radix.Portal>
        <Radix.Content
          position="popper"
          sideOffset={4}
          collisionPadding={8}
          className="z-50 max-h-[var(--radix-select-content-available-height)] min-w-[var(--radix-select-trigger-width)] overflow-hidden rounded-md border border-line bg-card shadow-xl"
        >
          <Radix.Viewport className="p-1">
            {options.map(([option, text]) => (
              <Radix.Item
                key={option}
                value={inside(option)}
                data-value={option}
                className="flex h-7 cursor-default items-center gap-2 rounded-sm pr-3 pl-6 outline-none select-none data-[highlighted]:bg-teal-wash data-[highlighted]:text-teal"
              >
                <Radix.ItemIndicator className="-ml-5 inline-flex w-3.5">
                  <Check size={13} />
                </Radix.ItemIndicator>
                <Radix.ItemText>{text}</Radix.ItemText>
              </Radix.Item>
            ))}
          </Radix.Viewport>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
