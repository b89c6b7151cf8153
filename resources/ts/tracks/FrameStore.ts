import { request } from '../api/client';
import { decode, onto } from './codecs';
import { isSound, readManifest, SAME, trackOf, WHOLE, type Manifest } from './format';

const ENTRY = 12;

/** Bytes asked for at once: short reads keep the first frames quick. */
const AT_ONCE = 4_000_000;

/** Records kept, bytes; what is farthest from the frame shown goes first, but for what that frame is read from. */
const BUDGET = 300_000_000;

/** How often it is looked whether a frame has come, and for how long, ms. */
const WAIT = 50;
const PATIENCE = 30_000;

/** Decoded frames kept of each track. */
const DECODED = 4;

/** The baked frames: fetched ahead as they are written, kept within a budget, read by prop and kind of track. */
export class FrameStore {
  manifest: Manifest | null = null;
  /** Frames that can be shown, from 1 without gaps. */
  have = 0;
  private readonly places: [at: number, length: number][] = [];
  private readonly records = new Map<number, Uint8Array>();
  private readonly decoded = new Map<string, Float32Array>();
  private held = 0;
  private loading = false;
  private shown = 0;

  constructor(
    readonly bake: string,
    private readonly budget = BUDGET,
  ) {}

  /** How many parts a track has; 0: there is no such track. */
  count(prop: string, kind: string): number {
    return this.manifest?.tracks.find((t) => t.prop === prop && t.kind === kind)?.count ?? 0;
  }

  /** Whether what was baked of a prop is of such pieces. */
  fits(prop: string, mesh: { count: number; vertexCount: number }): boolean {
    return this.count(prop, 'pose') === mesh.count || this.count(prop, 'vertices') === mesh.vertexCount;
  }

  /** The numbers of a track at a frame, or at the nearest one that is there. */
  at(frame: number, prop: string, kind: string): Float32Array | undefined {
    const name = `${this.sourceOf(this.within(frame), prop, kind)} ${prop} ${kind}`;
    const known = this.decoded.get(name);
    if (known) return known;
    const bytes = this.bytesAt(frame, prop, kind);
    if (!bytes) return undefined;
    const values = decode(kind, this.count(prop, kind), bytes);
    this.decoded.set(name, values);
    if (this.decoded.size > DECODED * (this.manifest?.tracks.length ?? 1))
      this.decoded.delete(this.decoded.keys().next().value as string);
    return values;
  }

  /** The same as it is stored, part after part. */
  bytesAt(frame: number, prop: string, kind: string): Uint8Array | undefined {
    const index = this.indexOf(prop, kind);
    const number = this.within(frame);
    if (index < 0 || number < 1) return undefined;
    this.shown = number;
    return this.bytesIn(number, kind, index);
  }

  private bytesIn(number: number, kind: string, index: number): Uint8Array | undefined {
    const record = this.recordOf(number);
    const own = record && trackOf(record, index);
    if (!own || own.mode === WHOLE) return own?.bytes;
    const base = this.bytesIn(own.base, kind, index);
    return base && own.mode !== SAME ? onto(kind, base, own.bytes) : base;
  }

  private indexOf(prop: string, kind: string): number {
    return this.manifest?.tracks.findIndex((t) => t.prop === prop && t.kind === kind) ?? -1;
  }

  /** The frame whose numbers those of a frame are: what rests is decoded once. */
  private sourceOf(number: number, prop: string, kind: string): number {
    const index = this.indexOf(prop, kind);
    const record = index < 0 ? undefined : this.records.get(number);
    const own = record && trackOf(record, index);
    return own?.mode === SAME ? own.base : number;
  }

  private within(frame: number): number {
    return Math.min(Math.max(1, Math.floor(frame)), this.have);
  }

  private recordOf(frame: number): Uint8Array | undefined {
    const record = this.records.get(frame);
    if (!record) void this.fetchAgain();
    return record;
  }

  /** Resolves once a frame and all that it is read from are here: for who takes each frame in turn. */
  async ready(frame: number): Promise<void> {
    for (let waited = 0; frame > this.have || this.missingFor(frame) !== undefined; waited += WAIT) {
      if (waited > PATIENCE) throw new Error(`Frame ${frame} does not come. Is the server still there?`);
      this.shown = frame;
      if (frame <= this.have) await this.fetchAgain();
      if (frame > this.have || this.missingFor(frame) !== undefined)
        await new Promise((again) => setTimeout(again, WAIT));
    }
  }

  /** Fetches what has been baked by now; resolves with whether anything came. */
  async fetchTo(done: number): Promise<boolean> {
    if (this.loading || done <= this.have) return false;
    this.loading = true;
    try {
      if (this.places.length < done) await this.fetchIndex();
      if (!this.manifest) await this.fetchManifest();
      return await this.fetchRecords(this.have + 1);
    } finally {
      this.loading = false;
    }
  }

  private async fetchIndex(): Promise<void> {
    const from = this.places.length + 1;
    const response = await request(`bakes/${this.bake}/index?from=${from}`);
    const view = new DataView(await response.arrayBuffer());
    for (let at = 0; at + ENTRY <= view.byteLength; at += ENTRY)
      this.places.push([Number(view.getBigUint64(at, true)), view.getUint32(at + 8, true)]);
  }

  private async fetchManifest(): Promise<void> {
    // The first record begins where it ends.
    const end = this.places[0]?.[0];
    if (end === undefined) return;
    const read = readManifest(await this.bytes(0, end));
    if (typeof read !== 'number') this.manifest = read;
  }

  /** Records from one on, as many as fit into one answer. */
  private async fetchRecords(first: number): Promise<boolean> {
    const start = this.places[first - 1];
    if (!start || !this.manifest) return false;
    let last = first;
    const end = (n: number) => (this.places[n - 1]?.[0] ?? 0) + (this.places[n - 1]?.[1] ?? 0);
    while (last < this.places.length && end(last + 1) - start[0] <= AT_ONCE) last++;
    const bytes = await this.bytes(start[0], end(last));
    for (let n = first; n <= last; n++) {
      const [at, length] = this.places[n - 1] as [number, number];
      const record = bytes.slice(at - start[0], at - start[0] + length);
      // What is torn or damaged is never shown, nor what comes after it.
      if (!isSound(record, n)) return n > first;
      if (!this.records.has(n)) this.held += record.length;
      this.records.set(n, record);
      if (n === this.have + 1) this.have = n;
    }
    this.forget(this.shown || first);
    return true;
  }

  /** What the frame shown is read from and was dropped is fetched again, and what follows it. */
  private async fetchAgain(): Promise<void> {
    if (this.loading) return;
    this.loading = true;
    try {
      let came = true;
      while (came) {
        const missing = this.missingFor(this.shown);
        came = missing !== undefined && (await this.fetchRecords(missing));
      }
    } catch {
      // Asked for again when it is drawn next.
    } finally {
      this.loading = false;
    }
  }

  private forget(near: number): void {
    if (this.held <= this.budget) return;
    const needed = this.readFrom(near);
    const far = [...this.records.keys()]
      .filter((frame) => !needed.has(frame))
      .sort((a, b) => Math.abs(b - near) - Math.abs(a - near));
    for (const frame of far) {
      if (this.held <= this.budget) return;
      this.held -= this.records.get(frame)?.length ?? 0;
      this.records.delete(frame);
    }
  }

  /** A frame and those that its tracks differ from, as far as one can tell from what is there. */
  private readFrom(frame: number, into = new Set<number>()): Set<number> {
    if (into.has(frame)) return into;
    into.add(frame);
    const record = this.records.get(frame);
    if (record) this.manifest?.tracks.forEach((_, index) => this.readFrom(trackOf(record, index).base, into));
    return into;
  }

  private missingFor(frame: number): number | undefined {
    return [...this.readFrom(frame)].find((one) => !this.records.has(one));
  }

  private async bytes(from: number, to: number): Promise<Uint8Array> {
    const response = await request(`bakes/${this.bake}/frames`, {
      headers: { Range: `bytes=${from}-${to - 1}` },
    });
    return new Uint8Array(await response.arrayBuffer());
  }
}
