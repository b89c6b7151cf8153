import * as THREE from 'three';
import { FOLLOW, MOVED, VERTEX, type Follow } from './follow';
import { FOLLOW_TRAIL, MATTES, tell, TRAIL, uHalf, uOnly, uPass, uSigned, uViews } from './passes';
import { uShadow, uShadowColour } from './lights';
import { REST, UNEVEN } from './relief';
import { OPEN, SELECTED, TEXELS, TEXTURE_WIDTH } from './numbers';

export interface PieceUniforms {
  uPoses: { value: THREE.DataTexture };
  /** Of baked pieces, at two frames: poses as they are stored, marks, sizes if they change; and where between both one is, below 0: not baked. */
  uPacked: { value: THREE.Texture[] };
  uMarks: { value: THREE.Texture[] };
  uSizes: { value: THREE.Texture[] };
  uSized: { value: number };
  uBetween: { value: number };
  uOuter: { value: THREE.Color };
  /** What the outside turns to, and whether it does. */
  uChanged: { value: THREE.Color };
  uChanges: { value: number };
  uInner: { value: THREE.Color };
  uShowWeight: { value: number };
  uThreshold: { value: number };
  uHover: { value: number };
  uSide: { value: THREE.Color };
  uFace: { value: THREE.Texture };
  uPainted: { value: number };
  uLayers: { value: THREE.Color[] };
  uOpened: { value: number };
  /** What the back of a sheet shows. */
  uBack: { value: THREE.Color };
  /** Of what bends, at two frames: places in steps, where they count from and how far one is, normals, how far it has changed. */
  uSteps: { value: THREE.Texture[] };
  uFrom: { value: THREE.Vector3[] };
  uSpan: { value: THREE.Vector3[] };
  uNormals: { value: THREE.Texture[] };
  uChange: { value: THREE.Texture[] };
  /** Which prop of the shot it is. */
  uProp: { value: number };
  /** How it is seen, one of {@link SEEN}. */
  uSeen: { value: number };
  /** Whether its pieces go with what its file moves: 1. */
  uRides: { value: number };
  /** How deep its relief is outside and on fresh faces, and how far apart bumps are. */
  uRelief: { value: THREE.Vector2 };
  uApart: { value: THREE.Vector3 };
}

/** How a prop is seen: what stands for a thing of the backdrop shows that through, or is a hole with shadows in it. */
export const SEEN = { whole: 0, through: 1, hole: 2 } as const;

export const BLANK = new THREE.DataTexture(new Uint8Array([255, 255, 255, 255]), 1, 1);
BLANK.needsUpdate = true;

/** A texture of so many texels of four numbers. */
export function texels(count: number): THREE.DataTexture {
  const rows = Math.max(1, Math.ceil(count / TEXTURE_WIDTH));
  return new THREE.DataTexture(
    new Float32Array(4 * TEXTURE_WIDTH * rows),
    TEXTURE_WIDTH,
    rows,
    THREE.RGBAFormat,
    THREE.FloatType,
  );
}

/** What a texture holds, and the numbers it is made of; poses are four words each, marks four bytes. */
const TABLES = {
  numbers: { of: Float32Array, format: THREE.RedFormat, type: THREE.FloatType, each: 1 },
  words: { of: Uint32Array, format: THREE.RedIntegerFormat, type: THREE.UnsignedIntType, each: 1 },
  poses: { of: Uint32Array, format: THREE.RGBAIntegerFormat, type: THREE.UnsignedIntType, each: 4 },
  steps: { of: Uint16Array, format: THREE.RedIntegerFormat, type: THREE.UnsignedShortType, each: 1 },
  shares: { of: Uint8Array, format: THREE.RedFormat, type: THREE.UnsignedByteType, each: 1 },
  marks: { of: Uint8Array, format: THREE.RGBAIntegerFormat, type: THREE.UnsignedByteType, each: 4 },
} as const;

/** A texture with so many numbers a part, one part after the other, so that the bytes of a track fit it as they are. */
export function table(count: number, numbers: number, holds: keyof typeof TABLES): THREE.DataTexture {
  const { of, format, type, each } = TABLES[holds];
  const rows = Math.max(1, Math.ceil(count / TEXTURE_WIDTH));
  const width = numbers * TEXTURE_WIDTH;
  const texture = new THREE.DataTexture(new of(each * width * rows), width, rows, format, type);
  // What a shader declares must be there, in its kind, also where it is not read: else nothing is drawn.
  texture.needsUpdate = true;
  return texture;
}

const NO_POSES = table(1, 1, 'poses');
const NO_MARKS = table(1, 1, 'marks');

export function uniformsFor(pieces: number): PieceUniforms {
  return {
    uPoses: { value: texels(TEXELS * pieces) },
    uPacked: { value: [NO_POSES, NO_POSES] },
    uMarks: { value: [NO_MARKS, NO_MARKS] },
    uSizes: { value: [BLANK, BLANK] },
    uSized: { value: 0 },
    uBetween: { value: -1 },
    uOuter: { value: new THREE.Color() },
    uChanged: { value: new THREE.Color() },
    uChanges: { value: 0 },
    uInner: { value: new THREE.Color() },
    uShowWeight: { value: 0 },
    uThreshold: { value: 0.5 },
    uHover: { value: -1 },
    uSide: { value: new THREE.Color() },
    uFace: { value: BLANK },
    uPainted: { value: 0 },
    uLayers: { value: [0, 1, 2, 3].map(() => new THREE.Color()) },
    uOpened: { value: 0 },
    uBack: { value: new THREE.Color() },
    uSteps: { value: [NO_POSES, NO_POSES] },
    uFrom: { value: [new THREE.Vector3(), new THREE.Vector3()] },
    uSpan: { value: [new THREE.Vector3(), new THREE.Vector3()] },
    uNormals: { value: [BLANK, BLANK] },
    uChange: { value: [BLANK, BLANK] },
    uProp: { value: 0 },
    uSeen: { value: SEEN.whole },
    uRides: { value: 0 },
    uRelief: { value: new THREE.Vector2() },
    uApart: { value: new THREE.Vector3(1, 1, 1) },
  };
}

/** The weight ramp, one hue from bare paper to deep ink; the threshold as a line in rust. */
const RAMP = /* glsl */ `
  vec3 ramp(float w) {
    vec3 a = vec3(0.896, 0.879, 0.831), b = vec3(0.584, 0.651, 0.716), c = vec3(0.212, 0.319, 0.451), d = vec3(0.045, 0.112, 0.238), e = vec3(0.007, 0.021, 0.068);
    float t = clamp(w, 0.0, 1.0) * 4.0;
    return t < 1.0 ? mix(a, b, t) : t < 2.0 ? mix(b, c, t - 1.0) : t < 3.0 ? mix(c, d, t - 2.0) : mix(d, e, t - 3.0);
  }
`;

/**
 * Of a thing of the backdrop only the shadows on it are seen, where the sun reaches it: what is turned away is in its own shade
 * already, in the backdrop's picture.
 */
const TAKE_SHADOWS = /* glsl */ `
  #include <shadowmask_pars_fragment>
  uniform float uShadow;
  uniform vec3 uShadowColour;
  float shadowTaken(vec3 normal) {
    #if NUM_DIR_LIGHT_SHADOWS > 0
      return uShadow * (1.0 - getShadowMask()) * smoothstep(0.0, 0.25, dot(normal, directionalLights[0].direction));
    #else
      return 0.0;
    #endif
  }
`;

/** A lit surface whose vertices follow their piece's place and turn, read from a texture: one draw for any number of pieces. */
export function pieceMaterial(
  uniforms: PieceUniforms,
  { sheets, uneven }: { sheets: boolean; uneven: boolean },
  follow: Follow = 'pieces',
): THREE.MeshStandardMaterial {
  const material = new THREE.MeshStandardMaterial({
    roughness: 0.88,
    metalness: 0,
    side: sheets ? THREE.DoubleSide : THREE.FrontSide,
    // A skin that lies on a solid is seen, not both in stripes.
    polygonOffset: sheets,
    polygonOffsetFactor: -1,
    polygonOffsetUnits: -2,
  });
  material.customProgramCacheKey = () => follow;
  material.onBeforeCompile = (shader) => {
    Object.assign(shader.uniforms, uniforms, {
      uPass,
      uOnly,
      uSigned,
      uViews,
      uHalf,
      uShadow,
      uShadowColour,
    });
    shader.vertexShader = shader.vertexShader
      .replace(
        '#include <common>',
        `#include <common>\n${FOLLOW[follow]}\n${TRAIL}${uneven ? REST : ''}varying float vPiece; attribute float aLook; attribute float aWeight; attribute vec2 aUv; varying vec2 vFace; varying float vLook; varying float vWeight; varying float vHover; varying float vLoose; varying float vChosen; varying float vChange; uniform float uHover;`,
      )
      .replace('#include <beginnormal_vertex>', `${MOVED} vec3 objectNormal = movedNormal(by);`)
      .replace(
        '#include <begin_vertex>',
        `${VERTEX}\n${uneven ? 'vRest = aRest;' : ''} vPiece = aPiece; vLook = aLook; vFace = aUv; vWeight = aWeight; vChange = by.change; vHover = abs(aPiece - uHover) < 0.5 ? 1.0 : 0.0; vLoose = float(by.state & ${OPEN}); vChosen = float((by.state & ${SELECTED}) / ${SELECTED});`,
      )
      .replace('#include <project_vertex>', `#include <project_vertex>\n${FOLLOW_TRAIL}`);
    shader.fragmentShader = shader.fragmentShader
      .replace(
        '#include <common>',
        `#include <common>\nuniform int uSeen; uniform vec3 uOuter; uniform vec3 uChanged; uniform float uChanges; varying float vChange; uniform vec3 uInner; uniform vec3 uBack; uniform vec3 uSide; uniform sampler2D uFace; uniform float uPainted; uniform vec3 uLayers[4]; uniform float uOpened; uniform float uRides; varying vec2 vFace; uniform float uShowWeight; uniform float uThreshold; varying float vLook; varying float vWeight; varying float vHover; varying float vLoose; varying float vChosen;\n${RAMP}\n${MATTES}\n${uneven ? UNEVEN : ''}`,
      )
      .replace(
        '#include <color_fragment>',
        /* glsl */ `
        // Before a piece lets go its fresh faces lie against its neighbours': nothing to see but hairlines. Where pieces ride on what
        // bends there are gaps, which look closed if what is seen in them is as the outside.
        bool fresh = vLook > 0.5 && vLook < 1.5;
        if (fresh && vLoose < 0.5) {
          if (uRides < 0.5) discard;
          fresh = false;
        }
        if (uSeen == ${SEEN.through} && mod(floor(gl_FragCoord.x) + floor(gl_FragCoord.y), 2.0) < 0.5) discard;
        vec4 painted = texture2D(uFace, vFace);
        // What lies along a rim looks like the rest until there is an opening.
        float layer = uOpened > 0.5 ? vLook : min(vLook, 0.0);
        vec3 outside = uPainted > 0.5 ? mix(uOuter, painted.rgb, painted.a) : uOuter;
        vec3 behind = uBack;
        if (uChanges > 0.5) {
          outside = mix(outside, uChanged, clamp(vChange, 0.0, 1.0));
          behind = mix(behind, uChanged, clamp(vChange, 0.0, 1.0));
        }
        diffuseColor.rgb = fresh ? uInner : vLook > 1.5 && vLook < 2.5 ? uSide : layer > 5.5 ? uLayers[3] : layer > 4.5 ? uLayers[2] : layer > 3.5 ? uLayers[1] : layer > 2.5 ? uLayers[0] : outside;
        // The back of a sheet without thickness. Not where a fold turns away: a triangle seen nearly edge on whose surface is bent towards
        // the eye would show as a dark speck on the crest.
        vec3 flatly = normalize(cross(dFdx(vViewPosition), dFdy(vViewPosition)));
        bool crest = dot(vNormal, vViewPosition) > 0.0 && abs(dot(flatly, normalize(vViewPosition))) < 0.3;
        bool reverse = !gl_FrontFacing && !crest;
        if (reverse) diffuseColor.rgb = behind;
        if (uShowWeight > 0.5) {
          diffuseColor.rgb = ramp(vWeight);
          float edge = abs(vWeight - uThreshold) / max(fwidth(vWeight), 1e-4);
          if (edge < 1.3 && vWeight > 0.004 && vWeight < 0.996) diffuseColor.rgb = vec3(0.356, 0.05, 0.011);
        }
        diffuseColor.rgb = mix(diffuseColor.rgb, vec3(0.012, 0.33, 0.32), 0.62 * vChosen);
        // Pale weights get no paler: what is under the pointer is tinted there.
        diffuseColor.rgb = mix(diffuseColor.rgb, uShowWeight > 0.5 ? vec3(0.012, 0.33, 0.32) : vec3(1.0), 0.35 * vHover);`,
      )
      .replace(
        '#include <normal_fragment_begin>',
        'float faceDirection = reverse ? -1.0 : 1.0; vec3 normal = normalize(vNormal) * faceDirection; vec3 nonPerturbedNormal = normal;' +
          (uneven ? 'normal = uneven(normal, fresh ? uRelief.y : uRelief.x);' : ''),
      )
      .replace('#include <shadowmap_pars_fragment>', `#include <shadowmap_pars_fragment>\n${TAKE_SHADOWS}`)
      .replace(
        '#include <opaque_fragment>',
        `if (uSeen == ${SEEN.hole}) outgoingLight = uShadowColour;\n#include <opaque_fragment>`,
      )
      .replace('#include <dithering_fragment>', `#include <dithering_fragment>\n${tell(SEEN.hole)}`);
  };
  return material;
}

export function depthMaterial(uniforms: PieceUniforms, follow: Follow = 'pieces'): THREE.MeshDepthMaterial {
  const material = new THREE.MeshDepthMaterial({ depthPacking: THREE.RGBADepthPacking });
  material.customProgramCacheKey = () => follow;
  material.onBeforeCompile = (shader) => {
    Object.assign(shader.uniforms, uniforms);
    shader.vertexShader = shader.vertexShader
      .replace('#include <common>', `#include <common>\n${FOLLOW[follow]}`)
      .replace('#include <begin_vertex>', MOVED + VERTEX);
  };
  return material;
}

/** The contour of the selected prop: its back faces, pushed out by two pixels. */
export function contourMaterial(uniforms: PieceUniforms, colour: THREE.Color): THREE.ShaderMaterial {
  return new THREE.ShaderMaterial({
    side: THREE.BackSide,
    uniforms: {
      ...uniforms,
      uColour: { value: colour },
      uPixel: { value: new THREE.Vector2(1 / 800, 1 / 600) },
    },
    vertexShader: /* glsl */ `
      ${FOLLOW.pieces}
      uniform vec2 uPixel;
      void main() {
        ${MOVED}
        ${VERTEX}
        vec4 clip = projectionMatrix * modelViewMatrix * vec4(transformed, 1.0);
        vec3 way = normalMatrix * movedNormal(by);
        float len = max(length(way.xy), 1e-4);
        clip.xy += way.xy / len * uPixel * 4.0 * clip.w;
        clip.z += 0.0006 * clip.w;
        gl_Position = clip;
      }`,
    fragmentShader:
      'uniform vec3 uColour; void main() { gl_FragColor = vec4(uColour, 1.0);\n#include <colorspace_fragment>\n}',
  });
}
