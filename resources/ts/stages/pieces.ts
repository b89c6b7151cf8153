import { useContext } from 'react';
import { chosen, standard } from '../api/schema';
import type { PropDocument, PropReadout } from '../api/types';
import { ShotContext } from '../shot/context';
import { read, write } from '../state/document';
import { useView } from '../state/view';

export type PieceFacts = NonNullable<PropReadout['pieces']>;

export type Edit = PropDocument['break']['edits'][number];
type Place = [number, number, number];

const fit = (length: number) => Math.max(0.002, Number(length.toPrecision(2)));

/** Neighbours of each piece with the area they share, m2. */
export function neighboursOf(facts: PieceFacts): Map<number, number>[] {
  const neighbours = facts.volumes.map(() => new Map<number, number>());
  for (const [a, b, area] of facts.touching) {
    neighbours[a]?.set(b, area);
    neighbours[b]?.set(a, area);
  }
  return neighbours;
}

/**
 * The order in which selected pieces can be joined one by one, each to one before it; null if they do not hang together.
 */
export function joinOrder(chosen: number[], facts: PieceFacts): [number, number][] | null {
  const neighbours = neighboursOf(facts);
  const [first, ...rest] = chosen;
  if (first === undefined || rest.length === 0) return null;
  const joined = [first];
  const pairs: [number, number][] = [];
  while (rest.length > 0) {
    const next = rest.findIndex((k) => joined.some((j) => neighbours[k]?.has(j)));
    if (next < 0) return null;
    const [piece] = rest.splice(next, 1) as [number];
    pairs.push([piece, joined.find((j) => neighbours[piece]?.has(j)) as number]);
    joined.push(piece);
  }
  return pairs;
}

/** What can be done to single pieces of the open prop. */
export function usePieceEdits() {
  const { handle, prop, propIndex, readouts } = useContext(ShotContext);
  const facts = prop ? (readouts[prop.id]?.pieces ?? null) : null;
  const picked = useView((view) => view.pieces).filter((k) => k < (facts?.count ?? 0));
  const path = ['props', propIndex, 'break', 'edits'];
  const edits = prop?.break.edits ?? [];
  const plain = standard([...path, 0, 'with']) as Edit['with'];
  const add = (more: Edit[]) => {
    handle.edit((doc) => write(doc, path, [...((read(doc, path) as Edit[] | undefined) ?? []), ...more]));
    useView.getState().set({ pieces: [], hidden: [] });
  };
  const middle = (k: number) => facts?.middles[k] as Place;
  const order = facts ? joinOrder(picked, facts) : null;
  const largest = () => {
    const [piece] = picked;
    if (!facts || piece === undefined || picked.length !== 1) return null;
    return [...(neighboursOf(facts)[piece] ?? [])].sort((a, b) => b[1] - a[1])[0]?.[0] ?? null;
  };

  // A skin, parts and copies are made piece by piece already; only what is cut from a whole can be cut otherwise.
  const pattern = chosen(prop?.break, 'pattern');
  const canEdit = !pattern.has('skin') && !pattern.has('copies');

  return {
    facts,
    chosen: picked,
    edits,
    canEdit,
    /** Joins what is selected; a single piece goes to the neighbour it shares most with. */
    canJoin: canEdit && (order !== null || largest() !== null),
    join: () => {
      const pairs = order ?? (largest() === null ? [] : [[picked[0], largest()] as [number, number]]);
      add(pairs.map(([a, b]) => ({ kind: 'join' as const, at: middle(a), to: middle(b), with: plain })));
    },
    /** By a pattern of their own; its settings can be changed in the list of changes. */
    again: (pattern: Edit['with']['pattern'], pieces: number) =>
      add(
        picked.map((k, n) => {
          const size = Math.max(...(facts?.sizes[k] ?? [1]));
          const settings = standard([...path, 0, 'with', pattern]) as Record<string, unknown>;
          const suited: Record<string, unknown> = {
            pieces,
            count: pieces,
            seed: edits.length + n + 1,
            // A blow lands in the middle of the piece; everything is as large as suits it.
            at: { x: middle(k)[0], y: middle(k)[1], z: middle(k)[2] },
            radius: fit(0.6 * size),
            length: fit(size / 3),
            height: fit(size / 5),
          };
          const known = Object.entries(suited).filter(([name]) => name in settings);
          return {
            kind: 'again' as const,
            at: middle(k),
            to: [0, 0, 0] as Place,
            with: {
              pattern,
              [pattern]: { ...settings, ...Object.fromEntries(known) },
            } as unknown as Edit['with'],
          };
        }),
      ),
    /** Keeps them as this break made them, whatever the rest is broken into later. */
    lock: () => {
      const made = { pattern: pattern.kind, [pattern.kind]: pattern.settings } as unknown as Edit['with'];
      add(picked.map((k) => ({ kind: 'lock' as const, at: middle(k), to: [0, 0, 0] as Place, with: made })));
    },
    drop: (n: number) =>
      handle.edit((doc) =>
        write(
          doc,
          path,
          edits.filter((_, k) => k !== n),
        ),
      ),
    path,
    dropAll: () => handle.edit((doc) => write(doc, path, [])),
  };
}
