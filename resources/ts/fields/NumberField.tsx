import { useEffect, useRef, useState } from 'react';
import { quantity } from './quantity';

interface Props {
  id: string;
  label: string;
  value: number;
  min: number;
  max: number;
  step: number;
  unit?: string | undefined;
  standard?: number;
  whole?: boolean;
  /** Fills the room it is given instead of its usual width. */
  narrow?: boolean | undefined;
  describedBy?: string | undefined;
  onChange: (value: number) => void;
}

/** Shown without the noise of binary fractions. */
export function tidy(value: number): string {
  return String(Number(value.toPrecision(9)));
}

/** A number one can type, drag sideways, step with the arrow keys (Shift: ten times, Alt: a tenth), or set back by double-click. */
export function NumberField({
  id,
  label,
  value,
  min,
  max,
  step,
  unit,
  standard,
  whole,
  narrow,
  describedBy,
  onChange,
}: Props) {
  const [text, setText] = useState<string | null>(null);
  const [wrong, setWrong] = useState(false);
  const drag = useRef<{ x: number; from: number; moved: boolean } | null>(null);
  const input = useRef<HTMLInputElement>(null);
  useEffect(() => setWrong(false), [value]);

  const fit = (number: number) => {
    const limited = Math.min(max, Math.max(min, number));
    return whole ? Math.round(limited) : Number(limited.toPrecision(12));
  };
  const typed = text === null ? null : quantity(text, unit);
  const commit = () => {
    if (text === null) return;
    if (typed === null) setWrong(true);
    else {
      onChange(fit(typed));
      setWrong(false);
    }
    setText(null);
  };
  /** From what has been typed, if anything has. */
  const nudge = (steps: number) => {
    onChange(fit((typed ?? value) + steps * step));
    setWrong(false);
    setText(null);
  };

  return (
    <span
      className={`group flex h-7 ${narrow ? 'min-w-0 flex-1' : 'w-[118px]'} items-center rounded-md border bg-paper ${wrong ? 'border-error' : 'border-line focus-within:border-teal'}`}
      title={`${tidy(min)} to ${tidy(max)}${unit ? ` ${unit}` : ''}. Drag sideways, type, or use the arrow keys.${standard === undefined ? '' : ` Double-click: ${tidy(standard)}.`}`}
    >
      <input
        ref={input}
        id={id}
        role="spinbutton"
        inputMode="decimal"
        autoComplete="off"
        aria-label={unit ? `${label} in ${unit}` : label}
        aria-valuenow={value}
        aria-valuemin={min}
        aria-valuemax={max}
        aria-invalid={wrong}
        aria-describedby={describedBy}
        className={`h-full w-0 min-w-0 flex-1 cursor-ew-resize bg-transparent ${narrow ? 'px-1' : 'px-2'} text-right outline-none focus:cursor-text`}
        value={text ?? tidy(narrow ? Number(value.toPrecision(5)) : value)}
        onChange={(event) => setText(event.target.value)}
        onBlur={commit}
        onFocus={(event) => event.target.select()}
        onDoubleClick={() => standard !== undefined && onChange(standard)}
        onKeyDown={(event) => {
          const times = event.shiftKey ? 10 : event.altKey && !whole ? 0.1 : 1;
          if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
            event.preventDefault();
            nudge(event.key === 'ArrowUp' ? times : -times);
          } else if (event.key === 'Enter') {
            commit();
            input.current?.select();
          } else if (event.key === 'Escape') {
            setText(null);
            event.stopPropagation();
          }
        }}
        onPointerDown={(event) => {
          if (document.activeElement === event.currentTarget || event.button !== 0) return;
          event.preventDefault();
          event.currentTarget.setPointerCapture(event.pointerId);
          drag.current = { x: event.clientX, from: value, moved: false };
        }}
        onPointerMove={(event) => {
          const held = drag.current;
          if (!held) return;
          const way = event.clientX - held.x;
          if (Math.abs(way) > 2) held.moved = true;
          if (held.moved) onChange(fit(held.from + Math.round(way / 3) * step * (event.shiftKey ? 10 : 1)));
        }}
        onPointerUp={() => {
          const held = drag.current;
          drag.current = null;
          if (held && !held.moved) input.current?.focus();
        }}
        onPointerCancel={() => (drag.current = null)}
      />
      {unit && !narrow ? <span className="pr-2 text-[12px] text-ink-2">{unit}</span> : null}
    </span>
  );
}
