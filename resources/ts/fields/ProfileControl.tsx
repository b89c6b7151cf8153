import { useState } from 'react';
import type { ControlProps } from './control';

/** The lathe outline as lines of "radius height". */
export function ProfileControl({ id, value, onChange }: ControlProps) {
  const [text, setText] = useState<string | null>(null);
  const [wrong, setWrong] = useState('');
  const commit = () => {
    if (text === null) return;
    const points = text
      .split('\n')
      .map((line) => line.trim())
      .filter(Boolean)
      .map((line) => line.split(/[\s,;]+/).map(Number));
    const bad = points.findIndex(
      (point) => point.length !== 2 || point.some((number) => !Number.isFinite(number)),
    );
    if (bad >= 0) return setWrong(`Line ${bad + 1} needs two numbers: radius and height.`);
    if (points.length < 3) return setWrong('A profile needs at least three points.');
    setWrong('');
    setText(null);
    onChange(points);
  };
  return (
    <span>
      <textarea
        id={id}
        rows={6}
        value={text ?? (value as number[][]).map((point) => point.join(' ')).join('\n')}
        onChange={(event) => setText(event.target.value)}
        onBlur={commit}
        className={`w-[130px] rounded-md border bg-paper px-2 py-1 ${wrong ? 'border-error' : 'border-line'}`}
      />
      {wrong ? <span className="block w-[130px] text-[12px] text-error">{wrong}</span> : null}
    </span>
  );
}
