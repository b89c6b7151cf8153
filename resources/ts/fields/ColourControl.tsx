import type { ControlProps } from './control';

export function ColourControl({ id, value, onChange }: ControlProps) {
  return (
    <input
      id={id}
      type="color"
      value={String(value)}
      onChange={(event) => onChange(event.target.value)}
      className="h-7 w-14 rounded-md border border-line bg-paper"
    />
  );
}
