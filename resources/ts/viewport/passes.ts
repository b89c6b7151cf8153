import * as THREE from 'three';

/** What a picture may tell of what is seen, other than how it looks; each with the number its shader knows it by. */
export const PASSES = {
  picture: 0,
  pieces: 1,
  props: 2,
  normals: 3,
  weight: 4,
  depth: 5,
  motion: 6,
} as const;

export type Pass = keyof typeof PASSES;

/** Those that are measured, in more steps than a picture has. */
export type Measured = 'depth' | 'motion';

export function isMeasured(pass: Pass): pass is Measured {
  return pass === 'depth' || pass === 'motion';
}

/** What is drawn now, for all that is drawn. */
export const uPass = { value: PASSES.picture as number };

/** Whether normals are told as they are, from -1 to 1, and not as colours. */
export const uSigned = { value: 0 };

/** Where the camera stands at both frames between which one draws, and half the picture's size in pixels. */
export const uViews = { value: [new THREE.Matrix4(), new THREE.Matrix4()] };
export const uHalf = { value: new THREE.Vector2() };

/** The layer of what passes tell of: no floor, no shadows, no helpers. */
export const PASS_LAYER = 1;

/** The layer of what stands before other things, and of what lights them: no floor, no helpers. */
export const SOLID_LAYER = 2;

/** The layer of what only helps to work: no picture that is taken has it. */
export const HELPER_LAYER = 3;

/** What a picture is of, other than the number of one prop: all, or what is no prop. The rest is cut out where it stands before it. */
export const ALL = -2;
export const GROUND = -1;

/** What is drawn now. */
export const uOnly = { value: ALL };

/** For the fragment shader: leaves a hole where something else stands before what the picture is of. */
export const cutOut = (number: string) => /* glsl */ `
  if (uOnly != ${ALL}.0 && uOnly != ${number}) gl_FragColor = vec4(0.0);
`;

/** For the vertex shader: where a corner is at both frames, in the picture. */
export const TRAIL = /* glsl */ `
  uniform int uPass;
  uniform mat4 uViews[2];
  varying vec4 vFrom;
  varying vec4 vTo;
`;

/** How much of the way between both frames has passed is taken from `between`; below 0 nothing is baked, and only the camera moves. */
export const FOLLOW_TRAIL = /* glsl */ `
  if (uPass == ${PASSES.motion}) {
    between = uBetween < 0.0 ? uBetween : 0.0;
    vFrom = uViews[0] * modelMatrix * vec4(movedPlace(moved()), 1.0);
    between = uBetween < 0.0 ? uBetween : 1.0;
    vTo = uViews[1] * modelMatrix * vec4(movedPlace(moved()), 1.0);
  }
`;

/** For the fragment shader: a colour for a number, far from those of its neighbours (steps of the golden ratio about the colours). */
export const MATTES = /* glsl */ `
  uniform int uPass;
  uniform float uOnly;
  uniform float uProp;
  uniform float uSigned;
  uniform vec2 uHalf;
  varying float vPiece;
  varying vec4 vFrom;
  varying vec4 vTo;
  vec3 matte(float number) {
    float hue = fract(number * 0.61803399);
    vec3 pure = clamp(abs(fract(hue + vec3(0.0, 2.0, 1.0) / 3.0) * 6.0 - 3.0) - 1.0, 0.0, 1.0);
    return mix(vec3(1.0), pure, 0.55 + 0.45 * fract(number * 0.75487767)) * (0.5 + 0.5 * fract(number * 0.56984029));
  }
  // What is or was behind the camera has no place in its picture.
  vec2 way() { return min(vFrom.w, vTo.w) > 1e-4 ? uHalf * (vTo.xy / vTo.w - vFrom.xy / vFrom.w) : vec2(0.0); }
`;

/** After all light and colour: what is told is told in plain numbers. Of what is seen as a hole, nothing is. */
export const tell = (hole: number) => /* glsl */ `
  float piece = floor(vPiece + 0.5);
  bool hole = uSeen == ${hole};
  if (!hole) {
    ${cutOut('uProp')}
  }
  if (uPass == ${PASSES.pieces}) gl_FragColor = vec4(matte(piece + 1.0 + 7.0 * uProp), 1.0);
  if (uPass == ${PASSES.props}) gl_FragColor = vec4(matte(uProp + 1.0), 1.0);
  if (uPass == ${PASSES.normals}) gl_FragColor = vec4(uSigned > 0.5 ? normal : 0.5 + 0.5 * normal, 1.0);
  if (uPass == ${PASSES.weight}) gl_FragColor = vec4(vec3(clamp(vChange, 0.0, 1.0)), 1.0);
  if (uPass == ${PASSES.depth}) gl_FragColor = vec4(vec3(vViewPosition.z), 1.0);
  if (uPass == ${PASSES.motion}) gl_FragColor = vec4(way(), 0.0, 1.0);
  if (hole) {
    // Shadows on it belong to what is no prop.
    float taken = uPass == ${PASSES.picture} && uOnly < ${GROUND}.0 + 0.5 ? shadowTaken(normal) : 0.0;
    gl_FragColor = vec4(taken * gl_FragColor.rgb, taken);
  }
`;
