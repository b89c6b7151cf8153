import { Canvas } from '@react-three/fiber';
import { useQueries } from '@tanstack/react-query';
import { useCallback, useContext, useMemo, useRef } from 'react';
import * as THREE from 'three';
import { ProblemError } from '../api/client';
import { chosen } from '../api/schema';
import { text } from '../api/text';
import { Board, boardShown } from '../board/Board';
import { EyeOf, eye } from '../handles/eye';
import { Handles } from '../handles/Handles';
import { ShotContext } from '../shot/context';
import { showsBake } from '../shot/summary';
import { useBrush } from '../state/brush';
import { useView } from '../state/view';
import { Toggle } from '../ui/controls';
import { backdropIn } from './backdrop';
import { Behind } from './Behind';
import { ForceArrows, ForceLegend } from './ForceArrows';
import { FastenedPlaces } from './FastenedPlaces';
import { FitCamera } from './FitCamera';
import { GroundSquares } from './GroundSquares';
import { BoxSelect } from './BoxSelect';
import { loadPieces, type PieceMesh } from './mesh';
import { HoverLabel, PickHint, ScaleBar, Views, WeightLegend } from './overlays';
import { Joints } from './Joints';
import { Orbit } from './Orbit';
import { OtherBakes } from './OtherBakes';
import { Outlines } from './Outlines';
import { Painter } from './Painter';
import { PaneNames } from './PaneNames';
import { PictureTaker } from './PictureTaker';
import { DarkroomOf } from './DarkroomOf';
import type { Shown } from './Pieces';
import { PathLines } from './PathLines';
import { PlaceMarker } from './PlaceMarker';
import { usePlacing } from './placing';
import { Player } from './Player';
import { Pointer } from './Pointer';
import { PosedPieces, thresholdOf } from './PosedPieces';
import { BreakProgress } from './BreakProgress';
import { Probe } from './Probe';
import { CameraGate, ShotCamera } from './ShotCamera';
import { StirringMarks } from './StirringMarks';
import { Floor, Studio } from './Studio';
import { underRay } from './under';
import { Upright } from './Upright';
import { useClick } from './useClick';

/** A view, of whatever size. */
const UNIT = { width: 1, height: 1 };

export function Viewport() {
  const { handle, prop, frames, bake, beside, tracks, weight } = useContext(ShotContext);
  const { shot } = handle;
  const stage = useView((view) => view.stage);
  const propId = useView((view) => view.propId);
  const pull = useView((view) => view.pull);
  const hovered = useView((view) => view.hovered);
  const picking = useView((view) => view.picking !== null);
  const painting = useBrush((hand) => hand.painting !== null);
  const through = useView((view) => view.through) && shot.document.camera.on;
  const weighing = useView((view) => (view.stage === 'motion' ? view.weighing : null));
  const baked = weighing === null && showsBake(stage) && frames !== null && bake !== null && frames.have > 0;
  const ids = useMemo(
    () => (baked ? bake.props : shot.document.props.flatMap((p) => (p.on ? [p.id] : []))),
    [baked, bake, shot.document.props],
  );
  const comparing = baked && beside.length > 0;
  const apart = useView((view) => view.split === 'apart' || beside.length > 1) && comparing;
  // Pictures are of the camera's own width to height: beside each other bakes have another.
  const behind = apart
    ? shot.document.backdrop.shows === 'colour'
    : backdropIn(shot.document, through, UNIT) !== null;
  const ownBake = useRef<THREE.Group>(null);
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
            // What cannot be broken can still be seen; the readout says why. Other trouble is no whole prop.
            if (kind === 'break' && error instanceof ProblemError && error.status === 422)
              return loadPieces(shot.id, id, 'prop', '', signal);
            throw error;
          }
        },
        placeholderData: (before: PieceMesh | undefined) => (own ? before : undefined),
        retry: false,
      };
    }),
  });

  const weighed = prop && weight ? prop : null;
  const register = useCallback((entry: Shown) => {
    shown.current.set(entry.id, entry);
    return () => {
      if (shown.current.get(entry.id) === entry) shown.current.delete(entry.id);
    };
  }, []);

  const under = useCallback((x: number, y: number, but: string | null = null) => {
    const ray = eye.ray(x, y);
    const nearest = underRay(shown.current.values(), ray, but);
    return (
      nearest && {
        prop: nearest.prop,
        point: nearest.hit.point,
        place: ray.at(nearest.hit.distance, new THREE.Vector3()),
      }
    );
  }, []);
  const surface = useCallback(
    (x: number, y: number, but: string | null) => under(x, y, but)?.place ?? null,
    [under],
  );
  // A mesh that was brought in is framed at once.
  const files = shot.document.props
    .map((p) => chosen(p.source, 'kind').settings)
    .flatMap(({ asset, units }) => (asset ? [`${text(asset)} ${text(units)}`] : []))
    .join();
  const placing = usePlacing();
  const sight = useMemo(() => (stage === 'bake' ? placing.sight(eye) : eye), [stage, placing]);
  const click = useClick();
  const boardOpen = useView((view) => view.board);
  const board = prop && !baked && boardShown(stage, prop) ? prop : null;

  const parts = ids.map((id, k) => ({
    id,
    mesh: meshes[k]?.data,
    own: shot.document.props.find((p) => p.id === id),
  }));
  const complete = parts.every(({ id, mesh }) => mesh && (!baked || frames.fits(id, mesh)));
  /** What a weight follows as it moves stands where the bake has it, as far as that still fits. */
  const isSeen = (id: string, mesh: PieceMesh) =>
    stage === 'timing' &&
    weight !== null &&
    weight.follows.includes(id) &&
    frames !== null &&
    frames.have > 0 &&
    frames.fits(id, mesh);
  const busy = meshes.some((query) => query.isFetching);

  return (
    <div
      ref={canvas}
      className={`group/view relative h-full w-full overflow-hidden ${picking ? 'cursor-crosshair' : ''}`}
      data-testid="viewport"
      style={{ background: 'linear-gradient(var(--paper), var(--card) 70%, var(--well))' }}
      data-behind={behind ? '' : undefined}
    >
      {behind ? <Behind through={through} /> : null}
      <Canvas
        frameloop="demand"
        shadows="percentage"
        dpr={[0.5, 2]}
        camera={{ fov: 35, near: 0.005, far: 400, position: [1.6, 1.1, 2.2] }}
        gl={{ antialias: true, preserveDrawingBuffer: true, alpha: true }}
        onPointerMissed={() => useView.getState().set({ hovered: null })}
      >
        <Studio />
        {shot.document.planes.map((plane) =>
          plane.on ? <Floor key={plane.id} height={plane.height} tilt={plane.tilt} /> : null,
        )}
        <group ref={ownBake}>
          {parts.map(({ id, mesh, own }) =>
            mesh && (!baked || complete) ? (
              <PosedPieces
                key={id}
                id={id}
                mesh={mesh}
                own={own}
                baked={baked || isSeen(id, mesh)}
                pull={stage === 'break' && id === propId ? pull : 0}
                track={tracks[id]}
                marks={stage === 'break' && id === propId}
                selected={id === propId && ids.length > 1 && !baked && stage !== 'break'}
                weights={id === weighed?.id ? (weight?.store ?? null) : null}
                hovered={hovered?.prop === id && !painting ? hovered.piece : -1}
                register={register}
              />
            ) : null,
          )}
          <Joints baked={baked} />
        </group>
        {stage === 'motion' ? <FastenedPlaces /> : null}
        {stage === 'bake' && !comparing ? <StirringMarks /> : null}
        {comparing ? <OtherBakes beside={beside} own={ownBake} /> : null}
        <Orbit enabled={!through} />
        <Upright />
        <GroundSquares />
        <FitCamera
          shown={shown}
          count={parts.length}
          ready={(!baked || complete) && parts.some((part) => part.mesh && tracks[part.id])}
          shotId={`${shot.id} ${files}`}
        />
        <Player />
        <Probe shown={shown} />
        {comparing ? null : <Pointer shown={shown} onClick={click} />}
        <BoxSelect shown={shown} />
        <EyeOf />
        <ShotCamera />
        <Outlines />
        <PathLines />
        <ForceArrows />
        {stage === 'break' && prop ? <PlaceMarker prop={prop} pose={tracks[prop.id]?.[0]} /> : null}
        {baked && complete ? <DarkroomOf /> : null}
        <PictureTaker
          shotId={shot.id}
          ready={complete && !busy && !weighed}
          missing={shot.picture === null}
        />
      </Canvas>
      {board ? <BoardSwitch /> : null}
      {board && boardOpen ? (
        <Board prop={board} mesh={meshes[ids.indexOf(board.id)]?.data} key={board.id} />
      ) : null}
      {through && !(board && boardOpen) && !apart ? <CameraGate /> : null}
      {(board && boardOpen) || comparing ? null : <Handles baked={baked} surface={surface} sight={sight} />}
      <HoverLabel />
      <PickHint />
      {baked ? null : <Painter picture={canvas} under={under} />}
      {comparing ? <PaneNames beside={beside} /> : null}
      {baked && bake.stale && !comparing ? (
        <div className="absolute top-3 left-3 rounded-md border border-warn bg-card/90 px-2 py-1 text-[12px] text-warn">
          stale bake, revision {bake.revision}
        </div>
      ) : null}
      {(board && boardOpen) || apart ? null : <ScaleBar />}
      {board ? null : <Views />}
      <ForceLegend />
      {weighed && weight ? (
        <WeightLegend
          weight={weight}
          propId={weighed.id}
          threshold={
            weight.releases && chosen(weighed.release, 'trigger').has('weight') ? thresholdOf(weighed) : null
          }
        />
      ) : null}
      {busy ? (
        <div
          className="absolute top-3 left-1/2 -translate-x-1/2 rounded-md bg-ink/80 px-3 py-1 text-[12px] text-paper"
          role="status"
        >
          <BreakProgress shotId={shot.id} />
        </div>
      ) : null}
    </div>
  );
}

/** Between the board one draws on and the prop in the round. */
function BoardSwitch() {
  const open = useView((view) => view.board);
  const set = useView((view) => view.set);
  return (
    <Toggle
      label="View"
      className="absolute top-3 right-3 z-20"
      value={open ? 'board' : 'round'}
      options={[
        ['board', 'Board'],
        ['round', 'In the round'],
      ]}
      onChange={(view) => set({ board: view === 'board' })}
    />
  );
}
