import { fireEvent } from '@testing-library/react';
import { useState } from 'react';
import { describe, expect, it } from 'vitest';
import { fieldAt } from '../../resources/ts/api/schema';
import { ProfileField } from '../../resources/ts/fields/ProfileField';
import { isRing, kindOf, moved, viewOf, type Point } from '../../resources/ts/fields/profile';
import { documentOf, show } from './harness';

const path = ['props', 0, 'source', 'lathe', 'profile'];
const CONE: Point[] = [
  [0, 0],
  [0.5, 0],
  [0, 1],
];

function open(start = CONE) {
  const seen: { value: Point[]; changes: number } = { value: start, changes: 0 };
  function Outline() {
    const [value, set] = useState(start);
    const change = (next: unknown) => {
      seen.value = next as Point[];
      seen.changes++;
      set(seen.value);
    };
    return <ProfileField id="profile" path={path} field={fieldAt(path)} value={value} onChange={change} />;
  }
  const shown = show(<Outline />, documentOf());
  const svg = shown.getByRole('group', { name: /^Profile: / });
  // As wide on the screen as it is drawn.
  svg.getBoundingClientRect = () => ({ left: 0, top: 0, width: 272, height: 220 }) as DOMRect;
  const press = (on: Element, from: number[], to: number[]) => {
    fireEvent.pointerDown(on, { button: 0, clientX: from[0], clientY: from[1] });
    if (from !== to) fireEvent.pointerMove(window, { clientX: to[0], clientY: to[1] });
    fireEvent.pointerUp(window);
  };
  return { ...shown, seen, svg, press };
}

describe('an outline', () => {
  it('is seen whole, with its axis in the middle', () => {
    const view = viewOf(CONE, 272, 220);
    for (const [r, h] of CONE) {
      const [x, y] = [view.across(r), view.down(h)];
      expect(x).toBeLessThanOrEqual(272);
      expect(y).toBeGreaterThanOrEqual(0);
      expect(y).toBeLessThanOrEqual(220);
      const [back, up] = view.at(x, y);
      expect(back).toBeCloseTo(r);
      expect(up).toBeCloseTo(h);
    }
    expect(view.across(0)).toBe(136);
    // A pixel is worth 5 mm here: steps of a millimetre.
    expect(view.grain).toBe(0.001);
  });

  it('touches its axis with its ends only', () => {
    const view = viewOf(CONE, 272, 220);
    expect(moved(CONE, 0, [0.01, 0.1], view)[0]).toEqual([0, 0.1]);
    expect(moved(CONE, 1, [-0.3, 0.12345], view)[1]).toEqual([0.001, 0.123]);
    expect(moved(CONE, 2, [0.2, 1], view)[2]).toEqual([0.2, 1]);
  });

  it('is a solid, an open shape or a ring', () => {
    expect(kindOf(CONE)).toBe('a solid');
    expect(kindOf(moved(CONE, 0, [0.2, 0], viewOf(CONE, 272, 220)))).toBe('an open shape');
    expect(isRing(CONE.map(([r, h]): Point => [r + 1, h]))).toBe(true);
  });
});

describe('the field of a profile', () => {
  it('drags a point, and changes the document once', () => {
    const { getByRole, press, seen } = open();
    const view = viewOf(CONE, 272, 220);
    press(
      getByRole('slider', { name: 'Point 2 of Profile' }),
      [view.across(0.5), view.down(0)],
      [view.across(0.4), view.down(0.25)],
    );
    expect(seen.changes).toBe(1);
    expect(seen.value[1]?.[0]).toBeCloseTo(0.4, 2);
    expect(seen.value[1]?.[1]).toBeCloseTo(0.25, 2);
  });

  it('puts a point where a line is pressed, and takes one away', () => {
    const { container, getByRole, press, seen } = open();
    const view = viewOf(CONE, 272, 220);
    const at = [view.across(0.25), view.down(0.5)];
    press(container.querySelector('[data-side="1"]') as Element, at, at);
    expect(seen.value).toHaveLength(4);
    expect(seen.value[2]?.[0]).toBeCloseTo(0.25, 2);
    fireEvent.keyDown(getByRole('slider', { name: 'Point 3 of Profile' }), { key: 'Delete' });
    expect(seen.value).toEqual(CONE);
    fireEvent.keyDown(getByRole('slider', { name: 'Point 3 of Profile' }), { key: 'Delete' });
    expect(seen.value, 'fewer than three are no outline').toEqual(CONE);
  });

  it('moves the chosen point by keys and by numbers', async () => {
    const { user, getByRole, seen } = open();
    const point = getByRole('slider', { name: 'Point 2 of Profile' });
    fireEvent.focus(point);
    fireEvent.keyDown(point, { key: 'ArrowUp', shiftKey: true });
    expect(seen.value[1]?.[1]).toBeCloseTo(0.01);
    const radius = getByRole('spinbutton', { name: 'Point 2: radius in m' });
    await user.clear(radius);
    await user.type(radius, '30 cm{Enter}');
    expect(seen.value[1]?.[0]).toBeCloseTo(0.3);
  });

  it('is typed as numbers; a line that cannot be read is named, and the old outline stays', async () => {
    const { user, getByRole, getByText, seen } = open();
    await user.click(getByRole('button', { name: 'As numbers' }));
    const text = getByRole('textbox');
    await user.clear(text);
    await user.type(text, '0 0{Enter}0.2{Enter}0 1');
    await user.tab();
    getByText('Line 2 needs two numbers: radius and height.');
    expect(seen.changes).toBe(0);
    await user.clear(text);
    await user.type(text, '0 0{Enter}0.2, 0{Enter}0 1');
    await user.tab();
    expect(seen.value).toEqual([
      [0, 0],
      [0.2, 0],
      [0, 1],
    ]);
  });
});
