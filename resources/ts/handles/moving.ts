/** A prop that is held in the hand: where it is shown until the server has heard of it. */
class Moving {
  prop: string | null = null;
  pose: number[] = [];

  show(prop: string, pose: number[]): void {
    this.prop = prop;
    this.pose = pose;
  }

  /** What it was shown as is what the server says by now. */
  done(): void {
    this.prop = null;
  }
}

export const moving = new Moving();
