import { PLACES, TURNS } from '../tracks/codecs';
import { HIDDEN, OPEN, TEXELS, TEXTURE_WIDTH } from './numbers';

/** How corners are moved: by their piece or each by itself, as read from textures. */
export type Follow = 'pieces' | 'vertices';

/** What a vertex shader needs to know where its corner is: `moved` reads it, `movedPlace` and `movedNormal` tell it, as far `between` two frames as one looks. */
export const FOLLOW: Record<Follow, string> = {
  pieces: /* glsl */ `
    attribute float aPiece;
    uniform highp sampler2D uPoses;
    uniform highp usampler2D uPacked[2];
    uniform highp usampler2D uMarks[2];
    uniform highp sampler2D uSizes[2];
    uniform float uSized;
    uniform float uBetween;
    float between;
    struct Moved { vec3 place; vec4 turn; vec3 size; float change; int state; };
    vec4 poseTexel(int i) { return texelFetch(uPoses, ivec2(i % ${TEXTURE_WIDTH}, i / ${TEXTURE_WIDTH}), 0); }
    // A pose as it is stored: a place in steps, how far one is, a turn (docs/frames.md).
    uvec4 wordsOf(highp usampler2D from, int piece) {
      return texelFetch(from, ivec2(piece % ${TEXTURE_WIDTH}, piece / ${TEXTURE_WIDTH}), 0);
    }
    float numberOf(highp sampler2D from, int piece, int n) {
      return texelFetch(from, ivec2(3 * (piece % ${TEXTURE_WIDTH}) + n, piece / ${TEXTURE_WIDTH}), 0).r;
    }
    vec3 placeOf(uvec4 words) {
      uvec3 steps = uvec3(words.y >> 10, ((words.y & 0x3ffu) << 11) + (words.x >> 21), words.x & 0x1fffffu);
      // A single's exponent is 127 for 1.
      return (vec3(steps) - ${PLACES}.0) * (uintBitsToFloat((words.w >> 24) << 23) / 1048576.0);
    }
    // The largest of four numbers is left out.
    vec4 turnOf(uvec4 words) {
      uvec3 steps = uvec3((words.w >> 4) & 0x3ffffu, ((words.w & 0xfu) << 14) + (words.z >> 18), words.z & 0x3ffffu);
      vec3 v = (vec3(steps) - ${TURNS}.0) / (${Math.SQRT2} * ${TURNS}.0);
      float rest = sqrt(max(0.0, 1.0 - dot(v, v)));
      uint largest = (words.w >> 22) & 3u;
      return largest == 0u ? vec4(rest, v) : largest == 1u ? vec4(v.x, rest, v.yz) : largest == 2u ? vec4(v.xy, rest, v.z) : vec4(v, rest);
    }
    vec3 sizeOf(highp sampler2D from, int piece) {
      return vec3(numberOf(from, piece, 0), numberOf(from, piece, 1), numberOf(from, piece, 2));
    }
    Moved bakedPiece(int piece) {
      ivec2 at = ivec2(piece % ${TEXTURE_WIDTH}, piece / ${TEXTURE_WIDTH});
      vec4 marks = vec4(texelFetch(uMarks[0], at, 0));
      vec4 then = mix(marks, vec4(texelFetch(uMarks[1], at, 0)), between) / 255.0;
      uvec4 from = wordsOf(uPacked[0], piece);
      uvec4 to = wordsOf(uPacked[1], piece);
      vec4 turn = turnOf(from);
      vec4 next = turnOf(to);
      vec3 size = vec3(then.x);
      if (uSized > 0.5) size *= mix(sizeOf(uSizes[0], piece), sizeOf(uSizes[1], piece), between);
      bool gone = max(max(abs(size.x), abs(size.y)), abs(size.z)) < 1e-4;
      return Moved(
        mix(placeOf(from), placeOf(to), between),
        normalize(mix(turn, dot(turn, next) < 0.0 ? -next : next, between)),
        size, then.y, gone ? ${HIDDEN} : int(marks.z + 0.5) & ${OPEN});
    }
    Moved placedPiece(int piece) {
      vec4 place = poseTexel(${TEXELS} * piece);
      vec4 size = poseTexel(${TEXELS} * piece + 2);
      return Moved(place.xyz, poseTexel(${TEXELS} * piece + 1), size.xyz, size.w, int(place.w + 0.5));
    }
    Moved moved() {
      int piece = int(aPiece + 0.5);
      if (between < 0.0) return placedPiece(piece);
      return bakedPiece(piece);
    }
    vec3 turned(vec4 q, vec3 v) { return v + 2.0 * cross(q.xyz, cross(q.xyz, v) + q.w * v); }
    vec3 movedPlace(Moved by) { return turned(by.turn, position * by.size) + by.place; }
    // A normal is scaled by the inverse.
    vec3 movedNormal(Moved by) { return turned(by.turn, normalize(normal / max(by.size, vec3(1e-6)))); }
  `,
  // Places by vertex; normals by vertex and side of a crease.
  vertices: /* glsl */ `
    attribute float aPiece;
    attribute float aVertex;
    attribute float aShade;
    uniform highp usampler2D uSteps[2];
    uniform vec3 uFrom[2];
    uniform vec3 uSpan[2];
    uniform highp sampler2D uNormals[2];
    uniform highp sampler2D uChange[2];
    uniform float uBetween;
    float between;
    struct Moved { float change; int state; };
    ivec2 texelOf(float k, int numbers) {
      int i = int(k + 0.5);
      return ivec2(numbers * (i % ${TEXTURE_WIDTH}), i / ${TEXTURE_WIDTH});
    }
    vec3 placeOf(highp usampler2D from, vec3 first, vec3 span) {
      ivec2 at = texelOf(aVertex, 3);
      return first + span * vec3(texelFetch(from, at, 0).r, texelFetch(from, at + ivec2(1, 0), 0).r, texelFetch(from, at + ivec2(2, 0), 0).r);
    }
    float shareOf(highp sampler2D from) { return texelFetch(from, texelOf(aVertex, 1), 0).r; }
    vec3 normalOf(highp sampler2D from) { return texelFetch(from, texelOf(aShade, 1), 0).xyz; }
    Moved moved() { return Moved(mix(shareOf(uChange[0]), shareOf(uChange[1]), between), ${OPEN}); }
    vec3 movedPlace(Moved by) { return mix(placeOf(uSteps[0], uFrom[0], uSpan[0]), placeOf(uSteps[1], uFrom[1], uSpan[1]), between); }
    // Not of length 1 each: the larger of two counts more, and they are made so where they are used.
    vec3 movedNormal(Moved by) { return normalize(mix(normalOf(uNormals[0]), normalOf(uNormals[1]), between) + vec3(0.0, 1e-15, 0.0)); }
  `,
};

export const MOVED = 'between = uBetween; Moved by = moved();';

export const VERTEX = /* glsl */ `
  // A hidden piece shrinks to a point far below everything.
  vec3 transformed = by.state >= ${HIDDEN} ? vec3(0.0, -1.0e5, 0.0) : movedPlace(by);
`;
