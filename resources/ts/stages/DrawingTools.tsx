import { Move, PenLine, Trash2 } from 'lucide-react';
import { useContext, useState } from 'react';
import { getJson } from '../api/client';
import type { Line } from '../board/plane';
import { useLines } from '../board/useLines';
import { ShotContext } from '../shot/context';
import { write } from '../state/document';
import { useView } from '../state/view';
import { Button, Heading, Toggle } from '../ui/controls';
import { FileDrop } from '../ui/FileDrop';
import { Fields } from '../fields/Fields';

/** What one needs beside the board: the tool in hand, a web to begin with, a picture to trace. */
export function DrawingTools() {
  const { handle, prop, propIndex, readouts } = useContext(ShotContext);
  const { lines, change } = useLines();
  const tool = useView((view) => view.tool);
  const selected = useView((view) => view.line);
  const set = useView((view) => view.set);
  const [rays, setRays] = useState(9);
  const [rings, setRings] = useState(3);
  if (!prop) return null;
  const tracing = prop.break.tracing;
  const base = ['props', propIndex, 'break', 'tracing'];
  const begin = async () => {
    await handle.settled();
    const answer = await getJson<{ lines: Line[] }>(
      `shots/${handle.shot.id}/props/${prop.id}/starter?rays=${rays}&rings=${rings}`,
    );
    change([...lines, ...answer.lines]);
    set({ tool: 'move', board: true });
  };
  const bounds = readouts[prop.id]?.health.bounds;
  return (
    <div className="mt-2" data-testid="drawing-tools">
      <div className="flex gap-1.5">
        <Toggle
          label="Tool"
          value={tool}
          options={[
            [
              'draw',
              <>
                <PenLine size={14} /> Draw
              </>,
            ],
            [
              'move',
              <>
                <Move size={14} /> Move
              </>,
            ],
          ]}
          onChange={(next) => set({ tool: next as 'draw' | 'move', board: true })}
        />
        <Button
          disabled={selected === null || selected >= lines.length}
          onClick={() => {
            set({ line: null });
            change(lines.filter((_, k) => k !== selected));
          }}
        >
          <Trash2 size={14} /> Line
        </Button>
      </div>
      <p className="mt-2 flex items-center justify-between text-ink-2">
        <span>
          {lines.length} {lines.length === 1 ? 'line' : 'lines'}
        </span>
        {lines.length > 0 ? (
          <button type="button" className="text-teal underline" onClick={() => change([])}>
            Take all away
          </button>
        ) : null}
      </p>
      <div className="mt-2 flex flex-wrap items-center gap-1.5">
        <Button data-testid="starter" onClick={() => void begin()}>
          Begin with a web
        </Button>
        <Count label="rays" value={rays} min={3} max={40} onChange={setRays} />
        <Count label="rings" value={rings} min={0} max={20} onChange={setRings} />
      </div>
      <Heading>Picture to trace</Heading>
      <FileDrop
        kind="picture"
        name={tracing.fileName}
        asset={tracing.asset}
        onFile={(asset, fileName) =>
          handle.edit((doc) =>
            write(doc, base, {
              ...tracing,
              asset,
              fileName,
              // As wide as the prop, to begin with.
              width: bounds
                ? Math.max(0.01, Number((bounds[1][0] - bounds[0][0]).toFixed(3)))
                : tracing.width,
            }),
          )
        }
      />
      {tracing.asset ? (
        <>
          <Fields base={base} />
          <button
            type="button"
            className="text-teal underline"
            onClick={() => handle.edit((doc) => write(doc, base, { ...tracing, asset: '', fileName: '' }))}
          >
            Take the picture away
          </button>
        </>
      ) : null}
    </div>
  );
}

function Count({
  label,
  value,
  min,
  max,
  onChange,
}: {
  label: string;
  value: number;
  min: number;
  max: number;
  onChange: (value: number) => void;
}) {
  return (
    <label className="flex items-center gap-1 text-ink-2">
      <input
        type="number"
        value={value}
        min={min}
        max={max}
        onChange={(event) => onChange(Math.max(min, Math.min(max, Math.round(Number(event.target.value)))))}
        className="h-7 w-11 rounded-md border border-line bg-paper px-1 text-right text-ink"
      />
      {label}
    </label>
  );
}
