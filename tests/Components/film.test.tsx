import { waitFor } from '@testing-library/react';
import { FloatType } from 'three';
import { EXRLoader } from 'three/addons/loaders/EXRLoader.js';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { darkroom } from '../../resources/ts/film/darkroom';
import { Blend, MOMENTS, momentsOf } from '../../resources/ts/film/blend';
import { composed } from '../../resources/ts/film/exr';
import { foldersOf, takeFilm, widthFor, type Order } from '../../resources/ts/film/film';
import { FilmCard } from '../../resources/ts/stages/FilmCard';
import { useView } from '../../resources/ts/state/view';
import { ALL, GROUND, PASSES } from '../../resources/ts/viewport/passes';
import { documentOf, show } from './harness';

const ORDER: Order = {
  kind: 'png',
  props: new Map(),
  from: 1,
  to: 3,
  first: 1,
  fps: 24,
  height: 90,
  blur: 0,
  named: null,
  name: 'a',
};

/** How much each frame was blurred. */
const blurs: number[] = [];

/** A darkroom without a picture: it notes which frames were asked for, and whether what one sees was put back. */
function room(take: (frame: number) => Promise<void> = () => Promise.resolve()) {
  const seen = {
    frames: [] as number[],
    passes: [] as string[],
    layers: [] as number[],
    sizes: [] as number[],
    closed: 0,
  };
  blurs.length = 0;
  darkroom.current = {
    aspect: () => 16 / 9,
    open: (width, height) => {
      seen.sizes.push(width, height);
      return Promise.resolve({
        take: (frame, onto, blur) => {
          seen.frames.push(frame);
          blurs.push(blur);
          seen.passes = onto.map(({ pass }) => pass);
          for (const one of onto) if ('only' in one) seen.layers.push(one.only);
          for (const one of onto) if ('file' in one) one.file = new Uint8Array([1, 2, 3]);
          for (const one of onto)
            if ('channels' in one)
              one.numbers = new Float32Array(one.channels.length * 160 * 90).fill(onto.indexOf(one));
          return take(frame);
        },
        behind: () => Promise.resolve(),
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

  it('is blurred as much as is said', async () => {
    room();
    await takeFilm({ ...ORDER, blur: 0.5 }, new AbortController().signal, () => 0);
    expect(blurs).toEqual([0.5, 0.5, 0.5]);
    expect(momentsOf(7, 0, 10)).toEqual([7]);
    const moments = momentsOf(7, 0.5, 10);
    expect(moments).toHaveLength(MOMENTS);
    expect(moments.reduce((sum, moment) => sum + moment, 0) / MOMENTS).toBeCloseTo(7);
    expect(Math.max(...moments) - Math.min(...moments)).toBeCloseTo((0.5 * (MOMENTS - 1)) / MOMENTS);
    // The first frame and the last are half as long: there is nothing before and after.
    expect(Math.min(...momentsOf(1, 1, 10))).toBe(1);
    expect(Math.max(...momentsOf(10, 1, 10))).toBe(10);
  });

  it('blends what it sees at several moments', () => {
    vi.stubGlobal(
      'ImageData',
      class {
        constructor(readonly data: Uint8ClampedArray) {}
      },
    );
    // Two pixels, one above the other: red that is there half of the time below, blue above.
    const blend = new Blend(1, 2);
    const see = (...pixels: number[]) => {
      blend.pixels.set(pixels);
      blend.add();
    };
    see(255, 0, 0, 255, 0, 0, 200, 200);
    see(0, 0, 0, 0, 0, 0, 200, 200);
    expect([...blend.mean().data]).toEqual([0, 0, 255, 200, 255, 0, 0, 128]);
    // Nothing is left of it for the next frame.
    see(0, 9, 0, 255, 0, 0, 0, 0);
    expect([...blend.mean().data]).toEqual([0, 0, 0, 0, 0, 9, 0, 255]);
    vi.unstubAllGlobals();
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

  it('is one EXR a frame with a part for each pass and each layer, as others read it', async () => {
    const seen = room();
    const order: Order = { ...ORDER, kind: 'exr', to: 2, props: new Map([[3, 'Jar']]) };
    const zip = new Uint8Array(
      await (await takeFilm(order, new AbortController().signal, () => undefined)).arrayBuffer(),
    );
    expect(seen.passes).toEqual([...Object.keys(PASSES), 'picture', 'picture']);
    expect(seen.frames).toEqual([1, 2]);
    // An EXR begins with its number (Technical introduction to OpenEXR); the zip stores it as it is.
    const begin = zip.findIndex((_, k) => [0x76, 0x2f, 0x31, 0x01].every((byte, n) => zip[k + n] === byte));
    expect(new TextDecoder('latin1').decode(zip.slice(0, begin))).toContain('a.0001.exr');
    const { decodeExr, init } = await import('exrs');
    await init();
    const { width, height, layers } = decodeExr(zip.slice(begin));
    expect([width, height]).toEqual([160, 90]);
    expect(
      layers.map(({ name, channelNamesAlphabetical }) => [name, channelNamesAlphabetical.join('')]),
    ).toEqual([
      ['picture', 'ABGR'],
      ['pieces', 'ABGR'],
      ['props', 'ABGR'],
      ['normals', 'XYZ'],
      ['weight', 'Y'],
      ['depth', 'Z'],
      ['motion', 'XY'],
      ['layer.ground', 'ABGR'],
      ['layer.Jar', 'ABGR'],
    ]);
    layers.forEach((layer, k) => {
      expect(new Set(layer.getAllInterleavedPixels())).toEqual(new Set([k]));
    });
  });

  it('has its colours in an EXR where another reader finds them', async () => {
    // Two by two, told from the top row to the bottom one.
    const numbers = Float32Array.from({ length: 16 }, (_, k) => k / 8);
    const plate = { pass: 'picture', only: ALL, channels: ['R', 'G', 'B', 'A'], numbers } as const;
    const depth = { pass: 'depth', only: ALL, channels: ['Z'], numbers: new Float32Array(4) } as const;
    const bytes = await composed(2, 2, [
      { name: 'depth', plate: depth },
      { name: 'picture', plate },
    ]);
    const loader = new EXRLoader();
    loader.setDataType(FloatType);
    loader.setPart(1);
    const { width, height, data } = loader.parse(bytes.buffer);
    expect([width, height]).toEqual([2, 2]);
    // It has the bottom row first.
    expect([...(data as Float32Array)]).toEqual([...numbers.slice(8), ...numbers.slice(0, 8)]);
    await expect(composed(2, 2, [{ name: 'depth', plate: { ...depth, numbers: null } }])).rejects.toThrow(
      '“depth”',
    );
  });

  it('is refused where all parts together are too large', async () => {
    const seen = room();
    const props = new Map(Array.from({ length: 30 }, (_, k) => [k, `P${k}`] as const));
    await expect(
      takeFilm({ ...ORDER, kind: 'exr', height: 1080, props }, new AbortController().signal, () => undefined),
    ).rejects.toThrow('38 parts of 1920 by 1080 pixels are too much');
    expect(seen.frames).toEqual([]);
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
