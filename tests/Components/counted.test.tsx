import { expect, it } from 'vitest';
import { standard } from '../../resources/ts/api/schema';
import { counted } from '../../resources/ts/shot/summary';
import { both } from '../../resources/ts/state/document';
import { documentOf } from './harness';

const prop = (id: string, mover: string, trigger: string, on = true) =>
  both(standard(['props', 0]), { id, name: id, on, motion: { mover }, release: { trigger } });
const of = (...props: ReturnType<typeof prop>[]) => counted(documentOf({ props })).many;

it('counts pieces, or vertices of what bends, which may be torn where it never lets go', () => {
  expect(of(prop('jar', 'rigid', 'frame'))).toBe('pieces');
  expect(of(prop('sail', 'cloth', 'weight'), prop('mast', 'rigid', 'never'))).toBe('vertices');
  expect(of(prop('awning', 'cloth', 'never'), prop('wall', 'rigid', 'never'))).toBe('vertices');
  expect(of(prop('awning', 'cloth', 'never'), prop('jar', 'rigid', 'frame'))).toBe('pieces, vertices');
  expect(of(prop('awning', 'cloth', 'never', false), prop('jar', 'rigid', 'frame'))).toBe('pieces');
});
