import { useFrame } from '@react-three/fiber';
import { useRef } from 'react';
import * as THREE from 'three';
import { SOLID_LAYER } from './passes';
import { usePlacing } from './placing';

/** Where the light comes from. */
const SUN = new THREE.Vector3(2.2, 4.5, 2.6).normalize();

/** Light falls where all is drawn, and where props alone are. */
const LIT = 1 | (1 << SOLID_LAYER);

/** Texels of a shadow's side. */
const SHADOW = 1024;

/** Of how far one looks: how far around that place shadows are drawn. */
const AROUND = 0.8;

/** How far away the light stands, of the same: what is high above what one sees throws its shadow there too. */
const AWAY = 12;

/** Shadows of one fineness, for a view from so far: they change in steps, or they would swim while one comes nearer. */
function shadowReach(distance: number): number {
  return AROUND * 2 ** (Math.ceil(2 * Math.log2(Math.max(distance, 1e-3))) / 2);
}

/** Soft daylight, from above where the whole is placed; its shadows are as fine as one looks closely. */
export function Studio() {
  const { back } = usePlacing();
  const sun = useRef<THREE.DirectionalLight>(null);
  useFrame(({ camera, controls }) => {
    const light = sun.current;
    const seen = (controls as { target?: THREE.Vector3 } | null)?.target;
    if (!light || !seen) return;
    const reach = shadowReach(camera.position.distanceTo(seen));
    light.target.position.copy(seen);
    light.position
      .copy(SUN)
      .applyQuaternion(back)
      .multiplyScalar(AWAY * reach)
      .add(seen);
    light.target.updateMatrixWorld();
    const { shadow } = light;
    const lens = shadow.camera;
    if (lens.right === reach) return;
    lens.left = lens.bottom = -reach;
    lens.right = lens.top = reach;
    lens.near = reach / 10;
    lens.far = 2 * AWAY * reach;
    lens.updateProjectionMatrix();
    // Nearly two texels off the surface, or it would be in its own shadow.
    shadow.normalBias = (3.6 * reach) / SHADOW;
  });
  return (
    <>
      <directionalLight
        ref={sun}
        layers-mask={LIT}
        intensity={2.1}
        color="#fff6e6"
        castShadow
        shadow-mapSize={[SHADOW, SHADOW]}
      />
      <group quaternion={back}>
        <hemisphereLight layers-mask={LIT} args={['#fffaf0', '#b9ad98', 1.5]} />
        <directionalLight layers-mask={LIT} position={[-3, 2, -2]} intensity={0.35} color="#cfe3ff" />
      </group>
    </>
  );
}

/** Endless to the eye; it shows only the shadows that fall on it. */
export function Floor({ height, tilt }: { height: number; tilt: { x: number; z: number } }) {
  const radians = (degrees: number) => (degrees * Math.PI) / 180;
  return (
    <group position-y={height} rotation={[radians(tilt.x), 0, radians(tilt.z), 'ZYX']}>
      <mesh rotation-x={-Math.PI / 2} receiveShadow>
        <circleGeometry args={[60, 48]} />
        <shadowMaterial opacity={0.22} color="#3a2c1c" />
      </mesh>
    </group>
  );
}
