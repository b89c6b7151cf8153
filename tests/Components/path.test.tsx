import { describe, expect, it } from 'vitest';
import { standard } from '../../resources/ts/api/schema';
import { PathCard } from '../../resources/ts/stages/PathCard';
import { show, withProp } from './harness';

describe('a path', () => {
  it('begins where the prop stands and is gone along over the shot; off and on again leaves all as it was', async () => {
    const { user, getByRole, seen } = show(<PathCard />, withProp(['position'], { x: 1, y: 2, z: 3 }));
    const prop = () => seen.document.props[0];
    const toggle = getByRole('switch', { name: 'Goes along a path' });
    await user.click(toggle);
    expect(prop()?.path.places).toEqual([
      { x: 1, y: 2, z: 3 },
      { x: 2, y: 2, z: 3 },
    ]);
    expect(prop()?.position).toEqual({ x: 0, y: 0, z: 0 });
    expect(prop()?.path.along).toMatchObject({
      keys: [
        { frame: 1, value: 0 },
        { frame: 48, value: 100 },
      ],
    });
    await user.click(toggle);
    expect(prop()?.path.on).toBe(false);
    expect(prop()?.position).toEqual({ x: 1, y: 2, z: 3 });
    await user.click(toggle);
    expect(prop()?.position).toEqual({ x: 0, y: 0, z: 0 });
    expect(prop()?.path.places).toHaveLength(2);
  });

  it('leaves alone what is keyed already', async () => {
    const keyed = { keys: [{ frame: 1, value: 4, ease: 'linear' }] };
    const { user, getByRole, seen } = show(<PathCard />, withProp(['position'], { x: keyed, y: 0, z: 0 }));
    await user.click(getByRole('switch', { name: 'Goes along a path' }));
    await user.click(getByRole('switch', { name: 'Goes along a path' }));
    expect(seen.document.props[0]?.position.x).toEqual(keyed);
    expect(standard(['props', 0, 'path', 'places'])).toEqual([]);
  });
});
