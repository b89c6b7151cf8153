/** What a picture may tell of what is seen, other than how it looks; each with the number its shader knows it by. */
export const PASSES = { picture: 0, pieces: 1, props: 2, normals: 3, weight: 4 } as const;

export type Pass = keyof typeof PASSES;

/** What is drawn now, for all that is drawn. */
export const uPass = { value: PASSES.picture as number };

/** The layer of what passes tell of: no floor, no shadows, no helpers. */
export const PASS_LAYER = 1;

/** For the fragment shader: a colour for a number, far from those of its neighbours (steps of the golden ratio about the colours). */
export const MATTES = /* glsl */ `
  uniform int uPass;
  uniform float uProp;
  varying float vPiece;
  vec3 matte(float number) {
    float hue = fract(number * 0.61803399);
    vec3 pure = clamp(abs(fract(hue + vec3(0.0, 2.0, 1.0) / 3.0) * 6.0 - 3.0) - 1.0, 0.0, 1.0);
    return mix(vec3(1.0), pure, 0.55 + 0.45 * fract(number * 0.75487767)) * (0.5 + 0.5 * fract(number * 0.56984029));
  }
`;

/** After all light and colour: what is told is told in plain numbers. */
export const TELL = /* glsl */ `
  float piece = floor(vPiece + 0.5);
  if (uPass == ${PASSES.pieces}) gl_FragColor = vec4(matte(piece + 1.0 + 7.0 * uProp), 1.0);
  if (uPass == ${PASSES.props}) gl_FragColor = vec4(matte(uProp + 1.0), 1.0);
  if (uPass == ${PASSES.normals}) gl_FragColor = vec4(0.5 + 0.5 * normal, 1.0);
  if (uPass == ${PASSES.weight}) gl_FragColor = vec4(vec3(clamp(vChange, 0.0, 1.0)), 1.0);
`;
