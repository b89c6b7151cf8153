import { fireEvent } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { KeyButton } from '../../resources/ts/fields/KeyButton';
import { speeds } from '../../resources/ts/fields/CurveView';
import { fieldAt } from '../../resources/ts/api/schema';
import { documentOf, show } from './harness';

const path = ['props', 0, 'position', 'x'];
const keys = [
  { frame: 1, value: 0, ease: 'linear' },
  { cue: 'go', offset: 2, value: 1, ease: 'linear' },
];

async function open() {
  const start = documentOf({
    cues: [{ id: 'go', name: 'Go', frame: 10 }],
    props: [
      {
        ...documentOf().props[0],
        position: { x: { keys }, y: { keys: [keys[0], { ...keys[0], frame: 48, value: 2 }] }, z: 0 },
      },
    ],
  });
  const line = (to: number, over: number) =>
    Array.from({ length: 48 }, (_, k) => Math.min(to, (to * k) / over));
  const shown = show(<KeyButton path={path} field={fieldAt(path)} />, start, undefined, {
    numbers: { '/props/0/position/x': line(1, 11), '/props/0/position/y': line(2, 47) },
  });
  await shown.user.click(shown.getByRole('button', { name: /2 keys/ }));
  const stored = () => {
    const value = shown.seen.document.props[0]?.position.x;
    return typeof value === 'object' ? value.keys : [];
  };
  return { ...shown, stored };
}

describe('the curve of a keyed number', () => {
  it('moves keys by the arrow keys, those of a cue along with it', async () => {
    const { getByRole, stored } = await open();
    const key = getByRole('slider', { name: 'Key at frame 12' });
    fireEvent.keyDown(key, { key: 'ArrowRight' });
    expect(stored()[1]).toMatchObject({ cue: 'go', offset: 3, value: 1 });
    fireEvent.keyDown(getByRole('slider', { name: 'Key at frame 13' }), { key: 'ArrowDown' });
    expect(stored()[1]?.value).toBeCloseTo(1 - (fieldAt(path)['x-step'] ?? 0));
  });

  it('is dragged to whole frames and steps, and never onto another key', async () => {
    const { getByRole, container, stored } = await open();
    const svg = getByRole('group', { name: 'Its value over the shot' });
    // As wide on the screen as it is drawn.
    svg.getBoundingClientRect = () => ({ left: 0, top: 0, width: 444, height: 168 }) as DOMRect;
    const per = (444 - 52 - 10) / 47;
    const drag = (name: string, dx: number, dy: number, more: object = {}) => {
      fireEvent.pointerDown(getByRole('slider', { name }), { button: 0, clientX: 100, clientY: 100 });
      fireEvent.pointerMove(window, { clientX: 100 + dx, clientY: 100 + dy, ...more });
      fireEvent.pointerUp(window);
    };
    drag('Key at frame 12', 4.3 * per, -40);
    expect(stored()[1]?.offset).toBe(6);
    const value = stored()[1]?.value ?? 0;
    const step = fieldAt(path)['x-step'] ?? 0.1;
    expect(value).toBeGreaterThan(1);
    expect(Math.abs(value / step - Math.round(value / step))).toBeLessThan(1e-6);
    drag('Key at frame 16', -15 * per, 3, { shiftKey: true });
    expect(stored()[1]).toMatchObject({ offset: 6, value });
    expect(container).toBeTruthy();
  });

  it('puts a key at a double click, lays others and its speed over it', async () => {
    const { user, getByRole, getByTestId, baseElement, stored } = await open();
    const svg = getByRole('group', { name: 'Its value over the shot' });
    svg.getBoundingClientRect = () => ({ left: 0, top: 0, width: 444, height: 168 }) as DOMRect;
    fireEvent.doubleClick(svg, { clientX: 52 + ((444 - 62) * 29) / 47 });
    expect(stored()).toHaveLength(3);
    expect(stored()[2]).toMatchObject({ frame: 30, value: 1 });
    const lines = () => baseElement.querySelectorAll('polyline').length;
    expect(lines()).toBe(1);
    await user.click(getByRole('button', { name: 'place y' }));
    expect(lines()).toBe(2);
    await user.click(getByRole('button', { name: 'its speed' }));
    expect(lines()).toBe(3);
    // A metre in eleven frames.
    expect(getByTestId('fastest').textContent).toContain(`fastest ${(24 / 11).toPrecision(4)} m/s`);
  });

  it('knows the speed of a line and of a parabola', () => {
    expect(speeds([0, 1, 2, 3], 24)).toEqual([24, 24, 24, 24]);
    expect(speeds([0, 1, 4, 9, 16], 10)).toEqual([10, 20, 40, 60, 70]);
    expect(speeds([5], 24)).toEqual([0]);
  });
});
