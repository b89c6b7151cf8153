import { ALL, GROUND, isMeasured, PASSES, type Pass } from '../viewport/passes';
import { fileNameOf } from '../ui/save';
import { darkroom, type Exposure, type Measure, type Picture, type Plate, type Roll } from './darkroom';
import { composed, tooLarge } from './exr';

/** What is taken, and how. */
export interface Order {
  /** One film to show, or a see-through picture a frame to lay over others, alone, with all passes, or a layer a prop; or all of that as one EXR a frame. */
  kind: 'webm' | 'png' | 'passes' | 'layers' | 'exr';
  /** What the props that are seen are called, by their numbers. */
  props: Map<number, string>;
  /** The first frame and the last one that are taken. */
  from: number;
  to: number;
  /** What the shot's first frame is called where files are numbered. */
  first: number;
  fps: number;
  /** Of the picture, pixels. */
  height: number;
  /** How long the shutter is open, of a frame: so much what moves is blurred. */
  blur: number;
  /** What stands in the corner of a film before the number of the frame; null: nothing. */
  named: string | null;
  /** What files are called. */
  name: string;
}

/** Layers are drawn on so many papers at once: in the largest size these take a quarter of a gigabyte. */
const PAPERS = 8;

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
  const width = widthFor(order.height, room.aspect());
  const onto = sheets(order, () => paperFor(width, order));
  const plates = onto.flat().flatMap(({ exposure }) => (isPlate(exposure) ? [exposure] : []));
  const trouble = tooLarge(width, order.height, plates);
  if (trouble !== null) throw new Error(trouble);
  const roll = await room.open(width, order.height);
  try {
    const take = async (frame: number, sheets: Sheet[]) => {
      signal.throwIfAborted();
      if (darkroom.current !== room) throw new Error('The picture was left before all of it was taken.');
      await draw(
        roll,
        sheets.map(({ exposure }) => exposure),
        frame,
        order,
      );
      await breathe();
    };
    const taken = (frame: number) => progress(frame - order.from + 1);
    return await (order.kind === 'webm'
      ? encoded(onto, order, take, taken)
      : zipped(onto, order, width, take, taken));
  } finally {
    roll.close();
  }
}

/** What numbers each pass has, in an EXR. */
const CHANNELS: Record<Pass, readonly string[]> = {
  picture: ['R', 'G', 'B', 'A'],
  pieces: ['R', 'G', 'B', 'A'],
  props: ['R', 'G', 'B', 'A'],
  normals: ['X', 'Y', 'Z'],
  weight: ['Y'],
  depth: ['Z'],
  motion: ['X', 'Y'],
};

const isPlate = (one: Exposure): one is Plate => 'channels' in one;

/** What is taken of a frame, and in which folder it comes, or what its part is called; none where there is nothing else. */
interface Sheet {
  folder: string | null;
  exposure: Exposure;
}

type Take = (frame: number, sheets: Sheet[]) => Promise<void>;

/** What is taken of each frame; what stands in one list is taken at once. */
function sheets(order: Order, paper: () => CanvasRenderingContext2D): Sheet[][] {
  switch (order.kind) {
    case 'passes':
      return [
        (Object.keys(PASSES) as Pass[]).map((pass) => ({
          folder: pass,
          exposure: isMeasured(pass) ? { pass, file: null } : { pass, only: ALL, paper: paper() },
        })),
      ];
    case 'layers': {
      const layers = [[GROUND, 'ground'] as const, ...order.props];
      const papers = layers.slice(0, PAPERS).map(paper);
      // There may be many of them: as many at once as there are papers.
      return Array.from({ length: Math.ceil(layers.length / PAPERS) }, (_, part) =>
        layers.slice(PAPERS * part, PAPERS * (part + 1)).flatMap(([only, folder], k) => {
          const one = papers[k];
          return one ? [{ folder, exposure: { pass: 'picture', only, paper: one } }] : [];
        }),
      );
    }
    case 'exr': {
      const plate = (pass: Pass, only: number): Plate => ({
        pass,
        only,
        channels: CHANNELS[pass],
        numbers: null,
      });
      return [
        [
          ...(Object.keys(PASSES) as Pass[]).map((pass) => ({ folder: pass, exposure: plate(pass, ALL) })),
          ...[[GROUND, 'ground'] as const, ...order.props].map(([only, folder]) => ({
            folder: `layer.${folder}`,
            exposure: plate('picture', only),
          })),
        ],
      ];
    }
    default:
      return [[{ folder: null, exposure: { pass: 'picture', only: ALL, paper: paper() } }]];
  }
}

/** Folders for the props that are seen, by their numbers: what they are called, as far as that can be told apart and written everywhere. */
export function foldersOf(props: { name: string; id: string }[], seen: string[]): Map<number, string> {
  const taken = new Set(['ground']);
  return new Map(
    props.flatMap(({ name, id }, number) => {
      if (!seen.includes(id)) return [];
      const plain = fileNameOf(name).replace(/^[-.]+|[-.]+$/g, '');
      const folder = plain === '' || taken.has(plain.toLowerCase()) ? `${plain || 'prop'}-${id}` : plain;
      taken.add(folder.toLowerCase());
      return [[number, folder] as const];
    }),
  );
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
  if (order.kind === 'webm')
    for (const paper of papers) {
      ground(paper);
      await roll.behind(frame, paper);
    }
  await roll.take(frame, onto, order.blur);
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
  // Words can be read on whatever is behind the shot.
  paper.strokeStyle = styled('--paper', '#fff');
  paper.lineWidth = size / 4;
  paper.lineJoin = 'round';
  const write = (words: string, align: CanvasTextAlign, x: number) => {
    paper.textAlign = align;
    paper.strokeText(words, x, height - size, width * 0.6);
    paper.fillText(words, x, height - size, width * 0.6);
  };
  write(left, 'left', size);
  write(right, 'right', width - size);
}

function styled(name: string, otherwise: string): string {
  return getComputedStyle(document.documentElement).getPropertyValue(name).trim() || otherwise;
}

function numbered(frame: number, order: Order): number {
  return order.first + frame - 1;
}

async function encoded(
  onto: Sheet[][],
  order: Order,
  take: Take,
  progress: (frame: number) => void,
): Promise<Blob> {
  // Only who takes a film needs it.
  const { BufferTarget, CanvasSource, Output, QUALITY_HIGH, WebMOutputFormat } = await import('mediabunny');
  const target = new BufferTarget();
  const output = new Output({ format: new WebMOutputFormat(), target });
  const all = onto.flat();
  const film = all.map(({ exposure }) => exposure).find((one): one is Picture => one.pass === 'picture');
  if (!film) throw new Error('There is nothing to film.');
  const source = new CanvasSource(film.paper.canvas, { codec: 'vp9', bitrate: QUALITY_HIGH });
  output.addVideoTrack(source, { frameRate: order.fps });
  await output.start();
  try {
    for (let frame = order.from; frame <= order.to; frame++) {
      await take(frame, all);
      await source.add((frame - order.from) / order.fps, 1 / order.fps);
      progress(frame);
    }
    await output.finalize();
  } catch (error) {
    await output.cancel();
    throw error;
  }
  return new Blob([target.buffer ?? new ArrayBuffer(0)], { type: 'video/webm' });
}

function kept(one: Picture | Measure): Promise<Blob | null> {
  if ('paper' in one) return new Promise((done) => one.paper.canvas.toBlob(done, 'image/png'));
  return Promise.resolve(one.file && new Blob([one.file], { type: 'image/x-exr' }));
}

async function zipped(
  onto: Sheet[][],
  order: Order,
  width: number,
  take: Take,
  progress: (frame: number) => void,
): Promise<Blob> {
  const { downloadZip } = await import('client-zip');
  async function* pictures() {
    for (let frame = order.from; frame <= order.to; frame++) {
      const number = String(numbered(frame, order)).padStart(4, '0');
      for (const together of onto) {
        await take(frame, together);
        const parts = together.flatMap(({ folder, exposure }) =>
          isPlate(exposure) ? [{ name: folder ?? '', plate: exposure }] : [],
        );
        if (parts.length > 0)
          yield {
            name: `${order.name}.${number}.exr`,
            input: await composed(width, order.height, parts),
          };
        for (const { folder, exposure } of together) {
          if (isPlate(exposure)) continue;
          const input = await kept(exposure);
          if (!input) throw new Error(`Frame ${frame} could not be kept: take it smaller.`);
          const name = `${order.name}.${number}.${'paper' in exposure ? 'png' : 'exr'}`;
          yield { name: folder === null ? name : `${folder}/${name}`, input };
        }
      }
      progress(frame);
    }
  }
  return downloadZip(pictures()).blob();
}
