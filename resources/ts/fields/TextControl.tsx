import { useState } from 'react';
import type { ControlProps } from './control';

export function TextControl({ id, field, value, onChange }: ControlProps) {
  const [text, setText] = useState<string | null>(null);
  const commit = () => {
    if (text !== null && text !== value && (!field.pattern || new RegExp(field.pattern).test(text)))
      onChange(text);
    setText(null);
  };
  return (
    <input
      id={id}
      value={text ?? String(value)}
      maxLength={field.maxLength}
      onChange={(event) => setText(event.target.value)}
      onBlur={commit}
      onKeyDown={(event) => event.key === 'Enter' && commit()}
      className="h-7 w-[118px] rounded-md border border-line bg-paper px-2"
    />
  );
}
