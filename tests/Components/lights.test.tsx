import { screen } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { fieldAt, standard } from '../../resources/ts/api/schema';
import { Fields, Presets } from '../../resources/ts/fields/Fields';
import { comesFrom, shadowOf, strengthOf } from '../../resources/ts/viewport/lights';
import { documentOf, show } from './harness';

const lit = (lights: object) => documentOf({ lights });

describe('the light of the shot', () => {
  it('comes from where it is said', () => {
    const from = (sunAngle: number, sunHeight: number) =>
      comesFrom(lit({ sunAngle, sunHeight }), {}, 'sun', 1).toArray();
    const near = (a: number[], b: number[]) =>
      a.forEach((value, axis) => expect(value).toBeCloseTo(b[axis] ?? NaN, 12));
    near(from(0, 0), [0, 0, 1]);
    near(from(90, 0), [1, 0, 0]);
    near(from(270, 0), [-1, 0, 0]);
    near(from(33, 90), [0, 1, 0]);
    near(from(90, 45), [Math.SQRT1_2, Math.SQRT1_2, 0]);
  });

  it('goes by its keys, between frames too', () => {
    const keys = [
      { frame: 1, value: 0, ease: 'linear' },
      { frame: 3, value: 4 },
    ];
    const numbers = { '/lights/sky': [0, 2, 4] };
    expect(strengthOf(lit({ sky: { keys } }), numbers, 'sky', 2.5)).toBe(3);
  });

  it('throws shadows as dark as the sun outshines the rest', () => {
    const [day, dull, none] = [lit({}), lit({ sky: 6 }), lit({ sun: 0 })].map((document) =>
      shadowOf(document, {}, 1),
    ) as [number, number, number];
    expect(day).toBeCloseTo(0.22, 2);
    expect(dull).toBeLessThan(day / 2);
    expect(none).toBe(0);
    expect(shadowOf(lit({ sun: 0, fill: 0, sky: 0 }), {}, 1)).toBe(0);
  });

  it('is set at once by what it is like, each of which says all of it', async () => {
    const names = Object.keys(standard(['lights']) as object).sort();
    const presets = fieldAt(['lights'])['x-presets'] ?? [];
    expect(presets.length).toBeGreaterThan(4);
    for (const { values } of presets) expect(Object.keys(values).sort()).toEqual(names);
    const { user, seen } = show(
      <>
        <Presets base={['lights']} />
        <Fields base={['lights']} />
      </>,
      lit({}),
    );
    const like = screen.getByLabelText('Like');
    expect(like.textContent).toContain('Daylight');
    like.focus();
    await user.keyboard('{Enter}');
    await user.click(await screen.findByRole('option', { name: 'Low sun' }));
    expect(seen.document.lights.sunHeight).toBe(12);
    expect(screen.getByLabelText<HTMLInputElement>('Sun from').value).toContain('75');
    await user.click(screen.getByRole('button', { name: 'More' }));
    expect(screen.getByLabelText('Rim from')).toBeTruthy();
  });
});
