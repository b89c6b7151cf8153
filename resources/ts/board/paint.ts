import type { PieceMesh } from '../viewport/mesh';
import { axesOf, toBoard, type Facing } from './plane';

/** From metres on the board to pixels. */
export interface Window2 {
  x: number;
  y: number;
  scale: number;
  width: number;
  height: number;
}

export const toPixel = (w: Window2, x: number, y: number): [number, number] => [
  0.5 * w.width + (x - w.x) * w.scale,
  0.5 * w.height - (y - w.y) * w.scale,
];

/** What the mesh covers on the board, in metres: least and largest to the right and up. */
export function extent(mesh: PieceMesh, facing: Facing): [number, number, number, number] {
  const { first, second } = axesOf(facing);
  let box: [number, number, number, number] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let k = 0; k < mesh.count; k++) {
    const from = mesh.first[k] as number;
    const cu = mesh.centres[3 * k + first] as number;
    const cv = mesh.centres[3 * k + second] as number;
    for (let c = from; c < from + (mesh.corners[k] as number); c++) {
      const [x, y] = toBoard(facing, [
        (mesh.positions[3 * c + first] as number) + cu,
        (mesh.positions[3 * c + second] as number) + cv,
      ]);
      box = [Math.min(box[0], x), Math.min(box[1], y), Math.max(box[2], x), Math.max(box[3], y)];
    }
  }
  return box[0] > box[2] ? [-0.5, -0.5, 0.5, 0.5] : box;
}

const TINTS = ['#e9dcc3', '#d9c9ac', '#cdd8d3', '#e3cdbd', '#d5d3bd', '#c9cfd8', '#e6d9b6'];

/** The pieces as one sees them from the front, each in a tint of its own; what shows is what the lines part. */
export function paintPieces(
  g: CanvasRenderingContext2D,
  w: Window2,
  mesh: PieceMesh,
  facing: Facing,
  chosen: number[],
  hidden: number[],
) {
  const { first, second, look } = axesOf(facing);
  for (let k = 0; k < mesh.count; k++) {
    if (hidden.includes(k)) continue;
    const cu = mesh.centres[3 * k + first] as number;
    const cv = mesh.centres[3 * k + second] as number;
    g.beginPath();
    const from = mesh.first[k] as number;
    for (let c = from; c < from + (mesh.corners[k] as number); c += 3) {
      if ((mesh.normals[4 * c + look] as number) < 8 || mesh.normals[4 * c + 3] === 1) continue;
      for (let i = c; i < c + 3; i++) {
        const [x, y] = toBoard(facing, [
          (mesh.positions[3 * i + first] as number) + cu,
          (mesh.positions[3 * i + second] as number) + cv,
        ]);
        const [px, py] = toPixel(w, x, y);
        if (i === c) g.moveTo(px, py);
        else g.lineTo(px, py);
      }
      g.closePath();
    }
    const tint = chosen.includes(k) ? '#8fc4bd' : mesh.count === 1 ? TINTS[0] : TINTS[k % TINTS.length];
    g.fillStyle = tint as string;
    g.strokeStyle = tint as string;
    g.lineWidth = 1;
    g.fill();
    g.stroke();
  }
}

/** The piece one sees at a place of the board; null beside the prop. */
export function pieceAt(
  mesh: PieceMesh,
  facing: Facing,
  [x, y]: [number, number],
  hidden: number[],
): number | null {
  const { first, second, look } = axesOf(facing);
  for (let k = 0; k < mesh.count; k++) {
    if (hidden.includes(k)) continue;
    const cu = mesh.centres[3 * k + first] as number;
    const cv = mesh.centres[3 * k + second] as number;
    const from = mesh.first[k] as number;
    for (let c = from; c < from + (mesh.corners[k] as number); c += 3) {
      if ((mesh.normals[4 * c + look] as number) < 8) continue;
      const [a, b, d] = [c, c + 1, c + 2].map((i) =>
        toBoard(facing, [
          (mesh.positions[3 * i + first] as number) + cu,
          (mesh.positions[3 * i + second] as number) + cv,
        ]),
      ) as [[number, number], [number, number], [number, number]];
      const side = (p: [number, number], q: [number, number]) =>
        (q[0] - p[0]) * (y - p[1]) - (q[1] - p[1]) * (x - p[0]);
      if (side(a, b) >= 0 && side(b, d) >= 0 && side(d, a) >= 0) return k;
    }
  }
  return null;
}
