import { useFrame, useThree } from '@react-three/fiber';
import { useContext, useEffect, useRef, type RefObject } from 'react';
import * as THREE from 'three';
import { ShotContext } from '../shot/context';
import { comesFrom, followLights, FROM_AFAR, SHADOW_COLOUR, shadowOf, strengthOf, uShadow } from './lights';
import { SOLID_LAYER } from './passes';
import { usePlacing } from './placing';

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

/** The light of the shot as it is at the frame one looks at. */
function useLights(
  afar: RefObject<(THREE.DirectionalLight | null)[]>,
  sky: RefObject<THREE.HemisphereLight | null>,
  ways: RefObject<THREE.Vector3[]>,
): void {
  const { handle, numbers } = useContext(ShotContext);
  const { document } = handle.shot;
  const invalidate = useThree((state) => state.invalidate);
  useEffect(() => {
    const colours = document.lights;
    return followLights(document, (frame) => {
      for (const [k, name] of FROM_AFAR.entries()) {
        const light = afar.current[k];
        if (!light) continue;
        ways.current[k] = comesFrom(document, numbers, name, frame);
        light.intensity = strengthOf(document, numbers, name, frame);
        light.color.set(colours[`${name}Colour`]);
        light.visible = light.intensity > 0;
        if (k > 0) light.position.copy(ways.current[k]);
      }
      uShadow.value = shadowOf(document, numbers, frame);
      if (!sky.current) return;
      sky.current.intensity = strengthOf(document, numbers, 'sky', frame);
      sky.current.color.set(colours.skyColour);
      sky.current.groundColor.set(colours.groundColour);
      invalidate();
    });
  }, [afar, sky, ways, document, numbers, invalidate]);
}

/** The light of the shot, above where the whole is placed; the sun's shadows are as fine as one looks closely. */
export function Studio() {
  const { back } = usePlacing();
  const afar = useRef<(THREE.DirectionalLight | null)[]>([]);
  const sky = useRef<THREE.HemisphereLight>(null);
  const ways = useRef<THREE.Vector3[]>([]);
  useLights(afar, sky, ways);
  useFrame(({ camera, controls }) => {
    const [light] = afar.current;
    const [way] = ways.current;
    const seen = (controls as { target?: THREE.Vector3 } | null)?.target;
    if (!light || !way || !seen) return;
    const reach = shadowReach(camera.position.distanceTo(seen));
    light.target.position.copy(seen);
    light.position
      .copy(way)
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
        ref={(light) => {
          afar.current[0] = light;
        }}
        layers-mask={LIT}
        castShadow
        shadow-mapSize={[SHADOW, SHADOW]}
      />
      <group quaternion={back}>
        <hemisphereLight ref={sky} layers-mask={LIT} />
        {[1, 2].map((k) => (
          <directionalLight
            key={k}
            ref={(light) => {
              afar.current[k] = light;
            }}
            layers-mask={LIT}
          />
        ))}
      </group>
    </>
  );
}

/** Endless to the eye; it shows only the shadows that fall on it. */
export function Floor({ height, tilt }: { height: number; tilt: { x: number; z: number } }) {
  const { handle, numbers } = useContext(ShotContext);
  const { document } = handle.shot;
  const shadows = useRef<THREE.ShadowMaterial>(null);
  useEffect(
    () =>
      followLights(document, (frame) => {
        if (shadows.current) shadows.current.opacity = shadowOf(document, numbers, frame);
      }),
    [document, numbers],
  );
  const radians = (degrees: number) => (degrees * Math.PI) / 180;
  return (
    <group position-y={height} rotation={[radians(tilt.x), 0, radians(tilt.z), 'ZYX']}>
      <mesh rotation-x={-Math.PI / 2} receiveShadow>
        <circleGeometry args={[60, 48]} />
        <shadowMaterial ref={shadows} color={SHADOW_COLOUR} />
      </mesh>
    </group>
  );
}
