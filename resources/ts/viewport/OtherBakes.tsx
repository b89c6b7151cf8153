import { useFrame, useThree } from '@react-three/fiber';
import { useQueries } from '@tanstack/react-query';
import { useContext, useEffect, useMemo, useRef, type RefObject } from 'react';
import type * as THREE from 'three';
import { ShotContext } from '../shot/context';
import type { Beside } from '../shot/useBeside';
import { useView } from '../state/view';
import { Joints } from './Joints';
import { loadPieces } from './mesh';
import { panesOf } from './panes';
import { PosedPieces } from './PosedPieces';

/** Nobody points at what is only compared with. */
const unregistered = () => () => undefined;

/**
 * Other bakes in the same picture, for the same eye and at the same frame: each is drawn in its part of it. Whatever else draws
 * the scene sees the one that is shown.
 */
export function OtherBakes({ beside, own }: { beside: Beside[]; own: RefObject<THREE.Group | null> }) {
  const groups = useRef(new Map<string, THREE.Group>());
  const invalidate = useThree((state) => state.invalidate);
  useEffect(() => {
    const stop = useView.subscribe((view, before) => {
      if (view.divide !== before.divide || view.split !== before.split) invalidate();
    });
    return () => {
      stop();
      invalidate();
    };
  }, [invalidate]);

  useFrame(({ gl, scene, camera, size: { width, height } }) => {
    const { split, divide } = useView.getState();
    const all = [own.current, ...beside.map(({ bake }) => groups.current.get(bake.id))];
    const lens = camera as THREE.PerspectiveCamera;
    const { aspect, zoom } = lens;
    const show = (which: THREE.Group | null | undefined) =>
      all.forEach((group) => group && (group.visible = group === which));
    // Not every place of the grid is taken.
    gl.clear();
    gl.setScissorTest(true);
    panesOf(all.length, split === 'over', divide).forEach((pane, k) => {
      const [x, y] = [Math.round(pane.left * width), Math.round((1 - pane.top - pane.height) * height)];
      const [w, h] = [Math.round((pane.left + pane.width) * width) - x, Math.round(pane.height * height)];
      show(all[k]);
      lens.aspect = pane.cut ? aspect : w / h;
      // A narrow pane shows all that the picture does from side to side.
      lens.zoom = zoom * Math.min(1, lens.aspect / aspect);
      lens.updateProjectionMatrix();
      gl.setScissor(x, y, w, h);
      gl.setViewport(pane.cut ? 0 : x, pane.cut ? 0 : y, pane.cut ? width : w, pane.cut ? height : h);
      gl.render(scene, lens);
    });
    gl.setScissorTest(false);
    gl.setViewport(0, 0, width, height);
    lens.aspect = aspect;
    lens.zoom = zoom;
    lens.updateProjectionMatrix();
    show(own.current);
  }, 1);

  return beside.map((one) => (
    <group
      key={one.bake.id}
      ref={(group) => {
        if (group) groups.current.set(one.bake.id, group);
        else groups.current.delete(one.bake.id);
      }}
      visible={false}
    >
      <OtherBake {...one} />
    </group>
  ));
}

function OtherBake({ bake, frames }: Beside) {
  const scope = useContext(ShotContext);
  const { shot } = scope.handle;
  const invalidate = useThree((state) => state.invalidate);
  const notify = useView((view) => view.notify);
  const meshes = useQueries({
    queries: bake.props.map((id) => ({
      queryKey: ['mesh', shot.id, id, 'break', bake.id],
      queryFn: ({ signal }: { signal: AbortSignal }) => loadPieces(shot.id, id, 'break', bake.id, signal),
      retry: false,
    })),
  });
  const trouble = meshes.find((mesh) => mesh.error)?.error?.message;
  useEffect(() => {
    if (trouble)
      notify({ kind: 'error', title: 'What it is compared with cannot be shown', detail: trouble });
  }, [trouble, notify]);
  const its = useMemo(() => ({ ...scope, bake, frames }), [scope, bake, frames]);
  const have = frames.have;
  useEffect(() => invalidate(), [have, invalidate]);
  return (
    <ShotContext value={its}>
      {bake.props.map((id, k) => {
        const mesh = meshes[k]?.data;
        return mesh && frames.fits(id, mesh) ? (
          <PosedPieces
            key={id}
            id={id}
            mesh={mesh}
            own={shot.document.props.find((prop) => prop.id === id)}
            baked
            pull={0}
            track={scope.tracks[id]}
            marks={false}
            selected={false}
            weights={null}
            hovered={-1}
            register={unregistered}
          />
        ) : null;
      })}
      <Joints baked />
    </ShotContext>
  );
}
