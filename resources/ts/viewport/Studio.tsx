import { usePlacing } from './placing';

/** Soft daylight, from above where the whole is placed. */
export function Studio() {
  const { back } = usePlacing();
  return (
    <group quaternion={back}>
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
    </group>
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
