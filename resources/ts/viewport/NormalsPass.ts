import * as THREE from 'three';
import type { Shading } from './deform';
import { fansOf } from './fans';
import { table } from './material';
import type { PieceMesh } from './mesh';
import { TEXTURE_WIDTH } from './numbers';

/** What is needed of a renderer. */
export type Draws = Pick<THREE.WebGLRenderer, 'getRenderTarget' | 'setRenderTarget' | 'render'>;

const SHADER = /* glsl */ `
  precision highp float;
  precision highp int;
  precision highp usampler2D;
  uniform usampler2D uSteps;
  uniform usampler2D uRuns;
  uniform usampler2D uTriangles;
  uniform vec3 uSpan;
  uniform int uCount;
  out vec4 normal;
  ivec3 threeOf(usampler2D from, int k) {
    ivec2 at = ivec2(3 * (k % ${TEXTURE_WIDTH}), k / ${TEXTURE_WIDTH});
    return ivec3(texelFetch(from, at, 0).r, texelFetch(from, at + ivec2(1, 0), 0).r, texelFetch(from, at + ivec2(2, 0), 0).r);
  }
  void main() {
    int k = int(gl_FragCoord.y) * ${TEXTURE_WIDTH} + int(gl_FragCoord.x);
    normal = vec4(0.0);
    if (k >= uCount) return;
    ivec3 run = threeOf(uRuns, k);
    ivec3 own = threeOf(uSteps, run.z);
    for (int n = run.x; n < run.x + run.y; n++) {
      ivec3 corners = threeOf(uTriangles, n);
      ivec3 at = threeOf(uSteps, corners.x);
      if (at != own) continue;
      // Differences of whole numbers are exact.
      normal.xyz += cross(vec3(threeOf(uSteps, corners.y) - at) * uSpan, vec3(threeOf(uSteps, corners.z) - at) * uSpan);
    }
  }
`;

/**
 * Normals of a bent surface, worked out on the graphics card from its places as they are stored: the sum over the triangles around,
 * the larger ones counting more; twice their areas long.
 */
export class NormalsPass {
  private readonly scene = new THREE.Scene();
  private readonly camera = new THREE.Camera();
  private readonly material: THREE.RawShaderMaterial;
  private readonly corners = new THREE.BufferGeometry();
  private readonly tables: THREE.DataTexture[];

  constructor(
    mesh: PieceMesh,
    private readonly shading: Shading,
  ) {
    const { runs, triangles } = fansOf(mesh, shading);
    this.tables = [runs, triangles].map((numbers) => {
      const texture = table(numbers.length / 3, 3, 'words');
      (texture.image.data as unknown as Uint32Array).set(numbers);
      return texture;
    });
    const [uRuns, uTriangles] = this.tables;
    this.material = new THREE.RawShaderMaterial({
      glslVersion: THREE.GLSL3,
      uniforms: {
        uSteps: { value: null },
        uRuns: { value: uRuns },
        uTriangles: { value: uTriangles },
        uSpan: { value: new THREE.Vector3() },
        uCount: { value: shading.count },
      },
      vertexShader: 'in vec3 position; void main() { gl_Position = vec4(position, 1.0); }',
      fragmentShader: SHADER,
      depthTest: false,
      depthWrite: false,
    });
    // One triangle that covers all; of three numbers a corner, as three measures it.
    this.corners.setAttribute(
      'position',
      new THREE.Float32BufferAttribute([-1, -1, 0, 3, -1, 0, -1, 3, 0], 3),
    );
    const all = new THREE.Mesh(this.corners, this.material);
    all.frustumCulled = false;
    this.scene.add(all);
  }

  /** A place for the normals of one frame. */
  target(): THREE.WebGLRenderTarget {
    return new THREE.WebGLRenderTarget(
      TEXTURE_WIDTH,
      Math.max(1, Math.ceil(this.shading.count / TEXTURE_WIDTH)),
      {
        type: THREE.FloatType,
        minFilter: THREE.NearestFilter,
        magFilter: THREE.NearestFilter,
        depthBuffer: false,
      },
    );
  }

  /** @param span how far a step is along each axis */
  draw(gl: Draws, steps: THREE.Texture, span: THREE.Vector3, into: THREE.WebGLRenderTarget): void {
    const { uSteps, uSpan } = this.material.uniforms;
    if (uSteps) uSteps.value = steps;
    if (uSpan) uSpan.value = span;
    const before = gl.getRenderTarget();
    gl.setRenderTarget(into);
    gl.render(this.scene, this.camera);
    gl.setRenderTarget(before);
  }

  read(gl: THREE.WebGLRenderer, from: THREE.WebGLRenderTarget, k: number, out: Float32Array): void {
    gl.readRenderTargetPixels(from, k % TEXTURE_WIDTH, Math.floor(k / TEXTURE_WIDTH), 1, 1, out);
  }

  dispose(): void {
    [this.material, this.corners, ...this.tables].forEach((one) => {
      one.dispose();
    });
  }
}
