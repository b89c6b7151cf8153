/** Where one of several bakes is drawn, in parts of the picture from its upper left corner. */
export interface Pane {
  left: number;
  top: number;
  width: number;
  height: number;
  /** Whether the view fills the whole picture, of which only this part is shown; else it fills this part. */
  cut: boolean;
}

/** Columns and rows for so many side by side, so that each is about as large as it can be. */
export function grid(count: number): [columns: number, rows: number] {
  const columns = Math.ceil(Math.sqrt(count));
  return [columns, Math.ceil(count / columns)];
}

/** The bake that is shown first, then what it is compared with; two may lie over each other, divided by a line. */
export function panesOf(count: number, over: boolean, divide: number): Pane[] {
  if (over && count === 2)
    return [
      { left: 0, top: 0, width: divide, height: 1, cut: true },
      { left: divide, top: 0, width: 1 - divide, height: 1, cut: true },
    ];
  const [columns, rows] = grid(count);
  return Array.from({ length: count }, (_, k) => ({
    left: (k % columns) / columns,
    top: Math.floor(k / columns) / rows,
    width: 1 / columns,
    height: 1 / rows,
    cut: false,
  }));
}
