import { isMeasured, PASSES, type Pass } from '../viewport/passes';
import { darkroom, type Exposure, type Picture, type Roll } from './darkroom';

/** What is taken, and how. */
export interface Order {
  /** One film to show, or a see-through picture a frame to lay over others, alone or with all passes. */
  kind: 'webm' | 'png' | 'passes';
  /** The first frame and the last one that are taken. */
  from: number;
  to: number;
  /** What the shot's first frame is called where files are numbered. */
  first: number;
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
  const passes = order.kind === 'passes' ? (Object.keys(PASSES) as Pass[]) : (['picture'] as const);
  const width = widthFor(order.height, room.aspect());
  const onto = passes.map((pass): Exposure =>
    isMeasured(pass) ? { pass, file: null } : { pass, paper: paperFor(width, order) },
  );
  const roll = await room.open(width, order.height);
  try {
    const take = async (frame: number) => {
      signal.throwIfAborted();
      if (darkroom.current !== room) throw new Error('The picture was left before all of it was taken.');
      await draw(roll, onto, frame, order);
      progress(frame - order.from + 1);
      await breathe();
    };
    return await (order.kind === 'webm' ? encoded(onto, order, take) : zipped(onto, order, take));
  } finally {
    roll.close();
  }
}

function paperFor(width: number, order: Order): CanvasRenderingContext2D {
  const canvas = document.createElement('canvas');
  canvas.width = width;
  canvas.height = order.height;
  const paper = canvas.getContext('2d', { alpha: order.kind !== 'webm' });
  if (!paper) throw new Error('This browser gives no canvas to draw on.');
  return paper;
}

async function draw(roll: Roll, onto: Exposure[], frame: number, order: Order): Promise<void> {
  const papers = onto.flatMap((one) => ('paper' in one ? [one.paper] : []));
  papers.forEach((paper) => paper.clearRect(0, 0, paper.canvas.width, paper.canvas.height));
  if (order.kind === 'webm') papers.forEach(ground);
  await roll.take(frame, onto);
  const named = order.named;
  if (order.kind === 'webm' && named !== null)
    papers.forEach((paper) =>
      sign(paper, named, `${numbered(frame, order)} of ${numbered(order.to, order)}`),
    );
}

/** As behind the picture in the page. */
function ground(paper: CanvasRenderingContext2D): void {
  const { width, height } = paper.canvas;
  const colours = paper.createLinearGradient(0, 0, 0, height);
  colours.addColorStop(0, styled('--paper', '#fff'));
  colours.addColorStop(0.7, styled('--card', '#fff'));
  colours.addColorStop(1, styled('--well', '#fff'));
  paper.fillStyle = colours;
  paper.fillRect(0, 0, width, height);
}

/** In the lower corners. */
function sign(paper: CanvasRenderingContext2D, left: string, right: string): void {
  const { width, height } = paper.canvas;
  const size = Math.round(height / 36);
  paper.font = `${size}px ${getComputedStyle(document.body).fontFamily || 'sans-serif'}`;
  paper.fillStyle = styled('--ink-2', '#444');
  paper.textAlign = 'left';
  paper.fillText(left, size, height - size, width * 0.6);
  paper.textAlign = 'right';
  paper.fillText(right, width - size, height - size);
}

function styled(name: string, otherwise: string): string {
  return getComputedStyle(document.documentElement).getPropertyValue(name).trim() || otherwise;
}

function numbered(frame: number, order: Order): number {
  return order.first + frame - 1;
}

async function encoded(
  onto: Exposure[],
  order: Order,
  take: (frame: number) => Promise<void>,
): Promise<Blob> {
  // Only who takes a film needs it.
  const { BufferTarget, CanvasSource, Output, QUALITY_HIGH, WebMOutputFormat } = await import('mediabunny');
  const target = new BufferTarget();
  const output = new Output({ format: new WebMOutputFormat(), target });
  const film = onto.find((one): one is Picture => one.pass === 'picture');
  if (!film) throw new Error('There is nothing to film.');
  const source = new CanvasSource(film.paper.canvas, { codec: 'vp9', bitrate: QUALITY_HIGH });
  output.addVideoTrack(source, { frameRate: order.fps });
  await output.start();
  try {
    for (let frame = order.from; frame <= order.to; frame++) {
      await take(frame);
      await source.add((frame - order.from) / order.fps, 1 / order.fps);
    }
    await output.finalize();
  } catch (error) {
    await output.cancel();
    throw error;
  }
  return new Blob([target.buffer ?? new ArrayBuffer(0)], { type: 'video/webm' });
}

function kept(one: Exposure): Promise<Blob | null> {
  if ('paper' in one) return new Promise((done) => one.paper.canvas.toBlob(done, 'image/png'));
  return Promise.resolve(one.file && new Blob([one.file], { type: 'image/x-exr' }));
}

async function zipped(onto: Exposure[], order: Order, take: (frame: number) => Promise<void>): Promise<Blob> {
  const { downloadZip } = await import('client-zip');
  async function* pictures() {
    for (let frame = order.from; frame <= order.to; frame++) {
      await take(frame);
      for (const one of onto) {
        const input = await kept(one);
        if (!input) throw new Error(`Frame ${frame} could not be kept: take it smaller.`);
        // A folder a pass, where there are several.
        const folder = onto.length > 1 ? `${one.pass}/` : '';
        const number = String(numbered(frame, order)).padStart(4, '0');
        yield { name: `${folder}${order.name}.${number}.${'paper' in one ? 'png' : 'exr'}`, input };
      }
    }
  }
  return downloadZip(pictures()).blob();
}
