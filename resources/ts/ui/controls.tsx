import type { ButtonHTMLAttributes, ReactNode } from 'react';
import { Slider as RadixSlider, Switch as RadixSwitch, ToggleGroup, Tooltip } from 'radix-ui';

type ButtonProps = ButtonHTMLAttributes<HTMLButtonElement> & { look?: 'plain' | 'main' | 'quiet' };

const LOOKS = {
  plain: 'border border-line bg-paper hover:bg-well',
  main: 'border border-teal bg-teal text-[var(--on-teal)] hover:opacity-90',
  quiet: 'border border-transparent hover:bg-well',
};

export function Button({ look = 'plain', className = '', ...rest }: ButtonProps) {
  return (
    <button
      type="button"
      className={`ease inline-flex h-8 items-center justify-center gap-1.5 rounded-md px-3 disabled:opacity-45 ${LOOKS[look]} ${className}`}
      {...rest}
    />
  );
}

/** A button with a symbol; the label is what a screen reader says and what the tooltip shows. */
export function IconButton({
  label,
  keys,
  children,
  className = '',
  ...rest
}: ButtonProps & { label: string; keys?: string }) {
  return (
    <Hint text={keys ? `${label} (${keys})` : label}>
      <Button look="quiet" aria-label={label} className={`w-8 !px-0 ${className}`} {...rest}>
        {children}
      </Button>
    </Hint>
  );
}

export function Hint({ text, children }: { text: string; children: ReactNode }) {
  return (
    <Tooltip.Root delayDuration={350}>
      <Tooltip.Trigger asChild>{children}</Tooltip.Trigger>
      <Tooltip.Portal>
        <Tooltip.Content
          sideOffset={6}
          collisionPadding={8}
          className="z-50 max-w-64 rounded-md bg-ink px-2 py-1 text-[12px] text-paper shadow-lg"
        >
          {text}
        </Tooltip.Content>
      </Tooltip.Portal>
    </Tooltip.Root>
  );
}

export function Switch({
  checked,
  onChange,
  id,
}: {
  checked: boolean;
  onChange: (value: boolean) => void;
  id: string;
}) {
  return (
    <RadixSwitch.Root
      id={id}
      checked={checked}
      onCheckedChange={onChange}
      className={`ease relative h-5 w-9 rounded-full border ${checked ? 'border-teal bg-teal' : 'border-ink-2 bg-well'}`}
    >
      <RadixSwitch.Thumb
        className={`absolute top-[2px] h-3.5 w-3.5 rounded-full ${checked ? 'right-[3px] bg-paper' : 'left-[3px] bg-ink-2'}`}
      />
    </RadixSwitch.Root>
  );
}

export function Slider({
  label,
  min,
  max,
  step,
  value,
  onChange,
}: {
  label: string;
  min: number;
  max: number;
  step: number;
  value: number;
  onChange: (value: number) => void;
}) {
  return (
    <RadixSlider.Root
      className="relative mt-1 flex h-5 w-full touch-none items-center select-none"
      min={min}
      max={max}
      step={step}
      value={[Math.min(max, value)]}
      onValueChange={([next]) => next !== undefined && onChange(next)}
    >
      <RadixSlider.Track className="relative h-1 grow rounded-full bg-well">
        <RadixSlider.Range className="absolute h-full rounded-full bg-teal" />
      </RadixSlider.Track>
      <RadixSlider.Thumb
        aria-label={label}
        className="block h-4 w-4 rounded-full border-2 border-teal bg-paper hover:bg-teal-wash"
      />
    </RadixSlider.Root>
  );
}

/** One of a few ways, all of them in sight. */
export function Toggle({
  label,
  value,
  options,
  onChange,
  className = '',
}: {
  label: string;
  value: string;
  options: [string, ReactNode][];
  onChange: (value: string) => void;
  className?: string;
}) {
  return (
    <ToggleGroup.Root
      type="single"
      aria-label={label}
      value={value}
      onValueChange={(next) => next !== '' && onChange(next)}
      className={`flex overflow-hidden rounded-md border border-line bg-paper ${className}`}
    >
      {options.map(([option, text]) => (
        <ToggleGroup.Item
          key={option}
          value={option}
          data-value={option}
          className="ease inline-flex h-7 items-center gap-1.5 px-2.5 hover:bg-well data-[state=on]:bg-teal-wash data-[state=on]:text-teal"
        >
          {text}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}

/** Over a part of a card. */
export function Heading({ children }: { children: ReactNode }) {
  return <h3 className="mt-4 mb-1 border-t border-line pt-3 font-semibold">{children}</h3>;
}
