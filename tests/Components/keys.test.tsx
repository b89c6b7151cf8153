import { following, panned, whole, zoomed } from '../../resources/ts/cues/range';
import { fireEvent } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { standard } from '../../resources/ts/api/schema';
import type { ShotDocument } from '../../resources/ts/api/types';
import { Bars } from '../../resources/ts/cues/Bars';
import { KeyRow } from '../../resources/ts/cues/KeyRow';
import { Field } from '../../resources/ts/fields/Field';
import { seek } from '../../resources/ts/state/frame';
import { useView } from '../../resources/ts/state/view';
import {
  copyKeys,
  deleteKeys,
  keysBelow,
  mirrorKeys,
  moveKeys,
  pasteKeys,
  stretchKeys,
} from '../../resources/ts/state/keyEdits';
import { documentOf, show, withProp } from './harness';

/** Place x goes from 0 to 1 to 5 at frames 1, 11, 21, place y hangs on a cue at 11, and then 5 later. */
function shot(): ShotDocument {
  return documentOf({
    cues: [{ id: 'hit', name: 'Hit', frame: 11 }],
    props: [
      {
        ...(standard(['props', 0]) as object),
        id: 'a',
        name: 'A',
        position: {
          x: {
            keys: [
              { frame: 1, value: 0, ease: 'in' },
              {
                frame: 11,
                value: 1,
                ease: 'curve',
                handles: [
                  [0.1, 0.2],
                  [0.3, 1.4],
                ],
              },
              { frame: 21, value: 5, ease: 'hold' },
            ],
            after: 'repeat',
          },
          y: {
            keys: [
              { cue: 'hit', offset: 0, value: 2, ease: 'linear' },
              { cue: 'hit', offset: 5, value: 3, ease: 'linear' },
            ],
          },
          z: 0,
        },
      },
    ],
  });
}
const x = (doc: ShotDocument) => doc.props[0]?.position.x;
const y = (doc: ShotDocument) => doc.props[0]?.position.y;
const at = (doc: ShotDocument, ...frames: number[]) =>
  keysBelow(doc, ['props', 0]).filter((ref) => frames.includes(ref.frame));
const frames = (doc: ShotDocument) => keysBelow(doc, ['props', 0]).map((ref) => ref.frame);

describe('keys', () => {
  it('are found of all numbers, where their cues put them', () => {
    expect(frames(shot())).toEqual([1, 11, 21, 11, 16]);
  });

  it('of kinds that are not chosen are left out: they do nothing', () => {
    const doc = withProp(['motion'], {
      mover: 'rigid',
      swell: { height: { keys: [{ frame: 5, value: 0.1 }] } },
    });
    expect(frames(doc)).toEqual([]);
    const chosen = withProp(['motion'], {
      mover: 'swell',
      swell: { height: { keys: [{ frame: 5, value: 0.1 }] } },
    });
    expect(frames(chosen)).toEqual([5]);
  });

  it('move together; those on a cue stay on it, what they land on gives way, and the rest of the number is kept', () => {
    const moved = moveKeys(shot(), at(shot(), 11), 10);
    expect(x(moved)).toMatchObject({ keys: [{ frame: 1 }, { frame: 21, value: 1 }], after: 'repeat' });
    expect(y(moved)).toMatchObject({ keys: [{ offset: 5 }, { cue: 'hit', offset: 10, value: 2 }] });
    const doc = shot();
    expect(moveKeys(doc, at(doc, 11), 0)).toBe(doc);
  });

  it('stretch about the first of them, and mirror with their eases', () => {
    expect(frames(stretchKeys(shot(), at(shot(), 11, 16), 2)).sort((a, b) => a - b)).toEqual([
      1, 11, 11, 21, 21,
    ]);
    const mirrored = mirrorKeys(shot(), at(shot(), 1, 11, 21));
    const keys = (
      x(mirrored) as { keys: { frame: number; value: number; ease: string; handles?: number[][] }[] }
    ).keys;
    const sorted = [...keys].sort((a, b) => a.frame - b.frame);
    expect(sorted.map((key) => [key.frame, key.value])).toEqual([
      [1, 5],
      [11, 1],
      [21, 0],
    ]);
    // From 1 to 5 it went by a curve; now from 5 to 1 by the same one the other way round.
    expect(sorted[0]).toMatchObject({
      ease: 'curve',
      handles: [
        [0.7, 1 - 1.4],
        [0.9, 0.8],
      ],
    });
    expect(sorted[1]).toMatchObject({ ease: 'out' });
  });

  it('go to another frame by copying, standing by themselves', () => {
    const pasted = pasteKeys(shot(), copyKeys(shot(), at(shot(), 11, 16)), 30);
    expect(frames(pasted)).toEqual([1, 11, 21, 30, 11, 16, 30, 35]);
    const keys = (y(pasted) as { keys: { cue?: string }[] }).keys;
    expect(keys.slice(2).every((key) => key.cue === undefined)).toBe(true);
    // A number that is keyed no more gets keys again; one that is gone is left out.
    const plain = deleteKeys(shot(), at(shot(), 1, 11, 21));
    expect(x(plain)).toBe(0);
    expect(frames(pasteKeys(plain, copyKeys(shot(), at(shot(), 1)), 7))).toEqual([7, 16]);
    expect(pasteKeys(documentOf({ props: [] }), copyKeys(shot(), at(shot(), 1)), 7).props).toEqual([]);
  });
});

const scale = { x: (frame: number) => 10 * frame, at: (place: number) => Math.round(place / 10) };

describe('the row of keys', () => {
  const row = () => show(<KeyRow {...scale} y={0} height={18} width={500} />, shot());

  it('drags what is chosen, wherever the pointer goes', () => {
    const { getByRole, seen } = row();
    fireEvent.pointerDown(getByRole('button', { name: 'Keys at frame 11' }), { clientX: 110, button: 0 });
    fireEvent.pointerMove(window, { clientX: 125 });
    fireEvent.pointerMove(window, { clientX: 140 });
    fireEvent.pointerUp(window);
    expect(seen.edits).toBe(1);
    expect(frames(seen.document).sort((a, b) => a - b)).toEqual([1, 14, 14, 16, 21]);
  });

  it('chooses a range over free room, copies it and puts it at the frame one looks at', async () => {
    const { user, getByRole, getByTestId, seen } = row();
    fireEvent.pointerDown(getByTestId('key-row'), { clientX: 100, button: 0 });
    fireEvent.pointerMove(window, { clientX: 170 });
    fireEvent.pointerUp(window);
    expect(getByRole('button', { name: 'Keys at frame 11' }).getAttribute('aria-pressed')).toBe('true');
    expect(getByRole('button', { name: 'Keys at frame 21' }).getAttribute('aria-pressed')).toBe('false');
    await user.click(getByRole('button', { name: 'Copy keys' }));
    seek(40);
    await user.click(getByRole('button', { name: 'Put keys here' }));
    expect(frames(seen.document)).toContain(45);
    await user.click(getByRole('button', { name: 'Delete keys' }));
    expect(frames(seen.document).filter((frame) => frame === 11 || frame === 16)).toEqual([]);
  });
});

describe('free room beside the keys', () => {
  it('goes to a frame by a click', () => {
    const { getByTestId, seen } = show(<KeyRow {...scale} y={0} height={18} width={500} />, shot());
    fireEvent.pointerDown(getByTestId('key-row'), { clientX: 330, button: 0 });
    fireEvent.pointerUp(window);
    expect(useView.getState().frame).toBe(33);
    expect(seen.edits).toBe(0);
  });
});

describe('bars of sources', () => {
  it('are dragged as a whole and trimmed at an end, which never passes the other', () => {
    const source = {
      ...(standard(['props', 0, 'weight', 'stack', 0]) as object),
      source: 'sweep',
      sweep: { ...(standard(['props', 0, 'weight', 'stack', 0, 'sweep']) as object), from: 10, to: 30 },
    };
    const { getByRole, seen } = show(
      <Bars {...scale} y={0} width={500} />,
      documentOf({
        props: [
          {
            ...(standard(['props', 0]) as object),
            weight: { ...(standard(['props', 0, 'weight']) as object), stack: [source] },
          },
        ],
      }),
    );
    const range = () => {
      const sweep = seen.document.props[0]?.weight.stack[0]?.sweep;
      return [sweep?.from, sweep?.to];
    };
    const bar = getByRole('button', { name: /^A front sweeps by/ });
    bar.getBoundingClientRect = () => ({ left: 100, right: 300, width: 200 }) as DOMRect;
    const drag = (from: number, to: number) => {
      fireEvent.pointerDown(bar, { clientX: from, button: 0 });
      fireEvent.pointerMove(window, { clientX: to });
      fireEvent.pointerUp(window);
    };
    drag(200, 250);
    expect(range()).toEqual([15, 35]);
    drag(297, 20);
    expect(range()).toEqual([15, 15]);
    drag(200, -400);
    expect(range()).toEqual([1, 1]);
    fireEvent.keyDown(bar, { key: 'ArrowRight', shiftKey: true });
    expect(range()).toEqual([1, 2]);
  });
});

describe('a key’s own curve', () => {
  it('has handles that are moved by arrow keys, and ends that repeat', async () => {
    const { user, getByRole, findByRole, getAllByRole, seen } = show(
      <Field path={['props', 0, 'position', 'x']} />,
      shot(),
    );
    await user.click(getByRole('button', { name: 'Place x: 3 keys' }));
    getAllByRole('slider', { name: /handle 1/ })[0]?.focus();
    await user.keyboard('{ArrowUp}');
    expect(x(seen.document)).toMatchObject({
      keys: [
        {},
        {
          handles: [
            [0.1, 0.22],
            [0.3, 1.4],
          ],
        },
        {},
      ],
      after: 'repeat',
    });
    await user.click(getByRole('combobox', { name: 'After the last' }));
    await user.click(await findByRole('option', { name: 'Back and forth' }));
    expect(x(seen.document)).toMatchObject({
      after: 'mirror',
      keys: [
        {},
        {
          handles: [
            [0.1, 0.22],
            [0.3, 1.4],
          ],
        },
        {},
      ],
    });
  });
});

describe('what the strip shows', () => {
  it('is closer about the frame one points at, and never past the ends', () => {
    const close = zoomed(whole(101), 2, 26, 101);
    expect(close).toEqual({ from: 13.5, to: 63.5 });
    expect((26 - close.from) / (close.to - close.from)).toBeCloseTo(0.25, 12);
    expect(zoomed(whole(101), 4, 1, 101)).toEqual({ from: 1, to: 26 });
    expect(zoomed({ from: 60, to: 80 }, 0.001, 70, 101)).toEqual(whole(101));
    const closest = zoomed(whole(101), 1e6, 50, 101);
    expect(closest.to - closest.from).toBe(8);
    expect(zoomed(whole(5), 10, 2, 5)).toEqual(whole(5));
  });

  it('goes along, as far as there are frames', () => {
    expect(panned({ from: 10, to: 30 }, 5, 101)).toEqual({ from: 15, to: 35 });
    expect(panned({ from: 10, to: 30 }, -50, 101)).toEqual({ from: 1, to: 21 });
    expect(panned({ from: 10, to: 30 }, 500, 101)).toEqual({ from: 81, to: 101 });
  });

  it('turns a page when the frame leaves it', () => {
    const page = { from: 10, to: 30 };
    expect(following(page, 30, 101)).toBe(page);
    expect(following(page, 31, 101)).toEqual({ from: 31, to: 51 });
    expect(following(page, 5, 101)).toEqual({ from: 1, to: 21 });
    expect(following(page, 100, 101)).toEqual({ from: 81, to: 101 });
  });
});
