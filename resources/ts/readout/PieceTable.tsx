import { useMemo, useState } from 'react';
import { chosen as chosenKind, kindsOf, traitOf } from '../api/schema';
import { neighboursOf, usePieceEdits, type Edit } from '../stages/pieces';
import { useView } from '../state/view';
import { Button } from '../ui/controls';
import { Select } from '../ui/Select';
import { Changes } from './Changes';
import { areaText, volumeText, massText, lengthText } from './units';

/** What the second column shows: there is room for one of them. */
const MEASURES = { mass: massText, volume: volumeText, longest: lengthText };
type Measure = keyof typeof MEASURES;
const columnsFor = (measure: Measure) =>
  [
    ['number', 'no.'],
    [measure, measure],
    ['touches', 'touches'],
    ['shared', 'shared'],
  ] as const;
type Column = 'number' | Measure | 'touches' | 'shared';

type Again = Edit['with']['pattern'];
const AGAIN = kindsOf('pattern').filter((kind) => traitOf('pattern', kind, 'again', {}) === true) as Again[];
/** Those that are asked for a number of pieces; the others go by sizes (Settings). */
const counts = (pattern: Again) => {
  const { fields } = chosenKind({ pattern }, 'pattern');
  return 'pieces' in fields || 'count' in fields;
};

/** Rows drawn at first; more would make scrolling heavy and are one click away. */
const SHOWN = 100;

/** All pieces as a table: sortable, a click selects in the picture and the other way round. */
export function PieceTable({ density, prefix }: { density: number; prefix: string }) {
  const { facts, chosen, canEdit, canJoin, join, again, lock, edits } = usePieceEdits();
  const [pattern, setPattern] = useState<Again>(AGAIN[0] as Again);
  const hidden = useView((view) => view.hidden);
  const set = useView((view) => view.set);
  const [sorted, setSort] = useState<{ by: Column; down: boolean }>({ by: 'mass', down: false });
  const [all, setAll] = useState(false);
  const [asked, setMeasure] = useState<Measure>('mass');
  const [count, setCount] = useState(6);
  const [share, setShare] = useState(10);
  // What drifts or goes a set way weighs nothing: then its volume says how large it is.
  const heavy = density > 0;
  const measure = asked === 'mass' && !heavy ? 'volume' : asked;
  const sort = sorted.by === 'mass' && !heavy ? { ...sorted, by: 'volume' as const } : sorted;
  const rows = useMemo(() => {
    if (!facts) return [];
    const neighbours = neighboursOf(facts);
    const list = facts.volumes.map((volume, piece) => {
      const touches = neighbours[piece] ?? new Map<number, number>();
      const size = (facts.sizes[piece] ?? []).map((side, axis) => side * (facts.scale[axis] ?? 1));
      return {
        number: piece,
        volume,
        size,
        longest: Math.max(0, ...size),
        mass: volume * density,
        touches: touches.size,
        shared: [...touches.values()].reduce((sum, area) => sum + area, 0),
      };
    });
    return list.sort((a, b) => (sort.down ? b[sort.by] - a[sort.by] : a[sort.by] - b[sort.by]));
  }, [facts, density, sort.by, sort.down]);
  if (!facts) return null;
  const shown = all ? rows : rows.slice(0, SHOWN);
  const small = facts.volumes.flatMap((volume, k) =>
    volume < (share / 100) * facts.mean && !(facts.core && k === 0) ? [k] : [],
  );

  return (
    <section className="mt-3" aria-label="Pieces">
      <div className="mb-2 flex flex-wrap items-center gap-1.5 whitespace-nowrap">
        <Button className="!h-7 !px-2" disabled={small.length === 0} onClick={() => set({ pieces: small })}>
          Select {small.length}
        </Button>
        <span className="ml-auto">
          <Select
            id="measure"
            label="What to show of each piece"
            narrow
            value={measure}
            options={[
              ...(heavy ? [['mass', 'mass'] as [string, string]] : []),
              ['volume', 'volume'],
              ['longest', 'longest side'],
            ]}
            onChange={(value) => {
              const next = value as Measure;
              setMeasure(next);
              if (sort.by === measure) setSort({ ...sort, by: next });
            }}
          />
        </span>
        <label className="flex items-center gap-1.5 text-ink-2">
          under
          <input
            type="number"
            value={share}
            min={0}
            max={1000}
            onChange={(event) => setShare(Number(event.target.value))}
            className="h-7 w-11 rounded-md border border-line bg-paper px-1 text-right text-ink"
          />
          % of mean
        </label>
      </div>
      {chosen.length > 0 || hidden.length > 0 || edits.length > 0 ? (
        <div className="mb-2 rounded-md border border-line bg-paper p-2" data-testid="piece-actions">
          {chosen.length > 0 ? (
            <>
              <p className="mb-1">
                <b>{chosen.length}</b> selected
                {chosen.length === 1 ? `: ${prefix} ${(chosen[0] as number) + 1}` : ''}
              </p>
              <div className="flex flex-wrap gap-1.5">
                {!canEdit ? null : (
                  <>
                    <Button className="!h-7 !px-2" disabled={!canJoin} onClick={join}>
                      {chosen.length === 1 ? 'Join to neighbour' : 'Join these'}
                    </Button>
                    <Button
                      className="!h-7 !px-2"
                      title="Keeps it as it is, whatever the rest is broken into"
                      onClick={lock}
                    >
                      Lock
                    </Button>
                  </>
                )}
                <Button
                  className="!h-7 !px-2"
                  onClick={() => set({ hidden: [...hidden, ...chosen], pieces: [] })}
                >
                  Hide
                </Button>
                {!canEdit ? null : (
                  <span className="flex flex-wrap items-center gap-1">
                    <Button className="!h-7 !px-2 whitespace-nowrap" onClick={() => again(pattern, count)}>
                      Break again
                    </Button>
                    <Select
                      id="again-by"
                      label="Pattern to break it by"
                      narrow
                      value={pattern}
                      options={AGAIN.map((kind) => [kind, kind])}
                      onChange={(kind) => setPattern(kind as Again)}
                    />
                    {counts(pattern) ? (
                      <input
                        type="number"
                        aria-label="Pieces to break it into"
                        value={count}
                        min={2}
                        max={500}
                        onChange={(event) =>
                          setCount(Math.max(2, Math.min(500, Math.round(Number(event.target.value)))))
                        }
                        className="h-7 w-12 rounded-md border border-line bg-paper px-1 text-right"
                      />
                    ) : null}
                  </span>
                )}
              </div>
              {chosen.length > 1 && !canJoin && canEdit ? (
                <p className="mt-1 text-[12px] text-ink-2">
                  They cannot be joined: not all of them touch another.
                </p>
              ) : null}
            </>
          ) : null}
          {hidden.length > 0 ? (
            <p className="mt-1 flex items-center justify-between">
              {hidden.length} hidden (only here)
              <button type="button" className="text-teal underline" onClick={() => set({ hidden: [] })}>
                Show all
              </button>
            </p>
          ) : null}
          {edits.length > 0 ? <Changes /> : null}
        </div>
      ) : null}
      <table className="w-full border-collapse text-right tabular-nums">
        <thead>
          <tr>
            {columnsFor(measure).map(([column, label]) => (
              <th
                key={column}
                scope="col"
                aria-sort={sort.by === column ? (sort.down ? 'descending' : 'ascending') : 'none'}
                className="border-b border-line font-normal"
              >
                <button
                  type="button"
                  className={`w-full py-1 text-right ${sort.by === column ? 'text-teal' : 'text-ink-2'}`}
                  onClick={() => setSort({ by: column, down: sort.by === column ? !sort.down : false })}
                >
                  {label} {sort.by === column ? (sort.down ? '↓' : '↑') : ''}
                </button>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {shown.map((row) => (
            <tr
              key={row.number}
              title={`${prefix} ${row.number + 1}: ${volumeText(row.volume)}, ${row.size.map(lengthText).join(' × ')}`}
              aria-selected={chosen.includes(row.number)}
              className={`cursor-pointer ${chosen.includes(row.number) ? 'bg-teal-wash' : 'hover:bg-well'} ${hidden.includes(row.number) ? 'opacity-45' : ''}`}
              onClick={(event) =>
                set({
                  pieces:
                    event.shiftKey || event.ctrlKey || event.metaKey
                      ? chosen.includes(row.number)
                        ? chosen.filter((k) => k !== row.number)
                        : [...chosen, row.number]
                      : [row.number],
                })
              }
            >
              <td className="py-0.5">
                <button
                  type="button"
                  className="w-full text-right"
                  aria-label={`${prefix} ${row.number + 1}`}
                >
                  {row.number + 1}
                </button>
              </td>
              <td>{MEASURES[measure](row[measure])}</td>
              <td>{row.touches}</td>
              <td>{row.shared > 0 ? areaText(row.shared) : '–'}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {rows.length > shown.length ? (
        <button type="button" className="mt-1 text-teal underline" onClick={() => setAll(true)}>
          Show all {rows.length}
        </button>
      ) : null}
    </section>
  );
}
