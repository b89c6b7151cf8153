import type { Shading } from './deform';
import type { PieceMesh } from './mesh';

/** The triangles around every normal, as the graphics card adds them up. */
export interface Fans {
  /** Three numbers a normal: its first triangle, how many it has, the vertex it is at. */
  runs: Uint32Array;
  /** Three vertices a triangle, the one the normal is at first. It counts only while that one is where the normal's own is. */
  triangles: Uint32Array;
}

/** What is sewn together has the triangles of all sides: they fall away by themselves when it parts. */
export function fansOf(mesh: PieceMesh, { shade, count, sewn }: Shading): Fans {
  const own = Array.from({ length: count }, (): number[] => []);
  const at = new Uint32Array(count);
  const { vertices } = mesh;
  for (let c = 0; c < vertices.length; c++) {
    const first = c - (c % 3);
    const corner = (k: number) => vertices[first + ((c + k) % 3)] as number;
    own[shade[c] as number]?.push(corner(0), corner(1), corner(2));
    at[shade[c] as number] = corner(0);
  }
  const around = [...own];
  for (const { shades } of sewn) {
    const all = shades.flatMap((one) => own[one] ?? []);
    for (const one of shades) around[one] = all;
  }
  const runs = new Uint32Array(3 * count);
  let first = 0;
  around.forEach((fan, k) => {
    runs.set([first, fan.length / 3, at[k] as number], 3 * k);
    first += fan.length / 3;
  });
  const triangles = new Uint32Array(3 * first);
  around.forEach((fan, k) => {
    triangles.set(fan, 3 * (runs[3 * k] as number));
  });
  return { runs, triangles };
}
