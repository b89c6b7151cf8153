import { screen } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { Fields } from '../../resources/ts/fields/Fields';
import { BackdropCard } from '../../resources/ts/stages/BackdropCard';
import { useView } from '../../resources/ts/state/view';
import {
  backdropIn,
  laid,
  paintBackdrop,
  pictureAt,
  picturesFrom,
} from '../../resources/ts/viewport/backdrop';
import { squareOf } from '../../resources/ts/viewport/GroundSquares';
import { Plates } from '../../resources/ts/viewport/plates';
import { gateOf } from '../../resources/ts/viewport/ShotCamera';
import { documentOf, show } from './harness';

const sha = (k: number) => String(k).repeat(64);
const numbered = (more: object = {}) => ({
  shows: 'numbered',
  pictures: [1, 2, 3].map((k) => ({ asset: sha(k), fileName: `a.${k}.png` })),
  ...more,
});
const behind = (backdrop: object, more: object = {}) => documentOf({ backdrop, ...more });
const at = (backdrop: object, ...frames: number[]) =>
  frames.map((frame) => pictureAt(behind(backdrop).backdrop, frame)?.[0] ?? null);

describe('the backdrop', () => {
  it('shows the pictures one after the other, from the frame that is said', () => {
    expect(at(numbered(), 1, 2, 2.9, 3, 4, 48)).toEqual(['1', '2', '2', '3', '3', '3']);
    expect(at(numbered({ starts: 10 }), 1, 9, 10, 11)).toEqual(['1', '1', '1', '2']);
    expect(at(numbered({ every: 4 }), 1, 4, 5, 12)).toEqual(['1', '1', '2', '3']);
    expect(at(numbered({ after: 'repeats' }), 3, 4, 5, 7)).toEqual(['3', '1', '2', '1']);
    expect(at(numbered({ shows: 'colour' }), 1)).toEqual([null]);
    expect(at(numbered({ pictures: [] }), 1)).toEqual([null]);
    expect(at({ shows: 'picture' }, 1)).toEqual([null]);
    expect(at({ shows: 'picture', picture: { asset: sha(7), fileName: 'b.jpg' } }, 1, 40)).toEqual([
      '7',
      '7',
    ]);
    expect(picturesFrom(behind(numbered({ every: 2 })).backdrop, 2, 3)).toEqual([sha(1), sha(2)]);
  });

  it('fills its place, or lies in it whole', () => {
    const place = { x: 10, y: 0, width: 200, height: 100 };
    expect(laid('fills', 100, 100, place)).toEqual({ x: 10, y: -50, width: 200, height: 200 });
    expect(laid('whole', 100, 100, place)).toEqual({ x: 60, y: 0, width: 100, height: 100 });
    expect(laid('whole', 400, 100, place)).toEqual({ x: 10, y: 25, width: 200, height: 50 });
  });

  it('belongs to the camera of the shot, as a colour to all one sees', () => {
    const view = { width: 1000, height: 800 };
    const all = { x: 0, y: 0, ...view };
    const camera = { on: true, aspect: '16:9' };
    expect(backdropIn(behind({}), true, view)).toBeNull();
    expect(backdropIn(behind({ shows: 'colour' }, { camera }), false, view)).toEqual(all);
    expect(backdropIn(behind(numbered()), false, view)).toEqual(all);
    expect(backdropIn(behind(numbered(), { camera }), false, view)).toBeNull();
    const gate = backdropIn(behind(numbered(), { camera }), true, view);
    expect(gate).toEqual(gateOf(behind({}, { camera }), view));
    expect((gate?.width ?? 0) / (gate?.height ?? 1)).toBeCloseTo(16 / 9);
    expect(2 * (gate?.x ?? 0) + (gate?.width ?? 0)).toBeCloseTo(1000);
  });

  it('paints the colour, and the picture over it as much as is said', () => {
    const done: string[] = [];
    const paper = {
      save: () => 0,
      restore: () => 0,
      beginPath: () => 0,
      rect: () => 0,
      clip: () => 0,
      fillStyle: '',
      globalAlpha: 1,
      fillRect() {
        done.push(this.fillStyle);
      },
      drawImage() {
        done.push(`picture ${this.globalAlpha}`);
      },
    };
    const paint = (backdrop: object, picture: object | null) => {
      done.length = 0;
      paintBackdrop(
        paper as unknown as CanvasRenderingContext2D,
        behind(backdrop).backdrop,
        picture as ImageBitmap | null,
        { x: 0, y: 0, width: 1, height: 1 },
      );
      return [...done];
    };
    expect(paint({}, { width: 1, height: 1 })).toEqual([]);
    expect(paint({ shows: 'colour', colour: '#112233' }, null)).toEqual(['#112233']);
    expect(paint(numbered({ strength: 0.25 }), { width: 1, height: 1 })).toEqual(['#2c2b29', 'picture 0.25']);
  });

  it('asks for what it shows, and for no more', async () => {
    const { user, seen } = show(<Fields base={['backdrop']} />, documentOf());
    expect(screen.queryByText('Colour behind')).toBeNull();
    screen.getByLabelText('Behind the shot').focus();
    await user.keyboard('{Enter}');
    await user.click(await screen.findByRole('option', { name: 'Numbered pictures' }));
    expect(seen.document.backdrop.shows).toBe('numbered');
    expect(screen.getByTestId('pictures-file')).toBeTruthy();
    expect(screen.getByText('Colour behind')).toBeTruthy();
    // None of its numbers can be tried: nothing moves otherwise for it.
    expect(screen.queryByTitle(/Try several/)).toBeNull();
  });
});

describe('the card of the backdrop', () => {
  afterEach(() => vi.unstubAllGlobals());

  /** Pictures are at once as large as is said. */
  function pictures(width: number, height: number) {
    vi.stubGlobal(
      'Image',
      class {
        naturalWidth = width;
        naturalHeight = height;
        onload: (() => void) | null = null;
        set src(_: string) {
          queueMicrotask(() => this.onload?.());
        }
      },
    );
  }

  it('says how picture and camera fit each other, and helps to line them up', async () => {
    pictures(1000, 1000);
    const camera = { on: true, aspect: '16:9', position: { x: 0, y: 0, z: 5 }, target: { x: 0, y: 0, z: 0 } };
    const { user } = show(<BackdropCard />, behind(numbered(), { camera }));
    expect((await screen.findByTestId('backdrop-size')).textContent).toBe(
      '1000 by 1000: it is higher than what the camera shows.',
    );
    await user.click(screen.getByRole('button', { name: 'Ground squares of 1 m' }));
    expect(useView.getState().ground).toBe(true);
    await user.click(screen.getByRole('button', { name: 'Look through the camera' }));
    expect(useView.getState().through).toBe(true);
    expect(screen.queryByRole('button', { name: 'Look through the camera' })).toBeNull();
    useView.getState().set({ ground: false, through: false });
  });

  it('has squares as large as the camera is near', () => {
    const square = (z: number) =>
      squareOf(
        behind({}, { camera: { on: true, position: { x: 0, y: 0, z }, target: { x: 0, y: 0, z: 0 } } }),
        {},
      );
    expect([0.5, 5, 29, 31].map(square)).toEqual([0.1, 1, 1, 10]);
  });

  it('offers nothing of a camera that is not there', () => {
    show(<BackdropCard />, behind(numbered()));
    expect(screen.queryByRole('button', { name: /Ground squares/ })).toBeNull();
    expect(screen.getByText(/Add a camera/)).toBeTruthy();
  });
});

describe('pictures behind the shot', () => {
  afterEach(() => vi.unstubAllGlobals());

  /** A server whose pictures are as large as is said; notes what was asked for, and what is open. */
  function server(width: number, height: number) {
    const seen = { asked: 0, open: 0 };
    vi.stubGlobal('fetch', () => {
      seen.asked++;
      return Promise.resolve(new Response('picture'));
    });
    vi.stubGlobal('createImageBitmap', (_: unknown, how?: { resizeWidth: number }) => {
      seen.open++;
      const wide = how?.resizeWidth ?? width;
      return Promise.resolve({
        width: wide,
        height: (height * wide) / width,
        close: () => seen.open--,
      });
    });
    return seen;
  }

  it('are fetched once, and made smaller where one only looks', async () => {
    const seen = server(4000, 2000);
    const plates = new Plates(1600);
    const [one, other] = await Promise.all([plates.ready(sha(1)), plates.ready(sha(1))]);
    expect(one).toBe(other);
    expect([one.width, one.height]).toEqual([1600, 800]);
    expect(plates.peek(sha(1))).toBe(one);
    expect(plates.peek(sha(2))).toBeNull();
    expect(seen).toEqual({ asked: 1, open: 1 });
    plates.close();
    expect(seen.open).toBe(0);
  });

  it('are let go when there are too many, the longest unseen first', async () => {
    const seen = server(4096, 4096);
    const plates = new Plates();
    // Of 64 megabytes each four are kept.
    for (const k of [1, 2, 3, 4, 1, 5]) await plates.ready(sha(k));
    expect([1, 2, 3, 4, 5].filter((k) => plates.peek(sha(k)) !== null)).toEqual([1, 3, 4, 5]);
    expect(seen).toEqual({ asked: 5, open: 4 });
  });

  it('that cannot be had are asked for again only once one comes back', async () => {
    const asked = vi.fn(() =>
      Promise.resolve(
        new Response('{"detail":"It is gone."}', { status: asked.mock.calls.length > 1 ? 200 : 404 }),
      ),
    );
    vi.stubGlobal('fetch', asked);
    vi.stubGlobal('createImageBitmap', () => Promise.resolve({ width: 1, height: 1, close: () => 0 }));
    const plates = new Plates();
    await expect(plates.ready(sha(1))).rejects.toThrow('It is gone.');
    await expect(plates.ready(sha(1))).rejects.toThrow('It is gone.');
    expect(asked).toHaveBeenCalledTimes(1);
    plates.close();
    expect((await plates.ready(sha(1))).width).toBe(1);
  });
});
