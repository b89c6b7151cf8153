import { describe, expect, it } from 'vitest';
import { boundsOf, type Sample } from '../../resources/ts/viewport/framing';
import { NUMBERS } from '../../resources/ts/viewport/numbers';

/** Pieces of no size in a row along x, at so many moments; the last one has gone far by each but the first. */
function motion(pieces: number, moments: number, far: number): Sample[] {
  return Array.from({ length: moments }, (_, moment) => {
    const poses = new Float32Array(NUMBERS * pieces);
    for (let k = 0; k < pieces; k++) {
      poses[NUMBERS * k] = moment > 0 && k === pieces - 1 ? far : k;
      poses.fill(1, NUMBERS * k + 8, NUMBERS * k + 11);
    }
    return { poses, radii: new Float32Array(pieces) };
  });
}

describe('the box that the first picture holds', () => {
  it('leaves out one of few pieces that goes far', () => {
    expect(boundsOf(motion(26, 9, 500), 9)?.high[0]).toBe(24);
    // Of many a hundredth: four of these flew on.
    const many = boundsOf(motion(400, 9, 5000), 9);
    expect(many?.high[0]).toBeLessThan(400);
    expect(many?.low[0]).toBeLessThanOrEqual(4);
  });

  it('holds every piece of what stands, and of what has hardly any', () => {
    expect(boundsOf(motion(26, 1, 0))).toMatchObject({ low: [0, 0, 0], high: [25, 0, 0] });
    expect(boundsOf(motion(2, 9, 7), 9)?.high[0]).toBe(7);
    expect(boundsOf([])).toBeNull();
  });
});
