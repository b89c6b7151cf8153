import type { FrameStore } from '../tracks/FrameStore';

/** Of a piece's flags: it has let go. */
const RELEASED = 1;

const [POSE, VERTEX] = [7, 3];

/**
 * Places of what has moved since the frame before: middles of pieces that have let go, and vertices; three numbers each.
 * @param far by more than this, m
 * @returns null: frames are not here yet
 */
export function stirring(
  frames: Pick<FrameStore, 'manifest' | 'have' | 'at'>,
  frame: number,
  far: number,
): Float32Array | null {
  if (!frames.manifest) return null;
  const places: number[] = [];
  const now = Math.min(frame, frames.have);
  if (now < 2) return new Float32Array();
  for (const { prop, kind } of frames.manifest.tracks) {
    const size = kind === 'pose' ? POSE : kind === 'vertices' ? VERTEX : 0;
    if (size === 0) continue;
    const [before, after] = [frames.at(now - 1, prop, kind), frames.at(now, prop, kind)];
    const [flags, life] = size === POSE ? ['flags', 'life'].map((one) => frames.at(now, prop, one)) : [];
    if (!before || !after) return null;
    for (let k = 0, part = 0; k < after.length; k += size, part++) {
      let square = 0;
      for (let axis = k; axis < k + 3; axis++) square += ((after[axis] ?? 0) - (before[axis] ?? 0)) ** 2;
      if (square <= far * far) continue;
      if (flags && !((flags[part] ?? 0) & RELEASED)) continue;
      if (life && !life[part]) continue;
      places.push(after[k] ?? 0, after[k + 1] ?? 0, after[k + 2] ?? 0);
    }
  }
  return Float32Array.from(places);
}
