import { screen, waitFor } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { CameraFile } from '../../resources/ts/stages/CameraFile';
import { FileMotion } from '../../resources/ts/stages/FileMotion';
import { useView } from '../../resources/ts/state/view';
import { withProp, documentOf, show } from './harness';

const keys = {
  position: {
    x: {
      keys: [
        { frame: 1, value: 0, ease: 'linear' },
        { frame: 49, value: 2, ease: 'linear' },
      ],
    },
    y: 1,
    z: 0,
  },
  rotation: { x: 0, y: 90, z: 0 },
  scale: { x: 1, y: 1, z: 1 },
};
const camera = {
  on: true,
  aspect: '16:9',
  position: { x: keys.position.x, y: 1, z: 4 },
  target: { x: keys.position.x, y: 1, z: 1 },
  orbit: 0,
  roll: 0,
  lens: 50,
};

/** A server that knows a file. */
function server(answers: Record<string, unknown>) {
  return vi.spyOn(globalThis, 'fetch').mockImplementation((asked) => {
    const path = asked instanceof Request ? asked.url : asked.toString();
    const found = Object.entries(answers).find(([part]) => path.includes(part));
    return Promise.resolve(new Response(JSON.stringify(found?.[1] ?? {}), { status: found ? 200 : 404 }));
  });
}

const fromFile = withProp(['source'], { kind: 'file', file: { asset: 'a'.repeat(64), fileName: 'a.glb' } });

describe('what moves in a file', () => {
  afterEach(() => vi.restoreAllMocks());

  it('is played, moved as in its file', async () => {
    server({ motion: { clips: [], frames: 36, keys: null, why: 'It bends.' } });
    const { user, seen } = show(<FileMotion />, fromFile);
    expect((await screen.findByTestId('file-motion')).textContent).toContain('for 36 frames. It bends');
    expect(screen.queryByTestId('file-motion-keys')).toBeNull();
    await user.click(screen.getByTestId('file-motion-play'));
    expect(seen.document.props[0]).toMatchObject({
      played: { on: true },
      motion: { mover: 'played' },
      break: { pattern: 'whole' },
      release: { trigger: 'never' },
    });
    screen.getByText('Speed');
    expect(screen.getByTestId('file-motion').textContent).toMatch(
      /Moved as [a-z ]*light pieces.* it can come apart on its way/,
    );
  });

  it('is one of several animations, if one likes', async () => {
    server({ motion: { clips: ['idle', 'run'], frames: 20, keys: null, why: '' } });
    const { user, seen } = show(<FileMotion />, fromFile);
    const choice = await screen.findByRole('combobox', { name: 'Animation' });
    expect(choice.textContent).toBe('all together');
    await user.click(choice);
    await user.click(screen.getByRole('option', { name: 'run' }));
    expect(seen.document.props[0]?.played.clip).toBe('run');
  });

  it('says what is wrong with the one that was chosen', async () => {
    const why = 'The file has no animation “walk”. It has “run”.';
    server({ motion: { clips: ['run'], frames: 0, keys: null, why } });
    show(<FileMotion />, {
      ...fromFile,
      props: fromFile.props.map((prop) => ({ ...prop, played: { ...prop.played, clip: 'walk' } })),
    });
    expect((await screen.findByTestId('file-motion')).textContent).toBe(why);
    expect(screen.getByRole('combobox', { name: 'Animation' }).textContent).toBe('walk (gone)');
    expect(screen.queryByTestId('file-motion-play')).toBeNull();
  });

  it('goes along in pieces where it is moved so', async () => {
    server({ motion: { clips: [], frames: 36, keys: null, why: '' } });
    const staged = {
      ...fromFile,
      props: fromFile.props.map((prop) => ({
        ...prop,
        motion: { ...prop.motion, mover: 'staged' as const },
      })),
    };
    const { user, seen } = show(<FileMotion />, staged);
    await user.click(await screen.findByTestId('file-motion-play'));
    expect(seen.document.props[0]).toMatchObject({ played: { on: true }, motion: { mover: 'staged' } });
    expect(seen.document.props[0]?.break).toEqual(staged.props[0]?.break);
    expect(screen.getByTestId('file-motion').textContent).not.toContain('come apart');
  });

  it('leads cloth that is cloth already, and says when it lasts longer than the shot', async () => {
    server({ motion: { clips: [], frames: 36, keys: null, why: '' } });
    const cloth = {
      ...fromFile,
      frames: 40,
      props: fromFile.props.map((prop) => ({
        ...prop,
        motion: { ...prop.motion, mover: 'cloth' as const },
        played: { ...prop.played, starts: 10 },
      })),
    };
    const { user, seen } = show(<FileMotion />, cloth);
    await user.click(await screen.findByTestId('file-motion-play'));
    expect(seen.document.props[0]?.motion.mover).toBe('cloth');
    expect(screen.getByTestId('file-motion').textContent).toContain('until frame 46; the shot ends at 40');
  });

  it('gives its keys to the prop where it moves as one', async () => {
    server({ motion: { clips: [], frames: 48, keys, why: '' } });
    const { user, seen } = show(<FileMotion />, fromFile);
    await user.click(await screen.findByTestId('file-motion-keys'));
    expect(seen.document.props[0]).toMatchObject(keys);
    expect(screen.getByRole('status').textContent).toContain('have the keys of the file');
  });

  it('is not spoken of where nothing moves', async () => {
    const asked = server({ motion: { clips: [], frames: 0, keys: null, why: '' } });
    const { container } = show(<FileMotion />, fromFile);
    await waitFor(() => expect(asked).toHaveBeenCalled());
    expect(container.textContent).toBe('');
    show(<FileMotion />, documentOf());
    expect(asked).toHaveBeenCalledTimes(1);
  });
});

describe('the camera of a file', () => {
  afterEach(() => vi.restoreAllMocks());

  it('becomes that of the shot, the one that moves first', async () => {
    const asked = server({
      'cameras/7': { camera, note: 'It sees as much.' },
      assets: {
        asset: 'b'.repeat(64),
        name: 'track.glb',
        cameras: [
          { node: 5, name: 'witness', moves: false },
          { node: 7, name: 'main', moves: true },
        ],
      },
    });
    const { user, seen } = show(
      <CameraFile />,
      documentOf({ camera: { position: { x: 0, y: 0, z: 2 }, target: { x: 0, y: 0, z: 0 } } }),
    );
    await user.click(screen.getByTestId('camera-file-open'));
    await user.upload(screen.getByTestId('camera-file'), new File(['x'], 'track.glb'));
    await user.click(await screen.findByTestId('camera-take'));
    expect((await screen.findByTestId('camera-said')).textContent).toContain(
      'It moves until frame 49; the shot ends at 48. It sees as much.',
    );
    expect(seen.document.camera).toMatchObject(camera);
    expect(useView.getState().through).toBe(true);
    const last = asked.mock.lastCall?.[0] as string;
    expect(new URLSearchParams(last.split('?')[1]).get('away')).toBe('2');
  });

  it('says what is wrong, and changes nothing', async () => {
    vi.spyOn(globalThis, 'fetch').mockImplementation(() =>
      Promise.resolve(
        new Response(JSON.stringify({ title: 'No', detail: 'It has no camera.' }), { status: 422 }),
      ),
    );
    const { user, seen } = show(<CameraFile />, documentOf());
    await user.click(screen.getByTestId('camera-file-open'));
    await user.upload(screen.getByTestId('camera-file'), new File(['x'], 'track.glb'));
    expect((await screen.findByRole('alert')).textContent).toContain('It has no camera.');
    expect(seen.edits).toBe(0);
  });
});
