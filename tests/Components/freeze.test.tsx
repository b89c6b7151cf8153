import { waitFor } from '@testing-library/react';
import { expect, it, vi } from 'vitest';
import type { BakeState } from '../../resources/ts/api/types';
import { Freeze, withFrozen } from '../../resources/ts/stages/Freeze';
import { withProp, show } from './harness';

const MESH = { asset: 'f'.repeat(64), name: 'A at 12.obj', middle: { x: 0.123456, y: 1, z: -2 } };

it('is a still prop of the mesh, where it was and in its colours, and never of a name twice', () => {
  const document = withProp(['look', 'outer'], '#123456');
  const once = withFrozen(document, 'a', 12, MESH);
  const made = once.props[1];
  expect(made?.name).toBe('A at 12');
  expect(made?.source).toMatchObject({ kind: 'file', file: { asset: MESH.asset, fileName: MESH.name } });
  expect(made?.position).toEqual({ x: 0.1235, y: 1, z: -2 });
  expect(made?.break.pattern).toBe('whole');
  expect(made?.release.trigger).toBe('never');
  expect(made?.look.outer).toBe('#123456');
  const twice = withFrozen(once, 'a', 12, MESH).props[2];
  expect(twice?.name).not.toBe(made?.name);
  expect(twice?.id).not.toBe(made?.id);
});

it('freezes what one chose at the frame one looks at, and says why it cannot be', async () => {
  const asked = vi
    .spyOn(globalThis, 'fetch')
    .mockImplementation(() =>
      Promise.resolve(
        new Response(JSON.stringify(MESH), { status: 201, headers: { 'Content-Type': 'application/json' } }),
      ),
    );
  const bake = { id: 'b', props: ['a'] } as unknown as BakeState;
  const { user, getByTestId, seen } = show(<Freeze bake={bake} />, withProp(['name'], 'Jar'));
  await user.click(getByTestId('freeze'));
  await waitFor(() => expect(seen.document.props).toHaveLength(2));
  expect(asked.mock.calls[0]?.[0]).toBe('/api/bakes/b/freeze');
  expect(asked.mock.calls[0]?.[1]?.body).toBe('{"prop":"a","frame":1}');
});
