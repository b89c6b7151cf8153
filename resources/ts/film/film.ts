import { darkroom, type Roll } from './darkroom';

/** What is taken, and how. */
export interface Order {
  /** One film to show, or a see-through picture a frame to lay over others. */
  kind: 'webm' | 'png';
  frames: number;
  fps: number;
  /** Of the picture, pixels. */
  height: number;
  /** What stands in the corner of a film before the number of the frame; null: nothing. */
  named: string | null;
  /** What files are called. */
  name: string;
}

/** Lets the page answer between two frames. */
const breathe = () => new Promise((done) => setTimeout(done, 0));

/** An even width: encoders take no other. */
export function widthFor(height: number, aspect: number): number {
  return Math.max(2, 2 * Math.round((height * aspect) / 2));
}

/** Whether this browser can encode films: it does so only on pages that nobody can have changed on their way. */
export function canFilm(): boolean {
  return typeof VideoEncoder !== 'undefined';
}

/** Takes all frames of what is shown. */
export async function takeFilm(
  order: Order,
  signal: AbortSignal,
  progress: (done: number) => void,
): Promise<Blob> {
  const room = darkroom.current;
  if (!room) throw new Error('There is no picture to take: look at the bake first.');
  const canvas = document.createElement('canvas');
  canvas.height = order.height;
  canvas.width = widthFor(order.height, room.aspect());
  const paper = canvas.getContext('2d', { alpha: order.kind === 'png' });
  if (!paper) throw new Error('This browser gives no canvas to draw on.');
  const roll = await room.open(canvas.width, canvas.height);
  try {
    const take = async (frame: number) => {
      signal.throwIfAborted();
      if (darkroom.current !== room) throw new Error('The picture was left before all of it was taken.');
      await draw(roll, paper, frame, order);
      progress(frame);
      await breathe();
    };
    return await (order.kind === 'webm' ? encoded(canvas, order, take) : zipped(canvas, order, take));
  } finally {
    roll.close();
  }
}

async function draw(roll: Roll, paper: CanvasRenderingContext2D, frame: number, order: Order): Promise<void> {
  const { width, height } = paper.canvas;
  paper.clearRect(0, 0, width, height);
  if (order.kind === 'webm') {
    const style = getComputedStyle(document.documentElement);
    const ground = paper.createLinearGradient(0, 0, 0, height);
    // As behind the picture in the page.
    ground.addColorStop(0, style.getPropertyValue('--paper').trim() || '#fff');
    ground.addColorStop(0.7, style.getPropertyValue('--card').trim() || '#fff');
    ground.addColorStop(1, style.getPropertyValue('--well').trim() || '#fff');
    paper.fillStyle = ground;
    paper.fillRect(0, 0, width, height);
  }
  await roll.take(frame, paper);
  if (order.kind === 'webm' && order.named !== null) {
    const size = Math.round(height / 36);
    paper.font = `${size}px ${getComputedStyle(document.body).fontFamily || 'sans-serif'}`;
    paper.fillStyle = getComputedStyle(document.documentElement).getPropertyValue('--ink-2').trim() || '#444';
    paper.textBaseline = 'alphabetic';
    paper.textAlign = 'left';
    paper.fillText(order.named, size, height - size, width * 0.6);
    paper.textAlign = 'right';
    paper.fillText(`${frame} of ${order.frames}`, width - size, height - size);
  }
}

async function encoded(
  canvas: HTMLCanvasElement,
  order: Order,
  take: (frame: number) => Promise<void>,
): Promise<Blob> {
  // Only who takes a film needs it.
  const { BufferTarget, CanvasSource, Output, QUALITY_HIGH, WebMOutputFormat } = await import('mediabunny');
  const target = new BufferTarget();
  const output = new Output({ format: new WebMOutputFormat(), target });
  const source = new CanvasSource(canvas, { codec: 'vp9', bitrate: QUALITY_HIGH });
  output.addVideoTrack(source, { frameRate: order.fps });
  await output.start();
  try {
    for (let frame = 1; frame <= order.frames; frame++) {
      await take(frame);
      await source.add((frame - 1) / order.fps, 1 / order.fps);
    }
    await output.finalize();
  } catch (error) {
    await output.cancel();
    throw error;
  }
  return new Blob([target.buffer ?? new ArrayBuffer(0)], { type: 'video/webm' });
}

async function zipped(
  canvas: HTMLCanvasElement,
  order: Order,
  take: (frame: number) => Promise<void>,
): Promise<Blob> {
  const { downloadZip } = await import('client-zip');
  async function* pictures() {
    for (let frame = 1; frame <= order.frames; frame++) {
      await take(frame);
      const input = await new Promise<Blob | null>((done) => canvas.toBlob(done, 'image/png'));
      if (!input) throw new Error(`Frame ${frame} could not be kept: take it smaller.`);
      yield { name: `${order.name}.${String(frame).padStart(4, '0')}.png`, input };
    }
  }
  return downloadZip(pictures()).blob();
}
