import { useThree } from '@react-three/fiber';
import { useContext, useEffect, useMemo } from 'react';
import * as THREE from 'three';
import type { ShotDocument, Tracks } from '../api/types';
import { ShotContext } from '../shot/context';
import { clock } from '../state/frame';
import { useView } from '../state/view';
import type { FrameStore } from '../tracks/FrameStore';
import { axisOf, carriedEnds, drawn, endFields, type JointDocument } from './joints';
import { cutOut, GROUND, SOLID_LAYER, uOnly } from './passes';

/** Radius of what is drawn, m. */
const THICK = 0.006;
const UP = new THREE.Vector3(0, 1, 0);
const MOST = 2000;

/** Ropes, springs and hinges: as the bake has them, or where the keys of what they hold put them. */
export function Joints({ baked }: { baked: boolean }) {
  const { handle, frames, tracks } = useContext(ShotContext);
  const stage = useView((view) => view.stage);
  const invalidate = useThree((state) => state.invalidate);
  const { document } = handle.shot;
  const joints = useMemo(
    () => document.joints.filter((joint) => joint.on && endFields(joint).length > 0),
    [document.joints],
  );
  // What has come since it was drawn last.
  const have = frames?.have ?? 0;
  const wanted = joints.length > 0 && (baked || stage === 'motion');
  const made = useMemo(() => {
    const material = new THREE.MeshStandardMaterial({ color: '#7a6242', roughness: 0.9 });
    material.onBeforeCompile = (shader) => {
      Object.assign(shader.uniforms, { uOnly });
      shader.fragmentShader = shader.fragmentShader
        .replace('#include <common>', '#include <common>\nuniform float uOnly;')
        .replace('#include <dithering_fragment>', `#include <dithering_fragment>\n${cutOut(`${GROUND}.0`)}`);
    };
    const rods = new THREE.InstancedMesh(new THREE.CylinderGeometry(1, 1, 1, 8), material, MOST);
    const pins = new THREE.InstancedMesh(new THREE.SphereGeometry(1, 12, 8), material, MOST);
    for (const mesh of [rods, pins]) {
      mesh.castShadow = true;
      mesh.layers.enable(SOLID_LAYER);
      mesh.frustumCulled = false;
    }
    return { material, rods, pins };
  }, []);
  useEffect(
    () => () => {
      made.material.dispose();
      for (const mesh of [made.rods, made.pins]) {
        mesh.geometry.dispose();
        mesh.dispose();
      }
    },
    [made],
  );
  useEffect(() => {
    if (!wanted) return;
    return clock.follow((frame) => {
      lay(
        made,
        joints,
        baked && frames
          ? (joint) => bakedEnds(frames, joint.id, frame)
          : (joint) => keyedEnds(joint, document, tracks, frame),
        !baked,
      );
      invalidate();
    });
  }, [wanted, made, joints, document, tracks, baked, frames, have, invalidate]);
  return wanted ? (
    <>
      <primitive object={made.rods} />
      <primitive object={made.pins} />
    </>
  ) : null;
}

type Ends = [THREE.Vector3, THREE.Vector3];

/** Puts every rod and pin where the joints are. */
function lay(
  { rods, pins }: { rods: THREE.InstancedMesh; pins: THREE.InstancedMesh },
  joints: JointDocument[],
  endsAt: (joint: JointDocument) => Ends | null,
  axes: boolean,
): void {
  let rod = 0;
  let pin = 0;
  for (const joint of joints) {
    const ends = endsAt(joint);
    if (!ends) continue;
    const places = drawn(joint, ...ends);
    // Where the axis has turned to is not in the bake.
    if (axes) places.push(...(axisOf(joint, ends[0]) ?? []));
    for (const end of ends) if (pin < MOST) pins.setMatrixAt(pin++, ball(end));
    for (let k = 1; k < places.length && rod < MOST; k++)
      rods.setMatrixAt(rod++, between(places[k - 1] as THREE.Vector3, places[k] as THREE.Vector3));
  }
  rods.count = rod;
  pins.count = pin;
  rods.instanceMatrix.needsUpdate = pins.instanceMatrix.needsUpdate = true;
}

/** Null once it holds no more. */
function bakedEnds(frames: FrameStore, id: string, frame: number): Ends | null {
  const at = Math.min(Math.max(1, frame), Math.max(1, frames.have));
  const a = frames.at(at, id, 'ends');
  if (!a || a[6] === 0) return null;
  const b = frames.at(Math.min(Math.floor(at) + 1, frames.have), id, 'ends') ?? a;
  const share = at - Math.floor(at);
  const end = (n: number) =>
    new THREE.Vector3(a[n], a[n + 1], a[n + 2]).lerp(new THREE.Vector3(b[n], b[n + 1], b[n + 2]), share);
  return [end(0), end(3)];
}

/** Before a bake each end goes with the keys of the prop that it holds on to; null: what it holds is not in the shot. */
function keyedEnds(joint: JointDocument, document: ShotDocument, tracks: Tracks, frame: number): Ends | null {
  const isIn = document.props.some((prop) => prop.on && prop.id === joint.prop);
  return isIn ? carriedEnds(joint, tracks, frame) : null;
}

function ball(at: THREE.Vector3): THREE.Matrix4 {
  return new THREE.Matrix4().makeScale(2 * THICK, 2 * THICK, 2 * THICK).setPosition(at);
}

function between(from: THREE.Vector3, to: THREE.Vector3): THREE.Matrix4 {
  const way = to.clone().sub(from);
  const length = Math.max(1e-9, way.length());
  return new THREE.Matrix4().compose(
    from.clone().lerp(to, 0.5),
    new THREE.Quaternion().setFromUnitVectors(UP, way.divideScalar(length)),
    new THREE.Vector3(THICK, length, THICK),
  );
}
