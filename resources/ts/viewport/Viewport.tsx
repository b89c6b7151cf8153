import { OrbitControls } from '@react-three/drei';
import { Canvas, useFrame, useThree } from '@react-three/fiber';
import { keepPreviousData, useQueries, useQuery } from '@tanstack/react-query';
import { useCallback, useContext, useEffect, useMemo, useRef, useState, type RefObject } from 'react';
import * as THREE from 'three';
import { request } from '../api/client';
import type { Stage } from '../api/types';
import { ShotContext } from '../shot/context';
import { useView } from '../state/view';
import { loadPieces, type PieceMesh } from './mesh';
import { Pieces, type Shown } from './Pieces';
import { bakedPoses, pick, restPoses } from './poses';

/** In these stages one looks at the bake, in the others at the prop itself. */
export function showsBake(stage: Stage): boolean {
  return stage === 'motion' || stage === 'bake' || stage === 'handoff';
}

export interface PieceInfo {
  name: string;
  volume: number;
  mass: number;
}

export function Viewport() {
  const { handle, prop, frames, bake, tracks } = useContext(ShotContext);
  const { shot } = handle;
  const stage = useView((view) => view.stage);
  const propId = useView((view) => view.propId);
  const pull = useView((view) => view.pull);
  const hovered = useView((view) => view.hovered);
  const baked = showsBake(stage) && frames !== null && bake !== null && frames.have > 0;
  const ids = useMemo(
    () => (baked ? bake.props : shot.document.props.map((p) => p.id)),
    [baked, bake, shot.document.props],
  );
  const shown = useRef(new Map<string, Shown>());
  const canvas = useRef<HTMLDivElement>(null);

  const meshes = useQueries({
    queries: ids.map((id) => {
      const own = shot.document.props.find((p) => p.id === id);
      const kind = stage === 'prop' && !baked ? ('prop' as const) : ('break' as const);
      return {
        queryKey: ['mesh', shot.id, id, kind, baked ? bake.id : shot.head.id],
        queryFn: async ({ signal }: { signal: AbortSignal }) => {
          try {
            return await loadPieces(shot.id, id, kind, baked ? bake.id : '', signal);
          } catch (error) {
            // What cannot be broken can still be seen.
            if (kind === 'break' && !signal.aborted) return loadPieces(shot.id, id, 'prop', '', signal);
            throw error;
          }
        },
        placeholderData: (before: PieceMesh | undefined) => (own ? before : undefined),
        retry: false,
      };
    }),
  });

  const weights = useWeights(stage === 'timing' && prop ? prop.id : null);
  const register = useCallback((entry: Shown) => {
    shown.current.set(entry.id, entry);
    return () => {
      if (shown.current.get(entry.id) === entry) shown.current.delete(entry.id);
    };
  }, []);

  let firstPiece = 0;
  const parts = ids.map((id, k) => {
    const mesh = meshes[k]?.data;
    const at = firstPiece;
    firstPiece += mesh?.count ?? 0;
    return { id, mesh, at, own: shot.document.props.find((p) => p.id === id) };
  });
  const complete = parts.every((part) => part.mesh) && (!baked || firstPiece === frames.pieces);
  const busy = meshes.some((query) => query.isFetching);

  return (
    <div
      ref={canvas}
      className="relative h-full w-full overflow-hidden"
      data-testid="viewport"
      style={{ background: 'linear-gradient(var(--paper), var(--card) 70%, var(--well))' }}
    >
      <Canvas
        frameloop="demand"
        shadows="percentage"
        dpr={[1, 2]}
        camera={{ fov: 35, near: 0.005, far: 400, position: [1.6, 1.1, 2.2] }}
        gl={{ antialias: true, preserveDrawingBuffer: true, alpha: true }}
        onPointerMissed={() => useView.getState().set({ hovered: null })}
      >
        <Studio />
        {shot.document.floor.on ? <Floor height={shot.document.floor.height} /> : null}
        {parts.map(({ id, mesh, at, own }) =>
          mesh && (!baked || complete) ? (
            <PosedPieces
              key={id}
              id={id}
              mesh={mesh}
              own={own}
              firstPiece={at}
              baked={baked}
              pull={stage === 'break' && id === propId ? pull : 0}
              track={tracks[id]}
              selected={id === propId && ids.length > 1 && !baked && stage !== 'break'}
              weights={id === prop?.id ? weights : null}
              hovered={hovered?.prop === id ? hovered.piece : -1}
              register={register}
            />
          ) : null,
        )}
        <OrbitControls
          makeDefault
          target={[0, 0.5, 0]}
          maxPolarAngle={Math.PI * 0.495}
          enableDamping={false}
        />
        <FitCamera
          shown={shown}
          ready={parts.length > 0 && parts.every((part) => part.mesh && tracks[part.id])}
          shotId={shot.id}
        />
        <Player />
        <Probe shown={shown} />
        <Pointer shown={shown} />
        <PictureTaker shotId={shot.id} ready={complete && !busy} />
      </Canvas>
      <HoverLabel />
      {baked && bake.stale ? (
        <div className="absolute top-3 left-3 rounded-md border border-warn bg-card/90 px-2 py-1 text-[12px] text-warn">
          stale bake, revision {bake.revision}
        </div>
      ) : null}
      <ScaleBar />
      {stage === 'timing' ? <WeightLegend threshold={prop?.timing.threshold ?? 0.5} /> : null}
      {busy ? (
        <div
          className="absolute top-3 left-1/2 -translate-x-1/2 rounded-md bg-ink/80 px-3 py-1 text-[12px] text-paper"
          role="status"
        >
          computing the preview …
        </div>
      ) : null}
    </div>
  );
}

interface PosedProps {
  id: string;
  mesh: PieceMesh;
  own: { look: { outer: string; inner: string }; timing: { threshold: number } } | undefined;
  firstPiece: number;
  baked: boolean;
  pull: number;
  track: number[][] | undefined;
  selected: boolean;
  weights: Uint8Array | null;
  hovered: number;
  register: (shown: Shown) => () => void;
}

function PosedPieces({
  id,
  mesh,
  own,
  firstPiece,
  baked,
  pull,
  track,
  selected,
  weights,
  hovered,
  register,
}: PosedProps) {
  const { frames } = useContext(ShotContext);
  const fill = useCallback(
    (out: Float32Array, pieces: PieceMesh) => {
      const frame = useView.getState().frame;
      if (baked && frames) bakedPoses(out, frames, firstPiece, pieces.count, frame);
      else
        restPoses(
          out,
          pieces,
          track?.[Math.min(track.length - 1, Math.max(0, Math.round(frame) - 1))] ?? [],
          pull,
        );
    },
    [baked, frames, firstPiece, track, pull],
  );
  const teal = getComputedStyle(document.documentElement).getPropertyValue('--teal').trim();
  return (
    <Pieces
      id={id}
      mesh={mesh}
      outer={own?.look.outer ?? '#b0a89a'}
      inner={own?.look.inner ?? '#c4532b'}
      contour={selected ? teal : null}
      weights={weights}
      threshold={own?.timing.threshold ?? 0.5}
      hovered={hovered}
      fill={fill}
      register={register}
    />
  );
}

/** Weight of each corner at the frame one looks at. */
function useWeights(propId: string | null): Uint8Array | null {
  const { handle } = useContext(ShotContext);
  const frame = useView((view) => Math.round(view.frame));
  const query = useQuery({
    queryKey: ['weights', handle.shot.id, propId, handle.shot.head.id, frame],
    enabled: propId !== null,
    queryFn: async ({ signal }) =>
      new Uint8Array(
        await (
          await request(`shots/${handle.shot.id}/props/${propId}/weights?frame=${frame}`, { signal })
        ).arrayBuffer(),
      ),
    placeholderData: keepPreviousData,
    gcTime: 20_000,
    retry: false,
  });
  return propId === null ? null : (query.data ?? null);
}

function Studio() {
  return (
    <>
      <hemisphereLight args={['#fffaf0', '#b9ad98', 1.5]} />
      <directionalLight
        position={[2.2, 4.5, 2.6]}
        intensity={2.1}
        color="#fff6e6"
        castShadow
        shadow-mapSize={[1024, 1024]}
        shadow-camera-left={-3}
        shadow-camera-right={3}
        shadow-camera-top={3}
        shadow-camera-bottom={-3}
        shadow-camera-far={15}
        shadow-normalBias={0.01}
      />
      <directionalLight position={[-3, 2, -2]} intensity={0.35} color="#cfe3ff" />
    </>
  );
}

function Floor({ height }: { height: number }) {
  return (
    <mesh rotation-x={-Math.PI / 2} position-y={height} receiveShadow>
      <circleGeometry args={[60, 48]} />
      <shadowMaterial opacity={0.22} color="#3a2c1c" />
    </mesh>
  );
}

/** Frames the whole shot when it opens, and when asked to. */
function FitCamera({
  shown,
  ready,
  shotId,
}: {
  shown: RefObject<Map<string, Shown>>;
  ready: boolean;
  shotId: string;
}) {
  const camera = useThree((state) => state.camera);
  const controls = useThree((state) => state.controls) as {
    target: THREE.Vector3;
    update: () => void;
  } | null;
  const invalidate = useThree((state) => state.invalidate);
  const done = useRef('');
  const fit = useCallback(() => {
    const box = new THREE.Box3();
    for (const { mesh, poses, radii } of shown.current.values()) {
      for (let k = 0; k < mesh.count; k++) {
        const centre = new THREE.Vector3(poses[8 * k], poses[8 * k + 1], poses[8 * k + 2]);
        box.union(
          new THREE.Box3().setFromCenterAndSize(
            centre,
            new THREE.Vector3().setScalar(1.6 * (radii[k] as number)),
          ),
        );
      }
    }
    if (box.isEmpty() || !controls) return;
    box.expandByPoint(new THREE.Vector3(box.min.x, Math.max(0, Math.min(box.min.y, 0)), box.min.z));
    const middle = box.getCenter(new THREE.Vector3());
    const size = Math.max(box.getSize(new THREE.Vector3()).length(), 0.02);
    const way = new THREE.Vector3(0.62, 0.32, 1).normalize();
    camera.position.copy(middle).addScaledVector(way, size * 1.55);
    camera.near = size / 200;
    camera.far = size * 200;
    (camera as THREE.PerspectiveCamera).updateProjectionMatrix();
    controls.target.copy(middle);
    controls.update();
    invalidate();
  }, [camera, controls, invalidate, shown]);
  useFrame(() => {
    if (ready && controls && done.current !== shotId && shown.current.size > 0) {
      done.current = shotId;
      // The poses are written in this same frame.
      requestAnimationFrame(fit);
    }
  });
  useEffect(() => {
    window.addEventListener('yard:fit', fit);
    return () => window.removeEventListener('yard:fit', fit);
  }, [fit]);
  return null;
}

/** Moves the frame on while playing, and draws when it changes. */
function Player() {
  const { handle, frames } = useContext(ShotContext);
  const stage = useView((view) => view.stage);
  const frame = useView((view) => view.frame);
  const playing = useView((view) => view.playing);
  const invalidate = useThree((state) => state.invalidate);
  const have = frames?.have ?? 0;
  useEffect(() => invalidate(), [frame, have, stage, invalidate]);
  useEffect(() => {
    if (!playing) return;
    let before = performance.now();
    let ask = 0;
    const tick = (now: number) => {
      const view = useView.getState();
      const last =
        showsBake(view.stage) && frames && frames.have > 0
          ? Math.min(frames.have, handle.shot.document.frames)
          : handle.shot.document.frames;
      let next = view.frame + ((now - before) / 1000) * handle.shot.document.fps * view.speed;
      before = now;
      if (next >= last + 1) next = view.loop ? 1 + ((next - 1) % last) : last;
      const ended = !view.loop && next >= last;
      view.set({ frame: Math.min(next, last), playing: !ended });
      if (!ended) ask = requestAnimationFrame(tick);
    };
    ask = requestAnimationFrame(tick);
    return () => cancelAnimationFrame(ask);
  }, [playing, frames, handle.shot.document.frames, handle.shot.document.fps]);
  return null;
}

/** Read-only look at what is drawn, for browser tests. */
function Probe({ shown }: { shown: RefObject<Map<string, Shown>> }) {
  const { frames, bake } = useContext(ShotContext);
  const drawn = useRef(0);
  const { camera, size } = useThree();
  const controls = useThree((state) => state.controls) as { target: THREE.Vector3 } | null;
  useFrame(() => {
    drawn.current++;
  });
  useEffect(() => {
    // Metres a pixel at the point one turns about, for the scale bar.
    (window as unknown as { __yardScale: () => number }).__yardScale = () => {
      if (!controls) return 0;
      const fov = (camera as THREE.PerspectiveCamera).fov;
      return (
        (2 * camera.position.distanceTo(controls.target) * Math.tan((fov * Math.PI) / 360)) / size.height
      );
    };
  }, [camera, controls, size.height]);
  useEffect(() => {
    const probe = {
      get frame() {
        return useView.getState().frame;
      },
      get stage() {
        return useView.getState().stage;
      },
      get selected() {
        return useView.getState().propId;
      },
      get drawn() {
        return drawn.current;
      },
      get have() {
        return frames?.have ?? 0;
      },
      get bake() {
        return bake;
      },
      pieces: (prop: string) => shown.current.get(prop)?.mesh.count ?? 0,
      position: (prop: string, piece: number) => {
        const poses = shown.current.get(prop)?.poses;
        return poses ? [...poses.slice(8 * piece, 8 * piece + 3)] : null;
      },
    };
    (window as unknown as { __yard: unknown }).__yard = probe;
  }, [shown, frames, bake]);
  return null;
}

/** Finds the piece under the pointer; a click selects its prop. */
function Pointer({ shown }: { shown: RefObject<Map<string, Shown>> }) {
  const { camera, gl } = useThree();
  useEffect(() => {
    const caster = new THREE.Raycaster();
    let waiting = false;
    const find = (event: PointerEvent) => {
      const box = gl.domElement.getBoundingClientRect();
      caster.setFromCamera(
        new THREE.Vector2(
          ((event.clientX - box.left) / box.width) * 2 - 1,
          1 - ((event.clientY - box.top) / box.height) * 2,
        ),
        camera,
      );
      let best: { prop: string; piece: number; distance: number } | null = null;
      for (const { id, mesh, poses, radii } of shown.current.values()) {
        const hit = pick(mesh, poses, radii, caster.ray.origin.toArray(), caster.ray.direction.toArray());
        if (hit && (!best || hit.distance < best.distance)) best = { prop: id, ...hit };
      }
      return (
        best && {
          prop: best.prop,
          piece: best.piece,
          x: event.clientX - box.left,
          y: event.clientY - box.top,
        }
      );
    };
    const move = (event: PointerEvent) => {
      if (waiting || event.buttons !== 0) return;
      waiting = true;
      requestAnimationFrame(() => {
        waiting = false;
        useView.getState().set({ hovered: find(event) });
      });
    };
    let down = [0, 0];
    const press = (event: PointerEvent) => (down = [event.clientX, event.clientY]);
    const release = (event: PointerEvent) => {
      if (Math.hypot(event.clientX - (down[0] as number), event.clientY - (down[1] as number)) > 4) return;
      const hit = find(event);
      if (hit) useView.getState().set({ propId: hit.prop });
    };
    const leave = () => useView.getState().set({ hovered: null });
    const element = gl.domElement;
    element.addEventListener('pointermove', move);
    element.addEventListener('pointerdown', press);
    element.addEventListener('pointerup', release);
    element.addEventListener('pointerleave', leave);
    return () => {
      element.removeEventListener('pointermove', move);
      element.removeEventListener('pointerdown', press);
      element.removeEventListener('pointerup', release);
      element.removeEventListener('pointerleave', leave);
    };
  }, [camera, gl, shown]);
  return null;
}

/** The picture in the yard is what one last saw of the shot. */
function PictureTaker({ shotId, ready }: { shotId: string; ready: boolean }) {
  const { gl } = useThree();
  const frame = useView((view) => Math.round(view.frame));
  const stage = useView((view) => view.stage);
  const playing = useView((view) => view.playing);
  useEffect(() => {
    if (!ready || playing) return;
    const timer = window.setTimeout(() => {
      const source = gl.domElement;
      const copy = document.createElement('canvas');
      copy.width = 480;
      copy.height = 300;
      const context = copy.getContext('2d');
      if (!context || source.width === 0) return;
      context.fillStyle = '#f3f1eb';
      context.fillRect(0, 0, copy.width, copy.height);
      const scale = Math.max(copy.width / source.width, copy.height / source.height);
      context.drawImage(
        source,
        (copy.width - source.width * scale) / 2,
        (copy.height - source.height * scale) / 2,
        source.width * scale,
        source.height * scale,
      );
      copy.toBlob(
        (blob) =>
          blob &&
          void request(`shots/${shotId}/picture`, {
            method: 'PUT',
            body: blob,
            headers: { 'Content-Type': 'image/jpeg' },
          }).catch(() => undefined),
        'image/jpeg',
        0.85,
      );
    }, 1500);
    return () => window.clearTimeout(timer);
  }, [ready, playing, frame, stage, gl, shotId]);
  return null;
}

function HoverLabel() {
  const { handle, readouts } = useContext(ShotContext);
  const hovered = useView((view) => view.hovered);
  if (!hovered) return null;
  const prop = handle.shot.document.props.find((p) => p.id === hovered.prop);
  if (!prop) return null;
  const volume = readouts[prop.id]?.pieces?.volumes[hovered.piece];
  const mass = volume === undefined ? readouts[prop.id]?.health.mass : volume * prop.motion.density;
  const name = volume === undefined ? prop.name : `${prop.break.prefix || 'piece'} ${hovered.piece + 1}`;
  return (
    <div
      className="pointer-events-none absolute z-10 rounded-md bg-ink/90 px-2 py-1 text-[12px] text-paper"
      style={{ left: hovered.x + 14, top: hovered.y + 14 }}
    >
      {name}
      {mass === undefined ? '' : ` · ${massText(mass)}`}
    </div>
  );
}

export function massText(kg: number): string {
  return kg >= 1
    ? `${kg.toPrecision(3)} kg`
    : kg >= 0.001
      ? `${(kg * 1000).toPrecision(3)} g`
      : `${(kg * 1e6).toPrecision(3)} mg`;
}

function ScaleBar() {
  const [text, setText] = useState({ width: 80, label: '' });
  useEffect(() => {
    const update = () => {
      const probe = (window as unknown as { __yardScale?: () => number }).__yardScale?.();
      if (!probe) return;
      const round =
        [0.001, 0.002, 0.005, 0.01, 0.02, 0.05, 0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 50, 100].find(
          (length) => length / probe > 60,
        ) ?? 100;
      setText({
        width: Math.min(200, round / probe),
        label:
          round >= 1
            ? `${round} m`
            : round >= 0.01
              ? `${Math.round(round * 100)} cm`
              : `${Math.round(round * 1000)} mm`,
      });
    };
    const timer = window.setInterval(update, 400);
    return () => window.clearInterval(timer);
  }, []);
  return text.label === '' ? null : (
    <div className="pointer-events-none absolute bottom-3 left-3 text-[12px] text-ink-2">
      <div className="h-1.5 border-x border-b border-ink-2" style={{ width: text.width }} />
      {text.label}
    </div>
  );
}

function WeightLegend({ threshold }: { threshold: number }) {
  return (
    <div
      className="pointer-events-none absolute right-3 bottom-3 w-44 rounded-md bg-card/90 p-2 text-[12px]"
      aria-label="Legend: weight from 0 to 1"
    >
      <div className="mb-0.5 flex justify-between">
        <span>weight 0</span>
        <span>1</span>
      </div>
      <div
        className="relative h-2.5 rounded-sm"
        style={{ background: 'linear-gradient(90deg, #F3F1EB, #C9D3DC, #7F99B3, #3C5E86, #14284B)' }}
      >
        <div className="absolute -top-0.5 h-3.5 w-[2px] bg-rust" style={{ left: `${threshold * 100}%` }} />
      </div>
      <div className="mt-0.5 text-rust">lets go above {threshold}</div>
    </div>
  );
}
