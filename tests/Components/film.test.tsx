import { waitFor } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { darkroom } from '../../resources/ts/film/darkroom';
import { foldersOf, takeFilm, widthFor, type Order } from '../../resources/ts/film/film';
import { FilmCard } from '../../resources/ts/stages/FilmCard';
import { useView } from '../../resources/ts/state/view';
import { ALL, GROUND } from '../../resources/ts/viewport/passes';
import { documentOf, show } from './harness';

const ORDER: Order = {
  kind: 'png',
  props: new Map(),
  from: 1,
  to: 3,
  first: 1,
  fps: 24,
  height: 90,
  named: null,
  name: 'a',
};

/** A darkroom without a picture: it notes which frames were asked for, and whether what one sees was put back. */
function room(take: (frame: number) => Promise<void> = () => Promise.resolve()) {
  const seen = {
    frames: [] as number[],
    passes: [] as string[],
    layers: [] as number[],
    sizes: [] as number[],
    closed: 0,
  };
  darkroom.current = {
    aspect: () => 16 / 9,
    open: (width, height) => {
      seen.sizes.push(width, height);
      return Promise.resolve({
        take: (frame, onto) => {
          seen.frames.push(frame);
          seen.passes = onto.map(({ pass }) => pass);
          for (const one of onto) if ('only' in one) seen.layers.push(one.only);
          for (const one of onto) if ('file' in one) one.file = new Uint8Array([1, 2, 3]);
          return take(frame);
        },
        close: () => {
          seen.closed++;
        },
      });
    },
  };
  const paper = { clearRect: () => undefined } as unknown as CanvasRenderingContext2D;
  vi.spyOn(HTMLCanvasElement.prototype, 'getContext').mockImplementation(function (this: HTMLCanvasElement) {
    return Object.assign(paper, { canvas: this });
  } as never);
  vi.spyOn(HTMLCanvasElement.prototype, 'toBlob').mockImplementation((done) => done(new Blob(['picture'])));
  return seen;
}

describe('a film', () => {
  afterEach(() => {
    darkroom.current = null;
    vi.restoreAllMocks();
  });

  it('is as wide as encoders take it', () => {
    expect(widthFor(720, 16 / 9)).toBe(1280);
    expect(widthFor(361, 1)).toBe(362);
    expect(widthFor(10, 0.01)).toBe(2);
  });

  it('is taken frame by frame, and puts back what one sees', async () => {
    const seen = room();
    const told: number[] = [];
    const blob = await takeFilm(ORDER, new AbortController().signal, (done) => told.push(done));
    expect(blob.size).toBeGreaterThan(3 * 'picture'.length);
    expect(seen).toEqual({
      frames: [1, 2, 3],
      passes: ['picture'],
      layers: [ALL, ALL, ALL],
      sizes: [160, 90],
      closed: 1,
    });
    expect(told).toEqual([1, 2, 3]);
    const all = await (
      await takeFilm({ ...ORDER, kind: 'passes' }, new AbortController().signal, () => 0)
    ).text();
    expect(seen.passes).toEqual(['picture', 'pieces', 'props', 'normals', 'weight', 'depth', 'motion']);
    // Once where the file begins, once in the list at the end.
    expect(all.split('normals/a.0002.png')).toHaveLength(3);
    expect(all.split('depth/a.0002.exr')).toHaveLength(3);
  });

  it('takes the frames that it is told to, and calls them as it is told to', async () => {
    const seen = room();
    const told: number[] = [];
    const some = { ...ORDER, from: 2, first: 1001 };
    const all = await (await takeFilm(some, new AbortController().signal, (done) => told.push(done))).text();
    expect(seen.frames).toEqual([2, 3]);
    expect(told).toEqual([1, 2]);
    expect(all).toContain('a.1002.png');
    expect(all).toContain('a.1003.png');
    expect(all).not.toContain('a.1001.png');
  });

  it('takes a layer for each prop, and one of what is no prop; many in turns', async () => {
    const seen = room();
    const names = Array.from({ length: 9 }, (_, k) => [2 * k, `P${k}`] as const);
    const order: Order = { ...ORDER, kind: 'layers', to: 2, props: new Map(names) };
    const told: number[] = [];
    const all = await (await takeFilm(order, new AbortController().signal, (done) => told.push(done))).text();
    const each = [GROUND, ...names.map(([number]) => number)];
    expect(seen.layers).toEqual([...each, ...each]);
    expect(seen.frames).toEqual([1, 1, 2, 2]);
    expect(told).toEqual([1, 2]);
    for (const name of ['ground/a.0001.png', 'P0/a.0002.png', 'P8/a.0002.png']) expect(all).toContain(name);
  });

  it('has folders that can be told apart, whatever props are called', () => {
    const prop = (id: string, name: string) => ({ id, name });
    const props = [
      prop('a', 'Ground'),
      prop('b', 'Clay jar'),
      prop('c', 'not in the bake'),
      prop('d', 'clay/jar'),
      prop('e', '鐘'),
    ];
    expect([...foldersOf(props, ['a', 'b', 'd', 'e'])]).toEqual([
      [0, 'Ground-a'],
      [1, 'Clay-jar'],
      [3, 'clay-jar-d'],
      [4, 'prop-e'],
    ]);
  });

  it('calls the first frame as the shot does', async () => {
    room();
    const names: string[] = [];
    vi.spyOn(URL, 'createObjectURL').mockImplementation((blob) => {
      void (blob as Blob).text().then((text) => names.push(text));
      return 'blob:';
    });
    const { user, getByRole } = show(<FilmCard frames={2} props={[]} />, documentOf({ firstFrame: 1001 }));
    await user.click(getByRole('button', { name: 'PNGs' }));
    await waitFor(() => expect(names).toHaveLength(1));
    expect(names[0]).toContain('.1001.png');
    expect(names[0]).toContain('.1002.png');
  });

  it('is of the frames that loop, or of all', async () => {
    const seen = room();
    useView.getState().set({ span: { from: 2, to: 3 } });
    try {
      const { user, getByRole, findByRole } = show(<FilmCard frames={4} props={[]} />, documentOf());
      await user.click(getByRole('button', { name: 'PNGs' }));
      await waitFor(() => expect(seen.closed).toBe(1));
      expect(seen.frames).toEqual([2, 3]);
      await user.click(getByRole('combobox', { name: 'Frames' }));
      await user.click(await findByRole('option', { name: 'all 4' }));
      await user.click(getByRole('button', { name: 'PNGs' }));
      await waitFor(() => expect(seen.closed).toBe(2));
      expect(seen.frames).toEqual([2, 3, 1, 2, 3, 4]);
    } finally {
      useView.getState().set({ span: null });
    }
  });

  it('stops when it is told to, and when the picture is left', async () => {
    const stop = new AbortController();
    const seen = room();
    await expect(takeFilm(ORDER, stop.signal, () => stop.abort())).rejects.toThrow();
    expect(seen).toMatchObject({ frames: [1], closed: 1 });
    const left = room(() => {
      darkroom.current = null;
      return Promise.resolve();
    });
    await expect(takeFilm(ORDER, new AbortController().signal, () => undefined)).rejects.toThrow('was left');
    expect(left.closed).toBe(1);
    await expect(takeFilm(ORDER, new AbortController().signal, () => undefined)).rejects.toThrow(
      'look at the bake',
    );
  });

  it('says on its card how far it is and what went wrong', async () => {
    let go: () => void = () => undefined;
    const seen = room((frame) =>
      frame === 1
        ? new Promise((done) => (go = done))
        : Promise.reject(new Error('Frame 2 does not come. Is the server still there?')),
    );
    const { user, getByRole, findByRole, getByText } = show(<FilmCard frames={3} props={[]} />, documentOf());
    await user.click(getByRole('button', { name: 'PNGs' }));
    expect((await findByRole('progressbar')).getAttribute('aria-valuemax')).toBe('3');
    getByText('0 of 3');
    await waitFor(() => expect(seen.frames).toEqual([1]));
    go();
    expect((await findByRole('alert')).textContent).toContain('Frame 2 does not come');
    await waitFor(() => getByRole('button', { name: 'PNGs' }));
    // Here nothing can encode.
    expect(getByRole('button', { name: 'WebM' }).hasAttribute('disabled')).toBe(true);
  });
});
